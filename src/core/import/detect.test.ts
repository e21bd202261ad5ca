import { describe, expect, it } from 'vitest';
import type { Cell } from './cell';
import { detected as found, many } from '../../../tests/support/sheets';
import type { DetectedColumn } from './detection';

function columnOf(heading: string, cells: readonly Cell[], beside: readonly string[] = []): DetectedColumn {
  const sheet = found({
    S: [[heading, 'Beside', ...beside], ...cells.map((cell, i) => [cell, `b${i}`, ...beside.map(() => 'x')])],
  }).sheets[0];
  return sheet?.columns.find(({ at }) => at === 0) ?? expect.fail('no column');
}

describe('the kind of a column', () => {
  it.each<[string, Cell[], Partial<DetectedColumn>]>([
    ['Area', ['18,5', '22,25', '9'], { kind: 'decimal', reading: { decimalSign: ',', decimals: 2 } }],
    [
      'Area',
      ['18.5 m²', '22.25 m²'],
      { kind: 'decimal', reading: { decimalSign: '.', decimals: 2, unit: 'm²' } },
    ],
    [
      'Price',
      ['£12.50', '£9', '£1,200.00'],
      { kind: 'money', reading: { decimalSign: '.', decimals: 2, currency: 'GBP' } },
    ],
    ['Share', ['12 %', '7.5 %'], { kind: 'decimal', reading: { decimalSign: '.', decimals: 1, unit: '%' } }],
    ['Code', ['007', '042', '100'], { kind: 'text', keptAsText: 'leading-zeros' }],
    ['Count', ['7', '42', '100'], { kind: 'whole' }],
    [
      'Amount',
      ['1,500', '2,250'],
      { kind: 'whole', ask: { t: 'decimal-sign', examples: ['1,500', '2,250'], suggested: null } },
    ],
    ['Amount', ['12.5', '13,5', '2.25', '7,75'], { kind: 'text', keptAsText: 'mixed' }],
    ['Price', ['£12', '€9', '$3'], { kind: 'text', keptAsText: 'mixed' }],
    [
      'On',
      ['03/04/2026', '05/06/2026'],
      { kind: 'date', ask: { t: 'date-order', examples: ['03/04/2026', '05/06/2026'], suggested: null } },
    ],
    ['On', ['03/04/2026', '25/06/2026'], { kind: 'date', ask: null, reading: { dateOrder: 'dmy' } }],
    ['On', ['03/04/2026', '06/25/2026'], { kind: 'date', ask: null, reading: { dateOrder: 'mdy' } }],
    ['On', [{ kind: 'date', text: '2026-04-03' }, '4 May 2026', '17.05.2026'], { kind: 'date', ask: null }],
    ['At', ['2026-04-03 10:15', '2026-04-04 09:00'], { kind: 'date-time' }],
    ['At', ['10:15', '9:00', '14:30'], { kind: 'time' }],
    ['Open', ['Ja', 'nein', 'ja'], { kind: 'yes-no', reading: { yesNo: 2 } }],
    ['Done', ['x', '', 'x'], { kind: 'yes-no', required: false }],
    ['Is wild?', ['1', '0', '1'], { kind: 'yes-no' }],
    ['Count', ['1', '0', '1'], { kind: 'whole' }],
    ['Mail', ['a@b.example', 'c@d.example'], { kind: 'e-mail', personal: 'e-mail' }],
    ['Tel', ['+44 1632 960 114', '01632 960 118'], { kind: 'phone', personal: 'phone' }],
    ['Site', ['https://a.example', 'www.b.example'], { kind: 'web-address' }],
    ['Post code', ['12345', '54321'], { kind: 'text' }],
    ['Barcode', ['1234567890123456', '1234567890123457'], { kind: 'text', keptAsText: 'long-digits' }],
  ])('%s %j', (heading, cells, wanted) => expect(columnOf(heading, cells)).toMatchObject(wanted));

  it('is proposed when nine of ten fit, and names the cells that do not', () => {
    expect(columnOf('Count', [...many(19, String), 'many'])).toMatchObject({
      kind: 'whole',
      misfits: 1,
      misfitCells: [{ row: 21, text: 'many' }],
    });
    expect(columnOf('Count', [...many(8, String), 'many', 'few']).kind).toBe('text');
  });

  it('is a choice when few values come again, however they are spelled', () => {
    const column = columnOf(
      'State',
      many(30, (i) => ['fair', 'poor', 'Fair', ' failing'][i % 4] ?? ''),
    );
    expect(column).toMatchObject({
      kind: 'choice',
      distinct: 3,
      choices: [
        { value: 'fair', count: 15, spellings: ['Fair'] },
        { value: 'poor', count: 8, spellings: [] },
        { value: 'failing', count: 7 },
      ],
    });
    expect(
      columnOf(
        'Notes',
        many(30, (i) => ['a', 'b'][i % 2] ?? ''),
      ).kind,
    ).toBe('text');
    expect(
      columnOf(
        'Name',
        many(30, (i) => `Bed ${i}`),
      ).kind,
    ).toBe('text');
  });

  it('asks with what the rest of the sheet suggests', () => {
    const { sheets } = found({
      S: [
        ['A', 'B'],
        ['03/04/2026', '25/12/2026'],
        ['05/06/2026', '01/02/2026'],
      ],
    });
    expect(sheets[0]?.columns[0]?.ask).toMatchObject({ t: 'date-order', suggested: 'dmy' });
  });

  it('flags what looks like data about people', () => {
    const flags = (heading: string, cells: string[], beside: string[] = []) =>
      columnOf(heading, cells, beside).personal;
    expect(flags('Name', ['Maren Solheim', 'Ruo Lindqvist'], ['E-mail'])).toBe('name');
    expect(flags('Name', ['Blechnora nova', 'Osmundella cana'], ['E-mail'])).toBe(null);
    expect([
      flags('Inspected by', ['Maren Solheim', 'Ruo Lindqvist']),
      flags('Date of birth', ['1.2.1990', '3.4.1985']),
      flags('Street', ['Mill Lane 4', 'High Street 9']),
      flags('Quantity', ['3', '4']),
    ]).toEqual(['name', 'birth', 'address', null]);
  });
});

describe('a sheet', () => {
  it('has its headings below a title, and blank lines are no rows', () => {
    const [sheet] = found({
      S: [
        ['Beds of the garden'],
        [''],
        ['Code', 'Name', 'Area'],
        ['G1', 'North', '2.5'],
        ['', ''],
        ['G2', 'South', '3'],
      ],
    }).sheets;
    expect(sheet).toMatchObject({ headerRow: 3, rows: 2, keys: [['Code'], ['Name']] });
  });

  it('may have no headings', () => {
    const [sheet] = found({
      S: [
        ['G1', '2.5', '2026-01-01'],
        ['G2', '3', '2026-01-02'],
      ],
    }).sheets;
    expect(sheet).toMatchObject({ headerRow: null, rows: 2 });
    expect(sheet?.columns.map(({ name }) => name)).toEqual(['Column 1', 'Column 2', 'Column 3']);
    expect(sheet?.numberedColumns).toEqual([]);
  });

  it('is told apart by two columns together where one is not enough', () => {
    const rows = ['Fern', 'Palm', 'Arid'].flatMap((house) =>
      ['Mon', 'Tue', 'Wed'].map((day) => [house, day, '1']),
    );
    expect(found({ S: [['House', 'Weekday', 'Shift'], ...rows] }).sheets[0]?.keys).toEqual([
      ['House', 'Weekday'],
    ]);
  });

  it('repeats a supplier with telephone and town, once with a slip', () => {
    const suppliers = [
      ['Marlow', '+44 1632 960 1', 'Eastmere'],
      ['Greyshaw', '+44 1632 960 2', 'Tarnford'],
      ['Alderby', '+44 1632 960 3', 'Oxley'],
    ];
    const rows = many(60, String).map((i) => [`D-${i}`, i, ...(suppliers[Number(i) % 3] ?? [])]);
    rows[31] = ['D-31', '31', 'Greyshaw ', '+44 1632 960 9', 'tarnford'];
    expect(
      found({ S: [['No', 'Quantity', 'Supplier', 'Phone', 'Town'], ...rows] }).sheets[0]?.repeatedGroups,
    ).toEqual([
      {
        by: 'Supplier',
        columns: ['Phone', 'Town'],
        records: 3,
        rows: 60,
        exceptions: 1,
        exceptionCells: [{ row: 33, text: 'Phone' }],
      },
    ]);
  });

  it('is judged by all rows of a long sheet, however its first ones look', () => {
    // From row 9 000 on every town is another: what held in the first rows does not hold in the sheet.
    const rowsWith = (last: number) =>
      many(12_000, String).map((i) => [
        `D-${i}`,
        `Supplier ${Number(i) % 700}`,
        Number(i) < last
          ? `Town ${Number(i) % 700}`
          : `Town ${(Number(i) * 31 + Math.floor(Number(i) / 700) * 17) % 701}`,
      ]);
    const groups = (last: number) =>
      found({ S: [['No', 'Supplier', 'Town'], ...rowsWith(last)] }).sheets[0]?.repeatedGroups;
    expect(groups(12_000)).toMatchObject([{ records: 700, exceptions: 0 }]);
    expect(groups(11_900)).toMatchObject([{ records: 700, rows: 12_000 }]);
    expect(groups(9_000)).toEqual([]);
    expect(groups(0)).toEqual([]);
  });

  it('is understood with nine rows, as short lists are', () => {
    const rows = [
      '1001,1,Acorn,0111,Eastmere,Trowel,2,Rake,1,45.50',
      '1002,2,Birch,0222,Tarnford,Spade,1,,,30.00',
      '1003,1,Acorn,0111,Eastmere,Rake,3,Hoe,2,77.25',
      '1004,3,Cedar,0333,Oxley,Hoe,1,Trowel,1,21.00',
      '1005,2,Birch,0222,Tarnford,Spade,4,Rake,2,150.00',
      '1006,1,Acorn,0111,Eastmere,Trowel,2,,,18.00',
      '1007,3,Cedar,0333,Oxley,Hoe,2,Hoe,1,33.00',
      '1008,4,Acorn,0111,Eastmere,Rake,1,Spade,1,52.10',
      '1009,4,Birch,0222,Tarnford,Trowel,5,Hoe,2,88.40',
    ].map((line) => line.split(','));
    const { sheets, relations } = found({
      orders: [
        [
          'order_id',
          'customer_id',
          'supplier',
          'supplier phone',
          'supplier town',
          'item1',
          'qty1',
          'item2',
          'qty2',
          'total',
        ],
        ...rows,
      ],
      customers: [
        ['id', 'name'],
        ['1', 'Ada Quist'],
        ['2', 'Pell Adeyemi'],
        ['3', 'Ruo Lindqvist'],
        ['4', 'Maren Solheim'],
      ],
    });
    expect(sheets[0]?.repeatedGroups).toMatchObject([
      { by: 'supplier', columns: ['supplier phone', 'supplier town'], records: 3 },
    ]);
    expect(sheets[0]?.keys).toEqual([['order_id']]);
    expect(sheets[0]?.numberedColumns).toMatchObject([{ times: 2, rows: 16 }]);
    expect(relations).toMatchObject([
      {
        from: { sheet: 'orders', column: 'customer_id' },
        to: { sheet: 'customers', column: 'id' },
        covered: 4,
        missed: 0,
      },
    ]);
  });

  it('does not take chance for a dependency', () => {
    const rows = many(40, String).map((i) => [
      `D-${i}`,
      `Note ${Number(i) % 25}`,
      ['a', 'b'][Math.floor(Number(i) / 7) % 2] ?? '',
    ]);
    expect(found({ S: [['No', 'Remark', 'Side'], ...rows] }).sheets[0]?.repeatedGroups).toEqual([]);
  });

  it('has rows in numbered columns', () => {
    const [sheet] = found({
      S: [
        ['No', 'item1', 'qty1', 'item2', 'qty2', 'Address 1', 'Address 2'],
        ['1', 'a', '2', 'b', '3', 'x', 'y'],
        ['2', 'c', '1', '', '', 'x', ''],
      ],
    }).sheets;
    expect(sheet?.numberedColumns).toEqual([
      {
        stems: [
          { stem: 'item', columns: ['item1', 'item2'] },
          { stem: 'qty', columns: ['qty1', 'qty2'] },
        ],
        times: 2,
        rows: 3,
      },
    ]);
  });
});

describe('relations', () => {
  const beds = [
    ['Code', 'Name', 'Area'],
    ...many(20, (i) => `G4-${String(i).padStart(2, '0')}`).map((code, i) => [
      code,
      `Bed ${i}`,
      String(i + 2.5),
    ]),
  ];

  it('are found though case, spaces and accents differ, with what is missing', () => {
    const visits = [
      ['Bed', 'Plants lost'],
      ...many(60, (i) => ` g4-${String(i % 20).padStart(2, '0')}`).map((code, i) => [
        i === 41 ? 'G9-99' : code,
        String(i % 7),
      ]),
    ];
    expect(found({ Beds: beds, Visits: visits }).relations).toEqual([
      {
        from: { sheet: 'Visits', column: 'Bed' },
        to: { sheet: 'Beds', column: 'Code' },
        covered: 20,
        missed: 1,
        misses: [{ row: 43, text: '' }],
        tolerant: 20,
        alongWith: null,
        table: null,
      },
    ]);
  });

  it('of numbers need a heading that says so', () => {
    const people = [['id', 'Name'], ...many(30, String).map((i) => [i, `Person ${i}`])];
    const orders = [
      ['no', 'person_id', 'qty'],
      ...many(50, String).map((i) => [`O${i}`, String(Number(i) % 30), String(Number(i) % 9)]),
    ];
    expect(found({ People: people, Orders: orders }).relations).toEqual([]);
    expect(
      found({ Persons: people, Orders: orders }).relations.map(({ from, to }) => [
        from.column,
        to.sheet,
        to.column,
      ]),
    ).toEqual([['person_id', 'Persons', 'id']]);
  });

  it('between two lists of the same things go one way only', () => {
    const plan = [['Code', 'Planned'], ...beds.slice(1, 12).map(([code]) => [code ?? '', 'yes'])];
    expect(found({ Plan: plan, Beds: beds }).relations.map(({ from, to }) => [from.sheet, to.sheet])).toEqual(
      [['Plan', 'Beds']],
    );
  });

  it('are not made of a few values that lie in another list by accident', () => {
    const sizes = [
      ['Size', 'Name'],
      ['S', 'Small'],
      ['M', 'Medium'],
      ['L', 'Large'],
      ['A', 'Any'],
    ];
    const rows = [
      ['No', 'Grade'],
      ...many(30, String).map((i) => [`N${i}`, ['A', 'S'][Number(i) % 2] ?? '']),
    ];
    expect(found({ Sizes: sizes, Rows: rows }).relations).toEqual([]);
  });
});
