import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { hashesOf } from '../core/import/hash';
import { HashIndex, KeptTexts, TextRows } from '../core/import/text-rows';
import { scan, type Newline } from './scan';

const rowsOf = (
  text: string,
  newline: Newline = '\n',
  delimiter = ',',
): { rows: readonly (readonly string[])[]; rest: string; stuck: boolean } => {
  const bytes = Buffer.from(text);
  const { scanned, rest, stuck } = scan(bytes, { delimiter, newline }, true, 0);
  return { rows: new TextRows(scanned, 0).rows, rest: bytes.toString('utf8', rest), stuck };
};
const theirs = (text: string, newline: Newline, delimiter = ','): { data: string[][]; errors: unknown[] } =>
  Papa.parse<string[]>(text, { delimiter, newline });
const kept = (text: string): KeptTexts => {
  const texts = new KeptTexts();
  for (const one of ['before', text, 'after']) texts.add(one);
  return texts;
};
const pieces = fc
  .array(
    fc.constantFrom('a', 'bé', '🌿', '"', '""', ',', ';', '\n', '\r\n', '\r', ' ', '"x"', '"y,\n z"', ',"q"'),
    { maxLength: 30 },
  )
  .map((parts) => parts.join(''));
const newlines = fc.constantFrom<Newline>('\n', '\r\n', '\r');

describe('a scan of CSV', () => {
  it('finds the rows the library finds, or says that it is stuck', () => {
    let sound = 0;
    fc.assert(
      fc.property(pieces, newlines, fc.constantFrom(',', ';'), (text, newline, delimiter) => {
        fc.pre(text !== '');
        const { data } = theirs(text, newline, delimiter);
        const { rows, stuck } = rowsOf(text, newline, delimiter);
        if (!stuck) sound++;
        // Until where it is stuck it has found the same.
        return JSON.stringify(rows) === JSON.stringify(stuck ? data.slice(0, rows.length) : data);
      }),
      { numRuns: 5_000 },
    );
    expect(sound).toBeGreaterThan(1_000);
  });

  it('is stuck on nothing that is well written', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', '"', ',', '\n', '\r', ' ', '🌿') });
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 8 }),
        newlines,
        fc.boolean(),
        (table, newline, quotes) => {
          const text = Papa.unparse(table, { newline, quotes });
          fc.pre(text !== '');
          const { rows, stuck, rest } = rowsOf(text, newline);
          return !stuck && rest === '' && JSON.stringify(rows) === JSON.stringify(table);
        },
      ),
      { numRuns: 1_000 },
    );
  });

  it('gives the same, wherever a piece of the text ends', () => {
    fc.assert(
      fc.property(pieces, newlines, fc.nat({ max: 60 }), (text, newline, cut) => {
        fc.pre(text !== '' && !rowsOf(text, newline).stuck);
        const whole = rowsOf(text, newline).rows;
        const bytes = Buffer.from(text);
        const head = bytes.subarray(0, cut);
        const first = scan(head, { delimiter: ',', newline }, false, 0);
        const left = bytes.toString('utf8', first.rest);
        const second = left === '' ? [] : rowsOf(left, newline).rows;
        const both = [...new TextRows(first.scanned, 0).rows, ...second];
        // An end of line at the very end opens a row only for whoever sees it.
        return (
          !first.stuck && JSON.stringify(both) === JSON.stringify(left === '' ? whole.slice(0, -1) : whole)
        );
      }),
      { numRuns: 5_000 },
    );
  });

  it('knows each cell by hashes of its text, and again letter for letter', () => {
    fc.assert(
      fc.property(pieces, (text) => {
        const { scanned } = scan(Buffer.from(text), { delimiter: ',', newline: '\n' }, true, 0);
        const rows = new TextRows(scanned, 0);
        for (let place = 0; place < scanned.starts.length; place++) {
          const cell = rows.textAt(place);
          if (
            JSON.stringify([scanned.a[place], scanned.b[place]]) !== JSON.stringify(hashesOf(cell)) ||
            !rows.isKept(place, kept(cell), 1) ||
            rows.isKept(place, kept(`${cell}x`), 1) ||
            !kept(cell).isText(1, cell) ||
            kept(cell).isText(1, `x${cell}`)
          )
            return false;
        }
        return true;
      }),
      { numRuns: 500 },
    );
  });

  it('numbers rows from those before, and tells blank ones and the ends of short ones', () => {
    const rows = new TextRows(
      scan(Buffer.from('a,b\n , \n\nc'), { delimiter: ',', newline: '\n' }, true, 0).scanned,
      10,
    );
    expect([
      rows.numbers,
      rows.isBlank(0),
      rows.isBlank(1),
      rows.isBlank(2),
      rows.placeOf(3, 1),
      rows.textAt(-1),
      rows.widthOf(3),
    ]).toEqual([[11, 12, 13, 14], false, true, true, -1, '', 1]);
  });
});

describe('an index by hashes', () => {
  it('finds each of many texts by the number it got, and no other', () => {
    const index = new HashIndex();
    const text = (i: number): string => `AC-${i}`;
    for (let i = 0; i < 50_000; i++) {
      expect(index.find(...hashesOf(text(i)))).toBe(-1);
      expect(index.add(...hashesOf(text(i)))).toBe(i);
    }
    expect(
      Array.from({ length: 50_000 }, (_, i) => index.find(...hashesOf(text(i)))).every(
        (found, i) => found === i,
      ),
    ).toBe(true);
    expect([index.size, index.find(...hashesOf('AC-50000'))]).toEqual([50_000, -1]);
  });
});
