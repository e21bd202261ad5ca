import { describe, expect, it } from 'vitest';
import type { ApprovalStep } from '../form/design';
import { advance, draftState as draft, type PathEvent, type PathState, type Setting } from './path';

const setting: Setting = {
  steps: [
    { id: 's1', label: 'Lead', people: ['lead', 'deputy'] },
    { id: 's2', label: 'Officer', people: ['ada', 'sender', 'pell'] },
  ],
  sender: 'sender',
  skipped: new Set(),
};
const go = (state: PathState, event: PathEvent, by: string, where = setting): PathState => {
  const next = advance(state, event, by, where);
  if (!next.ok) throw new Error(JSON.stringify(next.error));
  return next.value.state;
};
const approve: PathEvent = { t: 'approve', word: '' };

describe('what waits', () => {
  const sent = go(draft, { t: 'send' }, 'sender');

  it('goes on without one who declines where that counts as one against, until too few are left', () => {
    const decline: PathEvent = { t: 'decline', word: 'No' };
    const three = { id: 's1', label: 'Three', people: ['ada', 'pell', 'ruo'], declines: 'against' as const };
    const where = (more: Partial<ApprovalStep>): Setting => ({ ...setting, steps: [{ ...three, ...more }] });
    const begun = (more: Partial<ApprovalStep>) => go(draft, { t: 'send' }, 'sender', where(more));
    // Any one approves: all must decline.
    const one = go(begun({}), decline, 'ada', where({}));
    expect([one.state, one.asked, one.against]).toEqual(['waiting', ['pell', 'ruo'], ['ada']]);
    expect(go(one, approve, 'ruo', where({})).state).toBe('kept');
    const last = go(go(one, decline, 'pell', where({})), decline, 'ruo', where({}));
    expect(last.state).toBe('declined');
    // Two of three: the second who declines ends it, whatever was approved.
    const two = go(begun({ decide: 2 }), approve, 'ada', where({ decide: 2 }));
    const left = go(two, decline, 'pell', where({ decide: 2 }));
    expect([left.state, left.asked]).toEqual(['waiting', ['ruo']]);
    expect(go(left, approve, 'ruo', where({ decide: 2 })).state).toBe('kept');
    expect(go(left, decline, 'ruo', where({ decide: 2 })).state).toBe('declined');
    expect(go(begun({ decide: 'all' }), decline, 'ada', where({ decide: 'all' })).state).toBe('declined');
    expect(go(begun({ declines: undefined }), decline, 'ada', where({ declines: undefined })).state).toBe(
      'declined',
    );
    // Whoever has declined has had their word, also in somebody's place.
    const standing = { ...where({}), standsInFor: new Set(['ruo']) };
    expect(advance(one, approve, 'ada', standing)).toMatchObject({ ok: false, error: { why: 'not-asked' } });
    expect(advance(one, { t: 'hand-over', to: 'ada', word: '' }, 'pell', standing)).toMatchObject({
      error: { issues: [{ code: 'hand-over-to-asked' }] },
    });
  });

  it('is moved to whom an administrator says, at its step or at another one alone', () => {
    const move = (to: number, person: string, word = 'Because'): PathEvent => ({
      t: 'move',
      from: 0,
      to,
      person,
      word,
    });
    const there = go(sent, move(0, 'ruo'), 'wren');
    expect([there.step, there.asked]).toEqual([0, ['ruo']]);
    // Whoever is asked alone already is not asked anew: their time would begin once more for nothing.
    expect(advance(there, move(0, 'ruo'), 'wren', setting)).toMatchObject({
      error: { issues: [{ code: 'hand-over-to-asked' }] },
    });
    expect(go(there, approve, 'ruo').step).toBe(1);
    const further = go(sent, move(1, 'ruo'), 'wren');
    expect([further.step, further.asked, further.beside]).toEqual([1, ['ruo'], []]);
    expect(go(further, approve, 'ruo').state).toBe('kept');
    const why = (event: PathEvent): string | undefined => {
      const next = advance(sent, event, 'wren', setting);
      if (next.ok) return 'moved';
      return next.error.kind === 'invalid' ? next.error.issues[0]?.code : next.error.kind;
    };
    expect([
      why(move(0, 'sender')),
      why(move(0, 'wren')),
      why(move(7, 'ruo')),
      why(move(0, 'ruo', ' ')),
      why({ ...move(0, 'ruo'), from: 1 } as PathEvent),
    ]).toEqual(['hand-over-to-sender', 'move-to-oneself', 'move-to-no-step', 'word-needed', 'stale']);
  });
});
