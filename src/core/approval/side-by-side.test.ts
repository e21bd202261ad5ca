import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ApprovalStep } from '../form/design';
import { atSteps } from './at-step';
import { stepLetters } from '../wording/step-sentence';
import {
  advance,
  draftState,
  needed,
  openSteps,
  roundOf,
  stepsBefore,
  type PathEvent,
  type PathState,
  type Setting,
} from './path';

/** Steps that are asked at the same time, and must all be done before it goes on. */
const step = (id: string, people: string[], more: Partial<ApprovalStep> = {}): ApprovalStep => ({
  id,
  label: id.toUpperCase(),
  people,
  ...more,
});
const steps = [
  step('lead', ['lee']),
  step('health', ['ada', 'pell']),
  step('money', ['ada', 'osei'], { beside: true }),
  step('last', ['dagny']),
];
const setting: Setting = { steps, sender: 'sender', skipped: new Set() };
const go = (state: PathState, event: PathEvent, by: string, where = setting): PathState => {
  const next = advance(state, event, by, where);
  if (!next.ok) throw new Error(JSON.stringify(next.error));
  return next.value.state;
};
const approve = (at?: number): PathEvent => ({ t: 'approve', word: '', ...(at !== undefined && { at }) });
const sent = go(draftState, { t: 'send' }, 'sender');
const waits = (state: PathState) => openSteps(state).map((one) => [one.step, ...one.asked]);
const both = go(sent, approve(), 'lee');

describe('steps side by side', () => {
  it('are asked together, done in any order, and only then goes it on', () => {
    expect(waits(both)).toEqual([
      [1, 'ada', 'pell'],
      [2, 'ada', 'osei'],
    ]);
    const other = go(both, approve(), 'osei');
    expect([waits(other), other.step]).toEqual([[[1, 'ada', 'pell']], 1]);
    expect(waits(go(other, approve(), 'pell'))).toEqual([[3, 'dagny']]);
    const first = go(both, approve(), 'pell');
    expect([waits(first), first.step]).toEqual([[[2, 'ada', 'osei']], 2]);
    expect(waits(go(first, approve(), 'osei'))).toEqual([[3, 'dagny']]);
  });

  it('have a word each of whoever is asked in both, the first first', () => {
    const once = go(both, approve(), 'ada');
    expect(waits(once)).toEqual([[2, 'ada', 'osei']]);
    expect(waits(go(once, approve(), 'ada'))).toEqual([[3, 'dagny']]);
    // Whoever looked at a step that somebody else has decided meanwhile does not decide the other one by that.
    const late = advance(go(both, approve(), 'pell'), approve(1), 'ada', setting);
    expect(late.ok ? null : late.error).toMatchObject({ kind: 'stale', why: 'already-decided' });
    expect(waits(go(go(both, approve(), 'pell'), approve(2), 'ada'))).toEqual([[3, 'dagny']]);
  });

  it('are all over once one of them declines or sends back', () => {
    for (const t of ['decline', 'send-back'] as const)
      expect(waits(go(both, { t, word: 'No' }, 'osei'))).toEqual([]);
    expect(waits(go(both, { t: 'hand-over', to: 'maren', word: '' }, 'osei'))).toEqual([
      [1, 'ada', 'pell'],
      [2, 'ada', 'maren'],
    ]);
  });

  it('are sent back to an earlier step that is asked alone, and follow again', () => {
    const back = (to: number, at?: number): PathEvent => ({
      t: 'return',
      to,
      word: 'Look again',
      ...(at !== undefined && { at }),
    });
    expect(waits(go(go(both, approve(), 'pell'), back(0), 'osei'))).toEqual([[0, 'lee']]);
    const last = go(go(both, approve(), 'pell'), approve(), 'osei');
    const again = go(last, back(2), 'dagny');
    expect([waits(again), again.approved]).toEqual([[[2, 'ada', 'osei']], []]);
    expect(waits(go(again, approve(), 'ada'))).toEqual([[3, 'dagny']]);
    // Not to one beside it, after it, or that was passed over; and not without a word.
    const refused = (event: PathEvent, where = setting) => {
      const next = advance(both, event, 'osei', where);
      return next.ok || next.error.kind !== 'invalid' ? null : next.error.issues[0]?.code;
    };
    expect([1, 2, 3, 9, -1].map((to) => refused(back(to)))).toEqual(Array(5).fill('return-to-earlier'));
    expect(refused(back(0), { ...setting, skipped: new Set(['lead']) })).toBe('return-to-earlier');
    expect(refused({ t: 'return', to: 0, word: ' ' })).toBe('word-needed');
    expect(stepsBefore(steps, 2, new Set())).toEqual([0]);
  });

  it('count what was approved since they were begun the last time', () => {
    const event = (kind: string, at: number | null, byId: string, toStep?: number) => ({
      kind,
      step: at,
      byId,
      ...(toStep !== undefined && { toStep }),
    });
    const trail = [
      event('send', null, 'sender'),
      event('approve', 0, 'lee'),
      event('approve', 1, 'pell'),
      event('approve', 2, 'osei'),
      event('return', 3, 'dagny', 2),
      event('approve', 2, 'ada'),
    ];
    const { approved, approvedBefore, stays } = atSteps(trail, 2, steps);
    expect([0, 1, 2].map(approved)).toEqual([['lee'], ['pell'], ['ada']]);
    expect([[...approvedBefore].sort(), stays]).toEqual([['ada', 'lee', 'osei', 'pell'], 1]);
    const anew = atSteps([...trail, event('return', 2, 'ada', 0), event('approve', 0, 'lee')], 1, steps);
    expect([0, 1, 2].map(anew.approved)).toEqual([['lee'], [], []]);
  });

  it('are those that are asked about it: one that is passed over holds up nothing', () => {
    const without = (...ids: string[]): Setting => ({ ...setting, skipped: new Set(ids) });
    expect(waits(go(sent, approve(), 'lee', without('health')))).toEqual([[2, 'ada', 'osei']]);
    const only = go(sent, approve(), 'lee', without('money'));
    expect([waits(only), waits(go(only, approve(), 'pell', without('money')))]).toEqual([
      [[1, 'ada', 'pell']],
      [[3, 'dagny']],
    ]);
    const first = go(draftState, { t: 'send' }, 'sender', without('lead'));
    expect(waits(first)).toHaveLength(2);
  });

  it('have the same letter, and the first of all waits for none', () => {
    expect(stepLetters(steps)).toEqual(['A', 'B', 'B', 'C']);
    expect(stepLetters([step('a', [], { beside: true }), step('b', [])])).toEqual(['A', 'B']);
    expect([0, 1, 2, 3].map((at) => Object.values(roundOf(steps, at)))).toEqual([
      [0, 0],
      [1, 2],
      [1, 2],
      [3, 3],
    ]);
  });
});

const names = ['ada', 'pell', 'osei', 'lee'];
const anySteps = fc
  .array(
    fc.record({
      people: fc.uniqueArray(fc.constantFrom(...names), { minLength: 1 }),
      beside: fc.boolean(),
      decide: fc.constantFrom(undefined, 'all' as const),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((list) =>
    list.map(({ people, beside, decide }, i) =>
      step(`s${i}`, people, { ...(beside && { beside: true as const }), ...(decide && { decide }) }),
    ),
  );

describe('laws of steps side by side', () => {
  it('it waits at steps of one round alone, each is approved by as many as must, and none is left out', () => {
    fc.assert(
      fc.property(anySteps, fc.array(fc.constantFrom(...names), { maxLength: 60 }), (list, by) => {
        const where: Setting = { steps: list, sender: 'sender', skipped: new Set() };
        const given = list.map(() => new Set<string>());
        let now = go(draftState, { t: 'send' }, 'sender', where);
        for (const who of by) {
          const open = openSteps(now);
          if (open.length === 0) break;
          const rounds = new Set(open.map(({ step: at }) => roundOf(list, at).from));
          expect(rounds.size).toBe(1);
          // Whatever comes before is done, and nothing of what comes after has begun.
          const [from = 0] = rounds;
          given.forEach((ones, at) => {
            const must = needed(list[at] as ApprovalStep, list[at]?.people.length ?? 0);
            if (at < from) expect(ones.size).toBeGreaterThanOrEqual(must);
            if (at > roundOf(list, from).to) expect(ones.size).toBe(0);
          });
          const next = advance(now, approve(), who, where);
          if (!next.ok) continue;
          const at = open.find(({ asked }) => asked.includes(who));
          given[at?.step ?? -1]?.add(who);
          now = next.value.state;
        }
        if (now.state === 'kept')
          given.forEach((ones, at) =>
            expect(ones.size).toBe(needed(list[at] as ApprovalStep, list[at]?.people.length ?? 0)),
          );
      }),
    );
  });
});
