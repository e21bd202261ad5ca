import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { columnKinds, plainColumn, plainTable, type Column } from '../table/model';
import { erasable, Erased, erasedValue, keptUntil, personalColumns } from './erased';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  ...more,
});

describe('a duty to keep', () => {
  const duty = { years: 10, why: 'the tax code' };
  it('holds until the day of as many years later, and no longer', () => {
    expect(keptUntil(null, '2026-12-02', '2026-12-02')).toBeNull();
    expect(keptUntil(duty, '2026-12-02', '2026-12-02')).toBe('2036-12-02');
    expect(keptUntil(duty, '2026-12-02', '2036-12-01')).toBe('2036-12-02');
    expect(keptUntil(duty, '2026-12-02', '2036-12-02')).toBeNull();
  });
  it('knows years without a 29 February', () => {
    expect(keptUntil({ ...duty, years: 1 }, '2024-02-29', '2024-03-01')).toBe('2025-02-28');
    expect(keptUntil({ ...duty, years: 4 }, '2024-02-29', '2024-03-01')).toBe('2028-02-29');
  });
});

describe('what is erased', () => {
  const table = {
    ...plainTable,
    columns: [
      column('name', { personal: 'name' }),
      column('note'),
      column('bed', { kind: 'reference' }),
      column('hello', { personal: 'name', formula: '"Dear " + name' }),
    ],
    retired: [column('fax', { personal: 'phone', kind: 'phone' })],
  };
  it('is what is marked and stands in the table, retired or not; more of it can be chosen', () => {
    expect(personalColumns(table).map(({ id }) => id)).toEqual(['name', 'fax']);
    expect(erasable(table).map(({ id }) => id)).toEqual(['name', 'note', 'fax']);
  });
  it('leaves nothing where nothing may stand, and else a word that no two records share', () => {
    for (const kind of columnKinds) expect(erasedValue({ kind, required: false }, 'A-1')).toBeNull();
    const left = (number: string) =>
      columnKinds
        .map((kind) => erasedValue({ kind, required: true }, number))
        .filter((one) => one !== 'cannot');
    expect(left('A-1')).toEqual([
      'erased A-1',
      'erased-a-1@erased.invalid',
      'https://erased.invalid/a-1',
      'erased A-1',
    ]);
    expect(left('A-2').some((one) => left('A-1').includes(one))).toBe(false);
  });
  it('is gone from whatever is kept as JSON, and all else stays as it was', () => {
    const erased = new Erased(['name'], ['Ada Greenleaf', 'no', null]);
    expect(
      erased.in({
        values: { name: 'Ada G.', note: 'Ada Greenleaf', short: 'no', wild: true },
        rows: { lines: [{ id: 'r1', cells: { name: 'Bo', other: 'Ada Greenleaf the younger' } }] },
        reasons: {},
      }),
    ).toEqual({
      values: { name: null, note: null, short: 'no', wild: true },
      rows: { lines: [{ id: 'r1', cells: { name: null, other: 'Ada Greenleaf the younger' } }] },
      reasons: {},
    });
    fc.assert(
      fc.property(fc.jsonValue(), fc.string({ minLength: 3 }), (kept, value) => {
        const once = new Erased([], [value]).in(kept);
        expect(JSON.stringify(once)).not.toContain(`:${JSON.stringify(value)}`);
        expect(new Erased([], [value]).in(once)).toEqual(once);
        expect(new Erased([], []).in(kept)).toEqual(kept);
      }),
    );
  });
});
