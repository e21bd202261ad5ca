import { describe, expect, it } from 'vitest';
import { baseTables, beds, products } from '../../../demo/tables';
import { detected, many, type Sheet } from '../../../tests/support/sheets';
import { plainTable } from '../table/model';
import type { Cell } from './cell';
import { noDecisions, type Decisions } from './decisions';
import { headerOf } from './header';
import { WHAT_IS_WRONG } from './heading';
import { openAsks } from './open-asks';
import { planImport } from './plan-import';
import { intoTable, likelyTables } from './into-table';

const ID = '01900000-0000-7000-b000-000000000001';
const sheetOf = (headings: readonly string[], row: (i: number) => readonly Cell[], rows = 20): Sheet => [
  headings,
  ...many(rows, row),
];
const found = (sheet: Sheet) => detected({ Sheet: sheet }).sheets[0] ?? expect.fail('no sheet');
const bedRows = sheetOf(['code', 'NAME', ' Section ', 'Area [m²]', 'Gardener', WHAT_IS_WRONG], (i) => [
  `B${i}`,
  `Bed ${i}`,
  'Fern house',
  `${i},5`,
  'Maren',
  'Nothing',
]);

describe('headings of a table there is', () => {
  it('are matched by label or key, whatever their case, spaces and unit', () => {
    expect(intoTable(found(bedRows), beds)).toEqual({
      table: beds.id,
      by: ['cbedcode'],
      columns: { code: 'cbedcode', NAME: 'cbedname', Section: 'cbedhouse', 'Area [m²]': 'cbedarea' },
      blanks: 'leave',
      what: 'add-and-change',
    });
    const byKey = sheetOf(['max_rate', 'in stock', 'Active substance', 'open_to_visitors'], (i) => [
      String(i),
      '1',
      'x',
      'yes',
    ]);
    expect(intoTable(found(byKey), products).columns).toEqual({
      max_rate: 'cpromax',
      'in stock': 'cprostock',
      'Active substance': 'cproactive',
    });
  });

  it('let rows be known by their numbers, then by what is different in each, or by everything', () => {
    expect(
      intoTable(found(sheetOf(['Number', 'Code'], (i) => [`B-2026-000${i}`, `B${i}`])), beds),
    ).toMatchObject({ by: ['number'], columns: { Number: 'number' } });
    expect(intoTable(found(sheetOf(['Name', 'Section'], (i) => [`Bed ${i}`, 'x'])), beds).by).toEqual([]);
    // A heading is used once.
    expect(
      intoTable(
        found(sheetOf(['Code', 'code ', 'P', 'Q', 'R', 'S'], (i) => [`B${i}`, `C${i}`, 'x', 'y', 'z', 'v'])),
        beds,
      ).columns,
    ).toEqual({ Code: 'cbedcode' });
  });

  it('tell which table a sheet may belong to', () => {
    expect(
      likelyTables(found(bedRows), baseTables).map(({ table, matched }) => [table.key, matched]),
    ).toEqual([['beds', 4]]);
    expect(
      likelyTables(found(sheetOf(['Name', 'Colour', 'Height'], (i) => [`N${i}`, 'red', '1'])), baseTables),
    ).toEqual([]);
    expect(likelyTables(found(bedRows), [{ ...beds, parent: products.id }])).toEqual([]);
  });
});

describe('the plan', () => {
  const detection = detected({ Sheet: bedRows });
  const into = intoTable(detection.sheets[0]!, beds);
  const decisions = (more: Partial<Decisions> = {}): Decisions => ({
    ...noDecisions,
    sheets: { Sheet: { into } },
    ...more,
  });

  it('fills the columns there are, as they are, and makes no table', () => {
    const [plan, ...others] = planImport(ID, detection, decisions(), baseTables).tables;
    expect([others, plan?.table, plan?.into]).toEqual([[], beds, into]);
    expect(
      plan?.columns.map(({ column, at, reading }) => [
        column.key,
        column.kind,
        column.required,
        at,
        reading.decimalSign,
      ]),
    ).toEqual([
      ['code', 'text', false, [0], undefined],
      ['name', 'text', false, [1], undefined],
      ['section', 'text', false, [2], undefined],
      ['area', 'decimal', false, [3], ','],
    ]);
  });

  it('makes a new one when the table is gone, and never of what was wrong', () => {
    const [plan] = planImport(ID, detection, decisions(), [
      { ...plainTable, id: products.id, key: 'x', label: 'X', prefix: 'X' },
    ]).tables;
    expect([plan?.into, plan?.columns.map(({ column }) => column.label)]).toEqual([
      null,
      ['Code', 'NAME', 'Section', 'Area', 'Gardener'],
    ]);
  });

  it('asks only about what is taken', () => {
    const asking = detected({
      Sheet: sheetOf(['Code', 'Seen'], (i) => [`B${i}`, `0${(i % 9) + 1}/04/2026`]),
    });
    expect(openAsks(asking, noDecisions).map(({ path }) => path)).toEqual(['Sheet/Seen']);
    expect(
      openAsks(asking, {
        ...noDecisions,
        sheets: { Sheet: { into: { ...into, columns: { Code: 'cbedcode' } } } },
      }),
    ).toEqual([]);
  });

  it('finds records of other tables by whatever names them', () => {
    const table = {
      ...products,
      columns: [
        ...products.columns,
        {
          ...products.columns[0]!,
          id: 'cbed',
          key: 'bed',
          label: 'Bed',
          kind: 'reference' as const,
          target: beds.id,
          unique: false,
        },
      ],
    };
    const sheet = detected({ Sheet: sheetOf(['Name', 'Bed'], (i) => [`P${i}`, 'B1']) });
    const [plan] = planImport(
      ID,
      sheet,
      { ...noDecisions, sheets: { Sheet: { into: intoTable(sheet.sheets[0]!, table) } } },
      [beds, table],
    ).tables;
    expect(plan?.columns[1]?.finds).toEqual({
      table: beds.id,
      column: `names/${beds.id}`,
      label: 'Beds',
      adds: false,
    });
  });
});

describe('where the headings stand', () => {
  it.each([
    [
      'below a title',
      [
        ['Beds of the garden', '', ''],
        ['Code', 'Name', 'Area'],
        ['B1', 'Bed', '12'],
        ['B2', 'Bed two', '13'],
      ],
      1,
      ['Code', 'Name', 'Area'],
    ],
    [
      'nowhere, when rows begin at once',
      [
        ['1', '2026-01-02', '3.5'],
        ['2', '2026-01-03', '4.5'],
      ],
      null,
      ['Column 1', 'Column 2', 'Column 3'],
    ],
    [
      'with blanks and the same words again',
      [
        ['Code', '', 'Name', 'Name', 'From', 'To'],
        ['B1', 'x', 'Bed', '1', '2', '3'],
        ['B2', 'y', 'Bed', '2', '3', '4'],
      ],
      0,
      ['Code', 'Column 2', 'Name', 'Name (2)', 'From', 'To'],
    ],
    [
      'as years',
      [
        ['Plant', '2024', '2025'],
        ['Fern', '12', '13'],
        ['Moss', '1', '2'],
      ],
      0,
      ['Plant', '2024', '2025'],
    ],
    ['in nothing', [], null, []],
  ] as const)('%s', (_, rows, at, names) => {
    expect([headerOf(rows).at, headerOf(rows).names]).toEqual([at, names]);
  });
});

describe('data about people', () => {
  it('is seen by headings and what stands beside, and not where it cannot be', () => {
    const people = ['Ada Quist', 'Pell Adeyemi', 'Ruo Lindqvist', 'Maren Solheim', 'Osei Marchetti'];
    const sheet = sheetOf(
      [
        'Name',
        'Contact person',
        'Postcode',
        'Date of birth',
        'IBAN',
        'Checked by',
        'Mail',
        'Telephone',
        'Price',
        'House',
        'Insured',
      ],
      (i) => [
        `${(people[i % 5] ?? '').split(' ')[0]} ${'BCDFGHJKLMNPQRSTVWXZ'[i]}arrow`,
        people[(i + 1) % 5] ?? '',
        `QM${i} 4GD`,
        `1990-01-${String(i + 1).padStart(2, '0')}`,
        `GB${String(i).padStart(2, '0')}QUIL000${i}`,
        people[(i + 2) % 5] ?? '',
        `p${i}@quillmere.example`,
        `01632 9601${String(i).padStart(2, '0')}`,
        `${i}.50`,
        'Fern house',
        'yes',
      ],
    );
    expect(found(sheet).columns.map(({ name, personal }) => [name, personal])).toEqual([
      ['Name', 'name'],
      ['Contact person', 'name'],
      ['Postcode', 'address'],
      ['Date of birth', 'birth'],
      ['IBAN', 'bank'],
      ['Checked by', 'name'],
      ['Mail', 'e-mail'],
      ['Telephone', 'phone'],
      ['Price', null],
      ['House', null],
      ['Insured', null],
    ]);
  });
});
