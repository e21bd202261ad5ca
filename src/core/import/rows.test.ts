import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scan } from '../../files/scan';
import { detected, many, untidy, type Sheet } from '../../../tests/support/sheets';
import { isUuid } from '../kernel/ids';
import { fold, type SheetRows } from './cell';
import { hashOf } from './hash';
import { noDecisions } from './decisions';
import type { RefusedCell } from './import';
import type { PlannedTable } from './import-plan';
import { planImport } from './plan-import';
import { eachMade, RecordIds, type MadeRows } from './made-rows';
import { RowMaker } from './rows';
import { TextRows } from './text-rows';

const ID = '01900000-0000-7000-b000-000000000001';
const plan = planImport(ID, detected(untidy), noDecisions);
const tableOf = (key: string): PlannedTable =>
  plan.tables.find(({ table }) => table.key === key) ?? expect.fail(key);
const ids = (key: string): RecordIds =>
  new RecordIds(
    ID,
    plan.tables.findIndex(({ table }) => table.key === key),
  );

function made(
  key: string,
  rows: Sheet,
  {
    found = new Map<string, Map<number, string>>(),
    refusedRows = new Set<number>(),
    given = sheetRows(rows),
  } = {},
): { rows: Made[]; refusals: RefusedCell[] } {
  const refusals: RefusedCell[] = [];
  const maker = new RowMaker({
    zone: 'Europe/London',
    plan: tableOf(key),
    ids: ids(key),
    parentIds: tableOf(key).table.parent === null ? null : ids('orders'),
    found,
    noted: found,
    refusedRows,
    refuse: (cell) => refusals.push(cell),
  });
  return {
    rows: [...each(maker.rows(given, { after: 1, before: Infinity })), ...each(maker.rest())],
    refusals,
  };
}

function sheetRows(rows: Sheet): SheetRows {
  return { numbers: rows.map((_, i) => i + 2), rows };
}

/** The same rows as they stand in a file, all in quotes, below one row of headings. */
function textRows(rows: Sheet): TextRows {
  const bytes = Buffer.from(
    rows.map((row) => row.map((cell) => `"${String(cell).replaceAll('"', '""')}"`).join(',')).join('\n'),
  );
  return new TextRows(scan(bytes, { delimiter: ',', newline: '\n' }, true, 1).scanned, 1);
}

type Made = ReturnType<typeof eachMade>[number] & {
  readonly parent: string | null;
  readonly position: number;
};

function each(rows: MadeRows): Made[] {
  const { parents } = rows;
  return eachMade(rows).map((one, i) => ({
    ...one,
    parent: parents === null ? null : parents.ids.at(parents.marks[i] ?? 0),
    position: parents?.positions[i] ?? 0,
  }));
}

const valuesOf = ({ values }: Made): (string | null)[] => values;

const bedColumn = tableOf('beds').columns[0]?.column.id ?? '';
const supplierColumn = tableOf('suppliers').columns[0]?.column.id ?? '';
const by = (...names: string[]) => new Map(names.map((name) => [hashOf(fold(name)), `id of ${name}`]));
const found = () =>
  new Map([
    [bedColumn, by('B-0', 'B-1')],
    [supplierColumn, by('Acorn')],
  ]);

describe('rows on their way into a table', () => {
  it('have their values as PostgreSQL reads them, and references by what names the record', () => {
    const { rows, refusals } = made(
      'orders',
      [
        ['O-7', ' b-1 ', '5.3.2026', 'ACORN', 'tel', '', '', '', '', 'x'],
        ['', ' ', ''],
      ],
      { found: found() },
    );
    expect(rows.map((one) => [one.id, one.row, one.parent, one.position, valuesOf(one)])).toEqual([
      [ids('orders').of(2), 2, null, 0, ['O-7', 'id of B-1', '2026-03-05', 'id of Acorn', 'true']],
    ]);
    expect(refusals).toEqual([]);
  });

  it('are refused with every cell that does not fit', () => {
    const refusedRows = new Set<number>();
    const { rows, refusals } = made(
      'orders',
      [['O-7', 'B-99', 'soon', 'Acorn', '', '', '', '', '', 'maybe']],
      { found: found(), refusedRows },
    );
    expect(rows).toEqual([]);
    expect(refusals.map(({ row, column, text, code }) => [row, column, text, code])).toEqual([
      [2, 'Bed', 'B-99', 'not-found-there'],
      [2, 'Ordered on', 'soon', 'not-a-date'],
      [2, 'Paid', 'maybe', 'not-yes-no'],
    ]);
    expect([...refusedRows]).toEqual([2]);
  });

  it('note what they are named by, for those that refer to them', () => {
    const noted = new Map([[bedColumn, new Map<number, string>()]]);
    made('beds', [['Bé 7', 'A bed', '1.5']], { found: noted });
    expect(noted.get(bedColumn)?.get(hashOf('be7'))).toBe(ids('beds').of(2));
  });

  it('are the same whether cells are taken out of a text or given one by one', () => {
    const cell = fc.oneof(
      fc.constantFrom(
        '',
        ' ',
        'x',
        'b-1',
        ' B-1 ',
        '5.3.2026',
        'Acorn',
        '1,5',
        '2',
        "'=1",
        "'plain",
        'two  spaces',
        'odd\u00a0space',
        'odd\u2003space',
        '漢字',
        'naïve \u00e9',
        'a\tb',
      ),
      fc.string({ unit: fc.constantFrom('a', ' ', "'", '"', 'é', ',', '\n', '\u00a0', '🌿'), maxLength: 6 }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 10, maxLength: 10 }), { minLength: 1, maxLength: 12 }),
        fc.constantFrom('orders', 'beds', 'order_lines'),
        (sheet, key) => {
          const text = textRows(sheet);
          const [given, taken] = [
            made(key, sheet, { found: found() }),
            made(key, sheet, { found: found(), given: text }),
          ];
          expect([
            taken.rows.map((one) => [one.id, one.parent, one.position, valuesOf(one)]),
            taken.refusals,
          ]).toEqual([
            given.rows.map((one) => [one.id, one.parent, one.position, valuesOf(one)]),
            given.refusals,
          ]);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('of a table of different values come once, filled from wherever they are filled', () => {
    const { rows } = made('suppliers', [
      ['', '', '', 'Acorn', ''],
      ['', '', '', ' acorn', '01632 960111'],
      ['', '', '', 'Birch', '01632 960222'],
      ['', '', '', '', '01632 960999'],
    ]);
    expect(rows.map(valuesOf)).toEqual([
      ['Acorn', '01632 960111'],
      ['Birch', '01632 960222'],
    ]);
  });

  it('side by side belong to the row they stand in; blank ones and those of a refused row are left out', () => {
    const sheet: Sheet = [
      ['O-1', '', '', '', '', 'Spade', '2', '', '', ''],
      ['O-2', '', '', '', '', '', '', 'Rake', '1,5', ''],
      ['O-3', '', '', '', '', 'Hoe', '1', 'Hoe', '2', ''],
    ];
    const { rows } = made('order_lines', sheet, { refusedRows: new Set([4]) });
    expect(rows.map((one) => [one.parent, one.position, valuesOf(one)])).toEqual([
      [ids('orders').of(2), 1, ['Spade', '2']],
      [ids('orders').of(3), 1, ['Rake', '1.5']],
    ]);
  });

  it('have ids that are theirs alone, and in the order of the rows', () => {
    const all = ['beds', 'orders']
      .flatMap((key) => many(500, (row) => [ids(key).of(row), ids(key).of(row, 1)]))
      .flat();
    expect(all.every(isUuid)).toBe(true);
    expect(new Set(all).size).toBe(all.length);
    expect(many(300, (row) => ids('beds').of(row))).toEqual(many(300, (row) => ids('beds').of(row)).sort());
  });
});
