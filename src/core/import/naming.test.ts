import { describe, expect, it } from 'vitest';
import { detected, many, type Sheet } from '../../../tests/support/sheets';
import { noDecisions } from './decisions';
import { planImport } from './plan-import';
import { holdsOf } from './naming';

const ID = '01900000-0000-7000-b000-000000000001';

function titleIn(name: string, sheet: Sheet): string[] {
  const [planned] = planImport(ID, detected({ [name]: sheet }), noDecisions).tables.slice(-1);
  return (planned?.table.title ?? []).map(
    (id) => planned?.table.columns.find((one) => one.id === id)?.label ?? '',
  );
}
const sheetOf = (headings: readonly string[], row: (i: number) => readonly string[]): Sheet => [
  headings,
  ...many(9, row),
];

describe('what a record is shown by', () => {
  it.each<[string, string[], string, readonly string[], (i: number) => readonly string[]]>([
    [
      'a name before a telephone number',
      ['Full name'],
      'Volunteers',
      ['Telephone', 'Full name', 'Town'],
      (i) => [`01632 96011${i}`, `Ada Quist ${i}`, 'Quill'],
    ],
    [
      'the name and where to reach them, when two are called the same',
      ['Name', 'E-mail'],
      'Volunteers',
      ['E-mail', 'Name'],
      (i) => [`a${i}@quillmere.example`, i < 2 ? 'Ada Quist' : `Pell Adeyemi ${i}`],
    ],
    [
      'code and name',
      ['Code', 'Bed name'],
      'Beds',
      ['Bed name', 'Code', 'Remarks'],
      (i) => [`Fern bed ${i}`, `B-${i}`, `dry ${i}`],
    ],
    [
      'given and family name',
      ['First name', 'Last name'],
      'Guides',
      ['First name', 'Last name'],
      (i) => [`Ada${i}`, `Quist${i}`],
    ],
    [
      'what the sheet is about',
      ['Ref', 'Product'],
      'Products',
      ['Ref', 'Maker', 'Product'],
      (i) => [`R${i}`, `Maker ${i % 4}`, `Feed ${i}`],
    ],
    [
      'any text that tells them apart, before an address',
      ['Species'],
      'Sowing',
      ['Street address', 'Species', 'Tray'],
      (i) => [`${i} Fern Lane`, `Fernia ${'abcdefghi'[i]}`, 'T'],
    ],
    [
      'a telephone number, if there is nothing else',
      ['Telephone'],
      'Calls',
      ['Telephone', 'Day'],
      (i) => [`01632 96011${i}`, `2026-03-1${i}`],
    ],
    [
      'nothing, when nothing tells them apart',
      [],
      'Counts',
      ['Bed', 'Plants'],
      (i) => [`B${i % 2}`, `${i % 3}`],
    ],
  ])('%s', (_, title, name, headings, row) => expect(titleIn(name, sheetOf(headings, row))).toEqual(title));
});

describe('a table that is taken out of a sheet', () => {
  it.each<[string, Parameters<typeof holdsOf>]>([
    ['Customers', [{ name: 'Customer', personal: null }, ['Telephone', 'Town']]],
    ['Customers', [{ name: 'customer_name', personal: 'name' }, ['Telephone']]],
    ['Suppliers', [{ name: 'Name of the supplier', personal: null }, ['Telephone']]],
    ['Suppliers', [{ name: 'SupplierNo', personal: null }, ['Telephone']]],
    ['Contact people', [{ name: 'Contact person', personal: 'name' }, ['Telephone']]],
    ['People', [{ name: 'Collected by', personal: 'name' }, ['Telephone']]],
    ['People', [{ name: 'Name', personal: 'name' }, ['Telephone']]],
    ['Makers', [{ name: 'Code', personal: null }, ['Maker town', 'Maker phone']]],
    ['Codes', [{ name: 'Code', personal: null }, ['Town', 'Phone']]],
  ])('is called %s, by what it holds', (label, given) => expect(holdsOf(...given)).toBe(label));

  it('keeps the heading of the column it goes by', () => {
    const orders: Sheet = [
      ['Order', 'Customer name', 'Customer phone', 'Town'],
      ...many(24, (i) => [
        `O${i}`,
        `Ferry ${i % 6}`,
        `01632 96011${i % 6}`,
        ['Quill', 'Mere', 'Fen'][i % 3] ?? '',
      ]),
    ];
    const [customers] = planImport(ID, detected({ Orders: orders }), noDecisions).tables;
    expect(customers?.table.label).toBe('Customers');
    expect(customers?.columns.map(({ column }) => column.label)).toEqual([
      'Customer name',
      'Customer phone',
      'Town',
    ]);
    expect(customers?.table.title).toEqual([customers?.columns[0]?.column.id]);
  });
});
