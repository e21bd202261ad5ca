import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inverse, sheetHistory, type SheetEdit } from './sheet-edit';

const typed = (place: string, before: string, after: string): SheetEdit => ({
  t: 'answer',
  place: [place],
  before,
  after,
});
const added = (at: number): SheetEdit => ({ t: 'insert', group: 'g', at, row: { id: `r${at}`, cells: {} } });
const edit: fc.Arbitrary<SheetEdit> = fc.oneof(
  fc.record({
    t: fc.constant('answer' as const),
    place: fc.constantFrom<[string]>(['a'], ['b']),
    before: fc.string(),
    after: fc.string(),
  }),
  fc.record({
    t: fc.constant('move' as const),
    group: fc.constant('g'),
    row: fc.constant('r'),
    from: fc.nat(5),
    to: fc.nat(5),
  }),
  fc.record({
    t: fc.constant('reason' as const),
    check: fc.constantFrom('c', 'd'),
    before: fc.string(),
    after: fc.string(),
  }),
  fc.nat(5).map(added),
);

describe('an edit of a sheet', () => {
  it('turned round twice is itself', () => {
    fc.assert(
      fc.property(edit, (one) => {
        expect(inverse(inverse(one))).toEqual(one);
      }),
    );
  });

  it('of several made at once is taken back last first, and done again first first', () => {
    const history = sheetHistory();
    history.did([added(0), added(1)]);
    expect(history.undo()).toEqual([inverse(added(1)), inverse(added(0))]);
    expect([history.canUndo, history.canRedo, history.redo(), history.redo()]).toEqual([
      false,
      true,
      [added(0), added(1)],
      [],
    ]);
  });
});

describe('the history of a sheet', () => {
  it('takes what is typed in one place as one step, until the place is left', () => {
    const history = sheetHistory();
    history.did([typed('a', '', 'F')]);
    history.did([typed('a', 'F', 'Fe')]);
    history.pause();
    history.did([typed('a', 'Fe', 'Fern')]);
    history.did([typed('b', '', 'x')]);
    expect([history.undo(), history.undo(), history.undo(), history.undo()]).toEqual([
      [typed('b', 'x', '')],
      [typed('a', 'Fern', 'Fe')],
      [typed('a', 'Fe', '')],
      [],
    ]);
  });

  it('goes back and forth through the same steps, and forgets what was undone once something else is done', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(edit, fc.constantFrom('undo' as const, 'redo' as const)), { maxLength: 40 }),
        (moves) => {
          const history = sheetHistory();
          let [done, undone]: [SheetEdit[], SheetEdit[]] = [[], []];
          for (const move of moves) {
            if (move === 'undo') {
              const last = done.pop();
              expect(history.undo()).toEqual(last === undefined ? [] : [inverse(last)]);
              if (last !== undefined) undone.push(last);
            } else if (move === 'redo') {
              const next = undone.pop();
              expect(history.redo()).toEqual(next === undefined ? [] : [next]);
              if (next !== undefined) done.push(next);
            } else {
              history.pause();
              history.did([move]);
              [done, undone] = [[...done, move], []];
            }
            expect([history.canUndo, history.canRedo]).toEqual([done.length > 0, undone.length > 0]);
          }
        },
      ),
    );
  });

  it('keeps no more than anyone goes back', () => {
    const history = sheetHistory();
    for (let i = 0; i < 600; i++) history.did([added(i)]);
    let steps = 0;
    while (history.undo().length > 0) steps++;
    expect(steps).toBe(500);
  });
});
