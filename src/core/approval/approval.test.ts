import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GO_ON, type ApprovalStep } from '../form/design';
import { advance, askedFor, draftState, type PathEvent, type PathState } from './path';

const steps: readonly ApprovalStep[] = [
  { id: 's1', label: 'Lead', people: ['lead', 'deputy'] },
  { id: 's2', label: 'Officer', people: ['ada', 'sender', 'pell'] },
];
const nothing: ReadonlySet<string> = new Set();
const setting = { steps, sender: 'sender', skipped: nothing };
const draft = draftState;
const go = (state: PathState, event: PathEvent, by: string, where = setting): PathState => {
  const next = advance(state, event, by, where);
  if (!next.ok) throw new Error(JSON.stringify(next.error));
  return next.value.state;
};
const refused = (state: PathState, event: PathEvent, by: string, where = setting) => {
  const next = advance(state, event, by, where);
  return next.ok ? null : { kind: next.error.kind, ...('why' in next.error && { why: next.error.why }) };
};
const people = ['sender', 'lead', 'deputy', 'ada', 'pell', 'stranger'];
const approve: PathEvent = { t: 'approve', word: '' };

describe('the path of a submission', () => {
  const sent = go(draft, { t: 'send' }, 'sender');

  it('asks step by step, and keeps the rows after the last', () => {
    expect(sent).toEqual({ state: 'waiting', step: 0, asked: ['lead', 'deputy'], approved: [], beside: [] });
    const second = go(sent, approve, 'deputy');
    expect(second).toEqual({ state: 'waiting', step: 1, asked: ['ada', 'pell'], approved: [], beside: [] });
    const end = advance(second, approve, 'ada', setting);
    expect(end.ok && end.value).toEqual({
      state: { state: 'kept', step: null, asked: [], approved: [], beside: [] },
      effects: [{ t: 'keep-rows' }],
    });
  });

  it('is not begun when a later step could ask nobody, and says which', () => {
    const later = [steps[0]!, { id: 's9', label: 'Second look', people: ['sender'] }];
    const next = advance(draft, { t: 'send' }, 'sender', {
      steps: later,
      sender: 'sender',
      skipped: nothing,
    });
    expect(next.ok ? null : next.error).toMatchObject({
      issues: [{ code: 'nobody-to-ask', path: ['steps', 's9'], facts: { step: 'Second look', own: true } }],
    });
    // Had it been sent before, the approver is not told that they are the sender.
    const approved = advance(sent, approve, 'lead', { steps: later, sender: 'sender', skipped: nothing });
    expect(approved.ok ? null : approved.error).toMatchObject({
      issues: [{ code: 'nobody-to-ask', facts: { own: false } }],
    });
  });

  it('asks everybody once, however often they are named', () =>
    expect(askedFor({ id: 's', label: 'S', people: ['ada', 'pell', 'ada'] }, 'pell')).toEqual(['ada']));

  it('asks whoever it names for that where nobody else can be, and they decide alone', () => {
    const step = { id: 's', label: 'S', people: [], fallback: 'ada', decide: 2 };
    expect(askedFor(step, 'pell')).toEqual(['ada']);
    expect(askedFor({ ...step, people: ['pell'] }, 'pell')).toEqual(['ada']);
    expect(askedFor({ ...step, people: ['lead'] }, 'pell')).toEqual(['lead']);
    // Nobody approves their own, in this guise too.
    expect(askedFor(step, 'ada')).toEqual([]);
    const setting = { steps: [step], sender: 'pell', skipped: nothing };
    const waiting = go(draft, { t: 'send' }, 'pell', setting);
    expect(waiting).toMatchObject({ state: 'waiting', asked: ['ada'] });
    expect(go(waiting, approve, 'ada', setting).state).toBe('kept');
  });

  it('does not ask again where all it would ask have approved before, and is so designed', () => {
    const again = (...people: string[]) => ({
      id: 's2',
      label: 'Again',
      people,
      unlessApproved: true as const,
    });
    const first = { id: 's1', label: 'First', people: ['lead', 'pell'] };
    const walk = (second: object) => {
      const setting = { steps: [first, second as typeof first], sender: 'sender', skipped: nothing };
      return go(go(draft, { t: 'send' }, 'sender', setting), approve, 'lead', setting);
    };
    expect(walk(again('lead')).state).toBe('kept');
    expect(walk(again('lead', 'pell'))).toMatchObject({ state: 'waiting', step: 1, asked: ['lead', 'pell'] });
    expect(walk({ ...again('lead'), unlessApproved: undefined })).toMatchObject({ step: 1, asked: ['lead'] });
    // The sender is not asked, so nobody waits for them.
    expect(walk(again('lead', 'sender')).state).toBe('kept');
  });

  it('without steps keeps the rows at once', () =>
    expect(go(draft, { t: 'send' }, 'sender', { steps: [], sender: 'sender', skipped: nothing }).state).toBe(
      'kept',
    ));

  it('goes back to the sender and begins again at the first step', () => {
    const back = go(go(sent, approve, 'lead'), { t: 'send-back', word: 'Which bed?' }, 'pell');
    expect(back).toEqual({ state: 'sent-back', step: null, asked: [], approved: [], beside: [] });
    expect(go(back, { t: 'send' }, 'sender')).toEqual(sent);
  });

  it('wants a word to send back or decline, none to approve', () => {
    expect(refused(sent, { t: 'decline', word: ' ' }, 'lead')).toEqual({ kind: 'invalid' });
    expect(refused(sent, { t: 'send-back', word: '' }, 'lead')).toEqual({ kind: 'invalid' });
    expect(go(sent, { t: 'decline', word: 'Not needed' }, 'lead').state).toBe('declined');
  });

  it('says what is missing at its place, and in which state it has come too late', () => {
    const error = (state: PathState, event: PathEvent, by: string) => {
      const next = advance(state, event, by, setting);
      return next.ok ? null : next.error;
    };
    expect(error(sent, { t: 'decline', word: ' ' }, 'lead')).toEqual({
      kind: 'invalid',
      issues: [{ code: 'word-needed', path: ['word'], facts: { decision: 'decline' } }],
    });
    const kept: PathState = { state: 'kept', step: null, asked: [], approved: [], beside: [] };
    for (const [state, event, by, why] of [
      [kept, { t: 'send' }, 'sender', 'already-sent'],
      [kept, { t: 'withdraw' }, 'sender', 'not-waiting'],
      [draft, { t: 'withdraw' }, 'sender', 'not-waiting'],
      [{ ...kept, step: 0, asked: ['lead'] }, approve, 'lead', 'already-decided'],
      [{ ...sent, step: null }, approve, 'lead', 'already-decided'],
    ] as const)
      expect(error(state, event, by)).toEqual({ kind: 'stale', why, facts: { state: state.state } });
    expect(error(sent, { t: 'withdraw' }, 'lead')).toEqual({ kind: 'forbidden', why: 'own-only' });
  });

  it('ends with nobody asked and nothing to do when it is withdrawn, sent back or declined', () => {
    const end = (event: PathEvent, by: string, from = sent) => advance(from, event, by, setting);
    const sentBack = end({ t: 'send-back', word: 'w' }, 'lead');
    for (const [next, state] of [
      [end({ t: 'withdraw' }, 'sender'), 'withdrawn'],
      [end({ t: 'decline', word: 'w' }, 'lead'), 'declined'],
      [sentBack, 'sent-back'],
      [
        end({ t: 'withdraw' }, 'sender', {
          state: 'sent-back',
          step: null,
          asked: [],
          approved: [],
          beside: [],
        }),
        'withdrawn',
      ],
    ] as const)
      expect(next).toEqual({
        ok: true,
        value: { state: { state, step: null, asked: [], approved: [], beside: [] }, effects: [] },
      });
  });

  it('asks the people of a step as an effect, and looks only at the steps to come', () => {
    const own = [{ id: 's0', label: 'Own', people: ['sender'] }, steps[0]!, steps[1]!];
    const next = advance(
      { state: 'waiting', step: 0, asked: ['lead'], approved: [], beside: [] },
      approve,
      'lead',
      {
        steps: own,
        sender: 'sender',
        skipped: nothing,
      },
    );
    expect(next).toEqual({
      ok: true,
      value: {
        state: { state: 'waiting', step: 1, asked: ['lead', 'deputy'], approved: [], beside: [] },
        effects: [{ t: 'ask', step: 1, people: ['lead', 'deputy'] }],
      },
    });
  });

  it('lets only those asked decide, and nobody their own', () => {
    expect(refused(sent, approve, 'ada')).toEqual({ kind: 'forbidden', why: 'not-asked' });
    expect(refused({ ...sent, step: 1, asked: ['sender'] }, approve, 'sender')).toEqual({
      kind: 'forbidden',
      why: 'own-submission',
    });
    expect(askedFor(steps[1]!, 'sender')).toEqual(['ada', 'pell']);
    expect(
      refused(draft, { t: 'send' }, 'lead', {
        steps: [{ id: 's', label: 'Only me', people: ['lead'] }],
        sender: 'lead',
        skipped: nothing,
      }),
    ).toEqual({ kind: 'invalid' });
  });

  it('counts one decision only', () => {
    const kept = go(go(sent, approve, 'lead'), approve, 'ada');
    expect(refused(kept, approve, 'pell')).toEqual({ kind: 'stale', why: 'already-decided' });
    expect(refused(kept, { t: 'send' }, 'sender')).toEqual({ kind: 'stale', why: 'already-sent' });
    expect(refused(kept, { t: 'withdraw' }, 'sender')).toEqual({ kind: 'stale', why: 'not-waiting' });
  });

  describe('where one approval is not enough', () => {
    const people = ['ada', 'lead', 'deputy', 'sender'];
    const of = (decide: 'all' | number) => ({
      steps: [{ ...steps[0]!, people, decide }, steps[1]!],
      sender: 'sender',
      skipped: nothing,
    });

    it('waits for the others, and for all of them where all must', () => {
      const two = of(2);
      const first = go(go(draft, { t: 'send' }, 'sender', two), approve, 'lead', two);
      expect(first).toEqual({
        state: 'waiting',
        step: 0,
        asked: ['ada', 'deputy'],
        approved: ['lead'],
        beside: [],
      });
      expect(refused(first, approve, 'lead', two)).toEqual({ kind: 'forbidden', why: 'not-asked' });
      expect(go(first, approve, 'ada', two)).toMatchObject({ step: 1, approved: [], beside: [] });
      const all = of('all');
      let state = go(draft, { t: 'send' }, 'sender', all);
      for (const by of ['deputy', 'ada']) state = go(state, approve, by, all);
      expect(state).toMatchObject({ step: 0, asked: ['lead'], approved: ['deputy', 'ada'] });
      expect(go(state, approve, 'lead', all)).toMatchObject({ step: 1 });
    });

    it('is decided by one who declines or sends it back', () => {
      const first = go(go(draft, { t: 'send' }, 'sender', of('all')), approve, 'lead', of('all'));
      for (const [t, state] of [
        ['decline', 'declined'],
        ['send-back', 'sent-back'],
      ] as const)
        expect(go(first, { t, word: 'No' }, 'ada', of('all'))).toEqual({
          state,
          step: null,
          asked: [],
          approved: [],
          beside: [],
        });
    });

    it('is not begun where fewer could approve than must', () => {
      const next = advance(draft, { t: 'send' }, 'sender', of(4));
      expect(next.ok ? null : next.error).toMatchObject({
        issues: [
          { code: 'too-few-to-ask', path: ['steps', 's1'], facts: { wanted: 4, found: 3, own: true } },
        ],
      });
    });

    it('goes on where nobody is left who could', () => {
      const left: PathState = { state: 'waiting', step: 0, asked: ['ada'], approved: ['lead'], beside: [] };
      expect(go(left, approve, 'ada', of(3))).toMatchObject({ step: 1 });
    });
  });

  describe('where somebody else acts', () => {
    const handTo = (to: string) => ({ t: 'hand-over', to, word: '' }) as const;
    const stands = (...ids: string[]) => ({ ...setting, standsInFor: new Set(ids) });

    it('is decided by whoever stands in, once, and never by its sender', () => {
      expect(refused(sent, approve, 'pell')).toEqual({ kind: 'forbidden', why: 'not-asked' });
      expect(go(sent, approve, 'pell', stands('lead'))).toMatchObject({ step: 1 });
      expect(refused(sent, approve, 'sender', stands('lead'))).toEqual({
        kind: 'forbidden',
        why: 'own-submission',
      });
      const both = {
        ...stands('lead', 'deputy'),
        steps: [{ ...steps[0]!, decide: 'all' as const }, steps[1]!],
      };
      const once = go(sent, approve, 'pell', both);
      expect(once).toMatchObject({ step: 0, asked: ['deputy'], approved: ['pell'] });
      expect(refused(once, approve, 'pell', both)).toEqual({ kind: 'forbidden', why: 'not-asked' });
    });

    it('is handed over to another, who is asked instead', () => {
      const handed = go(sent, handTo('wren'), 'lead');
      expect(handed).toEqual({
        state: 'waiting',
        step: 0,
        asked: ['deputy', 'wren'],
        approved: [],
        beside: [],
      });
      expect(refused(handed, approve, 'lead')).toEqual({ kind: 'forbidden', why: 'not-asked' });
      expect(go(handed, approve, 'wren')).toMatchObject({ step: 1 });
      expect(go(handed, handTo('lead'), 'wren')).toMatchObject({ asked: ['deputy', 'lead'] });
      for (const [to, code] of [
        ['sender', 'hand-over-to-sender'],
        ['deputy', 'hand-over-to-asked'],
      ] as const) {
        const next = advance(sent, handTo(to), 'lead', setting);
        expect(next.ok ? null : next.error).toMatchObject({ issues: [{ code, path: ['to'] }] });
      }
      const two = { ...setting, steps: [{ ...steps[0]!, decide: 'all' as const }, steps[1]!] };
      const approved = go(sent, approve, 'lead', two);
      const again = advance(approved, handTo('lead'), 'deputy', two);
      expect(again.ok ? null : again.error).toMatchObject({ issues: [{ code: 'hand-over-to-asked' }] });
    });
  });

  it('passes over what is not asked about it, and is kept where nothing is', () => {
    const without = (...ids: string[]) => ({ ...setting, skipped: new Set(ids) });
    expect(go(draft, { t: 'send' }, 'sender', without('s1'))).toMatchObject({
      step: 1,
      asked: ['ada', 'pell'],
    });
    expect(go(sent, approve, 'lead', without('s2')).state).toBe('kept');
    expect(go(draft, { t: 'send' }, 'sender', without('s1', 's2')).state).toBe('kept');
    // Nobody need be found for a step that is not asked.
    const alone = { ...without('s9'), steps: [steps[0]!, { id: 's9', label: 'Own', people: ['sender'] }] };
    expect(go(draft, { t: 'send' }, 'sender', alone).step).toBe(0);
  });

  it('goes on without a step that is late, where that says so, and is kept where it was the last', () => {
    const letting = { ...setting, steps: steps.map((step) => ({ ...step, late: GO_ON })) };
    const second = go(sent, { t: 'lapse', from: 0 }, 'sender', letting);
    expect(second).toMatchObject({ state: 'waiting', step: 1, asked: ['ada', 'pell'] });
    expect(go(second, { t: 'lapse', from: 1 }, 'sender', letting).state).toBe('kept');
    // Neither a step it does not wait at, nor one that is waited for.
    for (const [from, where] of [
      [1, letting],
      [0, setting],
    ] as const)
      expect(refused(sent, { t: 'lapse', from }, 'sender', where)).toMatchObject({ kind: 'stale' });
    // Nobody may decide the next: it stays for those who are late.
    const alone = { ...letting, steps: [letting.steps[0]!, { ...letting.steps[1]!, people: ['sender'] }] };
    expect(refused(sent, { t: 'lapse', from: 0 }, 'sender', alone)).toMatchObject({ kind: 'invalid' });
  });

  it('may be taken back by its sender alone', () => {
    expect(go(sent, { t: 'withdraw' }, 'sender').state).toBe('withdrawn');
    expect(refused(sent, { t: 'withdraw' }, 'lead')).toEqual({ kind: 'forbidden', why: 'own-only' });
  });

  it.each([undefined, 'all', 2] as const)(
    'law: whatever is tried, it waits for somebody exactly while it waits, and an end is an end (%s)',
    (decide) => {
      const where = {
        ...setting,
        steps: steps.map((step, i) => ({ ...step, decide, ...(i === 0 && { late: GO_ON }) })),
        standsInFor: new Set(['lead', 'ada']),
      };
      const event = fc.oneof(
        fc.constantFrom<PathEvent>({ t: 'send' }, { t: 'withdraw' }),
        fc.record({
          t: fc.constantFrom('approve' as const, 'send-back' as const, 'decline' as const),
          word: fc.constantFrom('', 'word'),
        }),
        fc.record({
          t: fc.constant('return' as const),
          to: fc.integer({ min: -1, max: 2 }),
          word: fc.constantFrom('', 'word'),
        }),
        fc.record({
          t: fc.constant('hand-over' as const),
          to: fc.constantFrom(...people),
          word: fc.constant(''),
        }),
        fc.record({
          t: fc.constant('move' as const),
          from: fc.integer({ min: 0, max: 2 }),
          to: fc.integer({ min: -1, max: 2 }),
          person: fc.constantFrom(...people),
          word: fc.constantFrom('', 'word'),
        }),
        fc.record({ t: fc.constant('lapse' as const), from: fc.integer({ min: 0, max: 2 }) }),
      );
      fc.assert(
        fc.property(
          fc.array(fc.tuple(event, fc.constantFrom(...people)), {
            maxLength: 20,
          }),
          (tries) => {
            let state = draft;
            for (const [what, by] of tries) {
              const next = advance(state, what, by, where);
              if (!next.ok) continue;
              expect(['kept', 'declined', 'withdrawn']).not.toContain(state.state);
              state = next.value.state;
              expect(state.asked.length > 0).toBe(state.state === 'waiting');
              for (const group of [state.asked, state.approved]) {
                expect(group).not.toContain('sender');
                expect(new Set(group).size).toBe(group.length);
              }
              expect(next.value.effects.some(({ t }) => t === 'keep-rows')).toBe(state.state === 'kept');
            }
          },
        ),
      );
    },
  );
});
