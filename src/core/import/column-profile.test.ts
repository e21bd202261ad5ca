import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scan } from '../../files/scan';
import { fold, tidy, type Cell } from './cell';
import { ColumnProfile } from './column-profile';
import { hashOf } from './hash';
import { SheetProfile } from './sheet-profile';
import { TextRows } from './text-rows';

const REMEMBERED = 5;
const cells = fc.array(
  fc.oneof(
    fc.constantFrom(
      '',
      ' ',
      'yes',
      'No',
      'Acorn',
      ' acorn',
      'Ácorn',
      '12',
      '1,5',
      '007',
      '3/4/2026',
      '2026-11-25',
      'a@b.example',
      '€ 5',
      'two  words',
    ),
    fc.integer({ min: 0, max: 30 }).map((n) => `code ${n}`),
  ),
  { maxLength: 60 },
);

const textRows = (values: readonly string[]): TextRows =>
  new TextRows(
    scan(
      Buffer.from(values.map((value) => `"${value}",x`).join('\n')),
      { delimiter: ',', newline: '\n' },
      true,
      0,
    ).scanned,
    0,
  );

function given(values: readonly Cell[], most: number): ColumnProfile {
  const profile = new ColumnProfile(most);
  values.forEach((value, i) => profile.add(value, i + 1));
  profile.end();
  return profile;
}

/** The same cells as they stand in a text, in two lots. */
function taken(values: readonly string[], most: number): ColumnProfile {
  const profile = new ColumnProfile(most);
  const rows = textRows(values);
  const lines = Int32Array.from(values.keys());
  for (const some of [lines.subarray(0, 7), lines.subarray(7)])
    if (values.length > 0) profile.addAll(rows, some, 0);
  profile.end();
  return profile;
}

const tallied = (map: ReadonlyMap<unknown, number>): unknown[][] =>
  [...map].map(([key, n]) => [String(key), n]).sort();
const shown = (profile: ColumnProfile) => ({
  filled: profile.filled,
  longest: profile.longest,
  people: profile.personLike,
  fraction: profile.fraction,
  distinct: [...profile.distinct()],
  values: profile.values === null ? null : tallied(profile.values),
  pairs: tallied(profile.pairs),
  contacts: tallied(profile.contacts),
  currencies: tallied(profile.currencies),
  units: tallied(profile.units),
  classes: [...profile.classes].map(([name, { count, cells: first }]) => [name, count, first]).sort(),
});

describe('what a column shows', () => {
  it('is counted as one would count by hand, however few values are remembered', () => {
    fc.assert(
      fc.property(cells, fc.constantFrom(1, REMEMBERED, 1_000), (values, most) => {
        const profile = given(values, most);
        const filled = values.map(tidy).filter((value) => value !== '');
        expect(profile.filled).toBe(filled.length);
        expect(profile.longest).toBe(filled.reduce((longest, { length }) => Math.max(longest, length), 0));
        expect([...profile.distinct()]).toEqual(
          [...new Set(filled.map((value) => hashOf(fold(value))))].sort((a, b) => a - b),
        );
        const counts = new Map<string, number>();
        for (const value of filled) counts.set(value, (counts.get(value) ?? 0) + 1);
        expect(profile.values === null ? null : tallied(profile.values)).toEqual(tallied(counts));
        expect([...profile.classes.values()].reduce((sum, { count }) => sum + count, 0)).toBe(filled.length);
      }),
      { numRuns: 400 },
    );
  });

  it('is the same whether cells stand in a text or come one by one', () => {
    fc.assert(
      fc.property(cells, fc.constantFrom(1, REMEMBERED, 1_000), (values, most) => {
        expect(shown(taken(values, most))).toEqual(shown(given(values, most)));
      }),
      { numRuns: 400 },
    );
  });

  it('tells of each row where its value stands among the different ones', () => {
    fc.assert(
      fc.property(
        cells,
        fc.constantFrom(1, REMEMBERED, 1_000),
        fc.nat({ max: 80 }),
        (values, most, first) => {
          const profile = given(values, most);
          const distinct = profile.distinct();
          const wanted = values
            .slice(0, first)
            .map((value) => (tidy(value) === '' ? -1 : distinct.indexOf(hashOf(fold(tidy(value))))));
          expect([...profile.places(first, distinct)]).toEqual(wanted);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('tells of each value the row it first stands in', () => {
    const seen: [number, number][] = [];
    given(['', 'Acorn', 'acorn', 'Acorn', 'Birch', ' '], 100).eachValue((_, folded, row) =>
      seen.push([folded, row]),
    );
    expect(seen).toEqual([
      [hashOf('acorn'), 1],
      [hashOf('acorn'), 2],
      [hashOf('birch'), 4],
    ]);
  });

  it('knows what a workbook says of its cells', () => {
    const profile = given(
      [
        { kind: 'number', text: '12.5' },
        { kind: 'date', text: '2026-11-25' },
        { kind: 'yes-no', text: 'true' },
        '12.5',
      ],
      10,
    );
    expect([...profile.classes].map(([name, { count }]) => [name, count])).toEqual([
      ['native-number', 1],
      ['ymd', 1],
      ['native-yes-no', 1],
      ['dot', 1],
    ]);
  });
});

describe('a sheet gathered from a text', () => {
  it('begins below its headings, leaves out blank rows, and takes columns that begin late as blank before', () => {
    const head = Array.from({ length: 60 }, (_, i) => `A${i},${i}`).join('\n');
    const bytes = Buffer.from(`Code,Amount\n${head}\n,\nlast,1,late\n`);
    const sheet = new SheetProfile('sheet');
    const cut = bytes.indexOf('A55');
    const first = scan(bytes.subarray(0, cut), { delimiter: ',', newline: '\n' }, false, 0);
    const before = new TextRows(first.scanned, 0);
    sheet.add(before);
    sheet.add(
      new TextRows(
        scan(bytes.subarray(cut), { delimiter: ',', newline: '\n' }, true, before.count).scanned,
        before.count,
      ),
    );
    sheet.end();
    expect([
      sheet.headerRow,
      sheet.names,
      sheet.rows,
      sheet.rowNumber(60),
      sheet.columns.map(({ filled }) => filled),
    ]).toEqual([1, ['Code', 'Amount', 'Column 3'], 61, 63, [61, 61, 1]]);
    expect([...sheet.codes(2)].filter((code) => code >= 0)).toEqual([0]);
  });
});
