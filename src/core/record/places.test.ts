import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { placeOf, placesOf, pressedSort, readSorts, sortText, type Sort } from './places';

const column = (key: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id: `c${key}`,
  key,
  label: key.toUpperCase(),
  ...more,
});
const table = (key: string, columns: Column[], parent: string | null = null): Table => ({
  ...plainTable,
  id: key,
  key,
  label: key,
  prefix: 'X',
  columns,
  parent,
});
const houses = table('houses', [column('head')]);
const beds = table('beds', [column('section'), column('house', { kind: 'reference', target: 'houses' })]);
const plants = table('plants', [
  column('name', { required: true }),
  column('bed', { kind: 'reference', target: 'beds' }),
]);
const moves = table('moves', [column('many', { kind: 'whole' }), column('why')], 'plants');
const tables = new Map([houses, beds, plants, moves].map((one) => [one.id, one]));

describe('what can be shown of a record', () => {
  it('is its columns, what its rows come to, its stamps, and what is reached in two steps', () => {
    expect(placesOf(plants, tables).map(({ text, label }) => `${text} = ${label}`)).toEqual([
      'name = NAME',
      'bed = BED',
      'count(moves) = How many moves',
      'sum(moves.many) = moves › MANY, all together',
      'created_at = Made on',
      'updated_at = Changed on',
      'bed.section = BED › SECTION',
      'bed.house = BED › HOUSE',
      'bed.house.head = BED › HOUSE › HEAD',
    ]);
    expect(placesOf(moves, tables).map(({ text }) => text)).toContain('position');
  });

  it('is nothing of a table that is not seen', () => {
    const seen = new Map([...tables].filter(([id]) => id !== 'houses'));
    expect(placeOf(plants, seen, 'bed.section')?.column).toMatchObject({
      id: 'bed.section',
      required: false,
    });
    expect(placeOf(plants, seen, 'bed.house.head')).toBeNull();
    expect(placeOf(plants, new Map([['plants', plants]]), 'count(moves)')).toBeNull();
    expect(placeOf(plants, seen, 'number')?.label).toBe('Number');
    expect(placeOf(plants, seen, 'nothing')).toBeNull();
  });

  it('does not go round in circles', () => {
    const people = table('people', [column('boss', { kind: 'reference', target: 'people' })]);
    expect(placesOf(people, new Map([['people', people]])).map(({ text }) => text)).toEqual([
      'boss',
      'created_at',
      'updated_at',
      'boss.boss',
      'boss.boss.boss',
    ]);
  });
});

describe('an order', () => {
  const sort = fc.record({ by: fc.stringMatching(/^[a-z][a-z.]{0,8}$/), descending: fc.boolean() });
  it('is read back as it was said', () => {
    fc.assert(
      fc.property(fc.array(sort), (sorts) => {
        expect(readSorts(sortText(sorts))).toEqual(sorts);
      }),
    );
    expect(readSorts(' -a , b,,')).toEqual([
      { by: 'a', descending: true },
      { by: 'b', descending: false },
    ]);
  });

  it('is turned by pressing a heading again; with Shift others stay, and it goes at last', () => {
    const press = (sorts: Sort[], by: string, also = false) => sortText(pressedSort(sorts, by, also));
    expect(press([], 'a')).toBe('a');
    expect(press(readSorts('a'), 'a')).toBe('-a');
    expect(press(readSorts('-a'), 'a')).toBe('a');
    expect(press(readSorts('a,b'), 'a')).toBe('a');
    expect(press(readSorts('a'), 'b', true)).toBe('a,b');
    expect(press(readSorts('a,b'), 'b', true)).toBe('a,-b');
    expect(press(readSorts('a,-b'), 'b', true)).toBe('a');
    expect(press(readSorts('-a'), 'a', true)).toBe('a');
    expect(press(readSorts('a,b,c'), 'd', true)).toBe('a,b,c');
  });
});
