import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pickedText } from '../check/pick-text';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { niceStep, periodCount, rangeCount, unusedChoices, valueCount } from './facet-counts';
import { isChosen, toggled } from './facets';
import { filterables, readFilter } from './filter';
import { tableScope } from './table-scope';

const column = (key: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id: `c${key}`,
  key,
  label: key.toUpperCase(),
  ...more,
});
const beds: Table = {
  ...plainTable,
  id: 'b',
  key: 'beds',
  label: 'Beds',
  prefix: 'B',
  title: ['ccode'],
  columns: [column('code'), column('area', { kind: 'decimal', decimals: 2 })],
};
const state = column('state', {
  kind: 'choice',
  choices: [
    { code: 'g', label: 'Growing on' },
    { code: 'p', label: 'Planted out' },
    { code: 'x', label: 'Gone', retired: true },
  ],
});
const plants: Table = {
  ...plainTable,
  id: 'p',
  key: 'plants',
  label: 'Plants',
  prefix: 'P',
  columns: [
    column('count', { kind: 'whole' }),
    state,
    column('seen', { kind: 'date' }),
    column('bed', { kind: 'reference', target: 'b' }),
  ],
};
const tables = new Map([beds, plants].map((table) => [table.id, table]));
const scope = tableScope(plants, tables);
const about = (text: string) => {
  const found = filterables(plants, tables).find((one) => one.text === text);
  if (found === undefined) throw new Error(`nothing is called ${text}`);
  return found;
};
const read = (text: string) => readFilter(text, plants, scope);

describe('a filter', () => {
  it('names columns, and those of the records that are referred to', () => {
    expect(filterables(plants, tables).map(({ text, label }) => [text, label])).toEqual([
      ['count', 'COUNT'],
      ['state', 'STATE'],
      ['seen', 'SEEN'],
      ['bed', 'BED'],
      ['bed.code', 'BED › CODE'],
      ['bed.area', 'BED › AREA'],
    ]);
    const filter = read('bed.area > 5 and state in ("g", "p")');
    expect(filter.ok && filter.value.picked).toEqual({
      join: 'all',
      picks: [
        { left: 'bed.area', by: '>', right: ['5'] },
        { left: 'state', by: 'one-of', right: ['"g"', '"p"'] },
      ],
    });
    expect(read('count + 1')).toMatchObject({
      ok: false,
      error: [{ code: 'not-a-condition', path: ['where'] }],
    });
    expect(read('nothing = 1').ok).toBe(false);
  });

  it('that picking could not have made is one all the same', () => {
    const filter = read('count + 1 > 2 and (bed.area > 5 or seen = null)');
    expect(filter.ok && filter.value.picked).toBeNull();
  });
});

describe('what the records have', () => {
  it('is said as conditions that are read back as they were picked', () => {
    const counts = [
      valueCount(about('state'), 'g', '', 3),
      valueCount(about('bed.code'), 'G4 “north”', '', 3),
      valueCount(about('seen'), null, '', 2),
      rangeCount(about('count'), 2, 10, 4),
      periodCount(about('seen'), '2026', 4),
      periodCount(about('seen'), '2026-12', 4),
    ];
    for (const { picks } of counts) {
      const filter = read(pickedText({ join: 'all', picks }));
      expect(filter.ok && filter.value.picked).toEqual({ join: 'all', picks });
    }
    expect(counts.map(({ label }) => label)).toEqual([
      'Growing on',
      'G4 “north”',
      'empty',
      '20 to 29',
      '2026',
      'Dec 2026',
    ]);
    expect(counts.at(-1)?.picks.map(({ right }) => right[0])).toEqual([
      'date("2026-12-01")',
      'date("2027-01-01")',
    ]);
    expect(
      unusedChoices(about('state'), new Set(['g'])).map(({ label, records }) => [label, records]),
    ).toEqual([['Planted out', 0]]);
  });

  it('is chosen value by value, and one range at a time', () => {
    const [g, p] = ['g', 'p'].map((code) => valueCount(about('state'), code, '', 1)) as [never, never];
    const both = toggled(toggled([], g), p);
    expect(both).toEqual([{ left: 'state', by: 'one-of', right: ['"g"', '"p"'] }]);
    expect(isChosen({ join: 'all', picks: both }, p)).toBe(true);
    expect(toggled(toggled(both, g), p)).toEqual([]);
    const [low, high] = [rangeCount(about('count'), 0, 10, 1), rangeCount(about('count'), 1, 10, 1)];
    const one = toggled(toggled(both, low), high);
    expect(one).toEqual([...both, ...high.picks]);
    expect(isChosen({ join: 'all', picks: one }, low)).toBe(false);
    expect(toggled(one, high)).toEqual(both);
  });

  it('falls into about five ranges of a width people would choose', () => {
    expect([
      niceStep(0, 100, true),
      niceStep(1, 7, true),
      niceStep(3, 3, true),
      niceStep(0, 1.2, false),
    ]).toEqual([20, 2, 1, 0.5]);
    fc.assert(
      fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 0, max: 1e6 }), (least, span) => {
        const step = niceStep(least, least + span, true);
        expect(Number.isInteger(step) && step >= 1).toBe(true);
        expect(Math.ceil(span / step)).toBeLessThanOrEqual(5);
      }),
    );
  });
});
