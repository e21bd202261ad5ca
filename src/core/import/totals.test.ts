import { expect, it } from 'vitest';
import { scan } from '../../files/scan';
import { detected, many, type Sheet } from '../../../tests/support/sheets';
import { noDecisions } from './decisions';
import { planImport } from './plan-import';
import { recordsOf } from './preview';
import { proposalsOf, spanOf, totalsId } from './proposals';
import { SheetProfile } from './sheet-profile';
import { TextRows } from './text-rows';

const ID = '01900000-0000-7000-b000-000000000001';
const stock: Sheet = [
  ['Product', 'Shelf', 'Pieces', 'Price'],
  ...many(12, (i) => [`Fern feed ${i}`, `S${i % 3}`, String(i + 1), `${i},50`]),
];
const totalsIn = (last: readonly string[], rows: Sheet = stock) =>
  detected({ Stock: [...rows, last] }).sheets[0]?.totals ?? null;

it('the last row is one of totals when it says so and bears it out, or when nothing else of it is said', () => {
  expect(totalsIn(['Total', '', '78', '72,00'])).toEqual({
    row: 14,
    text: 'Total · 78 · 72,00',
    sums: 2,
    blank: ['Shelf'],
  });
  expect(totalsIn(['', '', '78', ''])).toMatchObject({ sums: 1, blank: ['Product', 'Shelf', 'Price'] });
  expect(totalsIn(['Grand total:', '', '', '999'])).toMatchObject({ sums: 0 });
  expect(totalsIn(['Summe', '', '78', '1'])).toMatchObject({ sums: 1 });
});

it('a last row that is a record stays one', () => {
  const records = [
    ['Total weedkiller', 'S1', '13', '9,50'],
    ['Total', 'S1', '13', '9,50'],
    ['Fern feed 12', '', '78', '3,50'],
    ['', '', '13', ''],
    ['', 'S1', '78', ''],
    ['Total', '', '', ''],
  ];
  for (const last of records) expect(totalsIn(last), last.join()).toBeNull();
  // A word that other rows use as well says nothing.
  const kinds = stock.map((row, i) => (i === 0 ? row : [row[0] ?? '', 'Total', row[2] ?? '', row[3] ?? '']));
  expect(totalsIn(['Fern feed 12', 'Total', '78', ''], kinds)).toBeNull();
  expect(totalsIn(['', '', '3', ''], stock.slice(0, 3))).toBeNull();
});

it('is no record and spoils no column, until somebody says that it is one', () => {
  const detection = detected({ Stock: [...stock, ['Total', '', '78', '72,00']] });
  const sheet = detection.sheets[0] ?? expect.fail();
  expect(sheet.columns.map(({ required, misfits }) => [required, misfits])).toEqual(many(4, () => [true, 0]));
  expect(spanOf(sheet, noDecisions)).toEqual({ after: 1, before: 14 });
  expect(proposalsOf(detection, sheet).map(({ t }) => t)).toContain('totals');
  const kept = { ...noDecisions, declined: [totalsId('Stock')] };
  expect(spanOf(sheet, kept)).toEqual({ after: 1, before: Infinity });
  const [asRecord] = planImport(ID, detection, kept).tables;
  expect(asRecord?.columns.map(({ column }) => [column.key, column.required])).toEqual([
    ['product', true],
    ['shelf', false],
    ['pieces', true],
    ['price', true],
  ]);
  const [usual] = planImport(ID, detection, noDecisions).tables;
  if (usual === undefined || asRecord === undefined) return expect.fail();
  expect([recordsOf(usual, detection), recordsOf(asRecord, detection, kept)]).toEqual([12, 13]);
});

it('is found however the rows come: one by one, all at once, as a text, and with a column of its own', () => {
  const rows: Sheet = [...many(80, (i) => [`b${i}`, '2']), ['', '160']];
  const all = [['Bed', 'Plants'], ...rows];
  const alone = new SheetProfile('S');
  all.forEach((row, i) => alone.add({ numbers: [i + 1], rows: [row] }));
  const text = new SheetProfile('S');
  const parts = [all.slice(0, 60), all.slice(60)];
  parts.forEach((part, i) =>
    text.add(
      new TextRows(
        scan(
          Buffer.from(part.map((row) => row.join(',')).join('\n')),
          { delimiter: ',', newline: '\n' },
          true,
          0,
        ).scanned,
        i * 60,
      ),
    ),
  );
  for (const profile of [alone, text]) {
    profile.end();
    expect([profile.totals?.row, profile.rows, profile.columns[0]?.filled]).toEqual([82, 80, 80]);
  }
  const wide = detected({ S: [...all.slice(0, -1), ['b80', '2', 'checked']] }).sheets[0];
  expect(wide?.columns.map(({ name, filled }) => [name, filled])).toEqual([
    ['Bed', 81],
    ['Plants', 81],
    ['Column 3', 1],
  ]);
});
