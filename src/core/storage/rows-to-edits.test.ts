import { describe, expect, it } from 'vitest';
import { changesOf, type PlacedRow } from './rows-to-edits';
import type { RowToWrite } from './rows-to-write';

const row = (id: string | undefined, n: string, more: Record<string, string | null> = {}): RowToWrite => ({
  table: 'lines',
  values: new Map(Object.entries({ n, ...more })),
  rows: [],
  ...(id !== undefined && { row: id }),
});
const whole = (values: Record<string, string | null>, ...rows: RowToWrite[]): RowToWrite => ({
  table: 'requests',
  values: new Map(Object.entries(values)),
  rows,
});
const kept = (id: string, position: number, n: string): PlacedRow => ({
  id,
  version: 7,
  position,
  values: { n, x: null },
});
const stored = {
  version: 3,
  values: { bed: 'G4', area: '18.50', other: 'kept' },
  rows: new Map([['lines', [kept('a', 1, '1'), kept('b', 2, '2'), kept('c', 5, '3')]]]),
};
const was = whole({ bed: 'G4', area: '18.50' }, row('a', '1'), row('b', '2'), row('c', '3'));
const edits = (now: RowToWrite, before = was) => {
  let count = 0;
  return changesOf(now, { record: 'R', stored, was: before }, () => `new${++count}`);
};

describe('what a sheet changes in its record', () => {
  it('is nothing where nothing was changed, whatever the form would write anew by now', () => {
    expect(edits(was).edits).toEqual([]);
    // The area follows from a record that has changed since: nobody touched it here.
    const later = { bed: 'G4', area: '20.00' };
    const now = whole(later, row('a', '1'), row('b', '2'), row('c', '3'));
    expect(edits(now, whole(later, ...was.rows)).edits).toEqual([]);
  });

  it('is what was changed, with what stood there; a row that is as it was is left alone', () => {
    const { edits: found, origins } = edits(
      whole({ bed: 'G5', area: '18.50' }, row('a', '1'), row('b', '9', { x: 'seen' }), row('c', '3')),
    );
    expect(found).toEqual([
      { t: 'change', table: 'requests', id: 'R', version: 3, before: { bed: 'G4' }, values: { bed: 'G5' } },
      {
        t: 'change',
        table: 'lines',
        id: 'b',
        version: 7,
        before: { n: '2', x: null },
        values: { n: '9', x: 'seen' },
      },
    ]);
    expect(origins.get('b')).toEqual({ table: 'lines', row: 'b' });
    expect(origins.get('R')).toEqual({ table: 'requests', row: null });
  });

  it('adds, removes and moves rows, and moves no more of them than it must', () => {
    const { edits: found, origins } = edits(
      whole({ bed: 'G4', area: '18.50' }, row('fresh', '8'), row('c', '3'), row('a', '1')),
    );
    expect(found).toEqual([
      {
        t: 'add',
        table: 'lines',
        id: 'new1',
        number: null,
        parent: { id: 'R', position: 1 },
        values: { n: '8' },
      },
      { t: 'change', table: 'lines', id: 'a', version: 7, before: {}, values: {}, position: 6 },
      { t: 'remove', table: 'lines', id: 'b', version: 7 },
    ]);
    expect(origins.get('new1')).toEqual({ table: 'lines', row: 'fresh' });
    expect(origins.get('a')).toEqual({ table: 'lines', row: 'a' });
  });

  it('takes a row that names no record of it, and one that is there twice, for new ones', () => {
    const { edits: found } = edits(
      whole({ bed: 'G4' }, row('a', '1'), row('b', '2'), row('c', '3'), row('a', '1')),
    );
    expect(found).toMatchObject([{ t: 'add', id: 'new1', parent: { position: 6 } }]);
  });
});
