import { describe, expect, it } from 'vitest';
import { detected, untidy } from '../../../tests/support/sheets';
import { noDecisions, type Decisions } from './decisions';
import { headingLabel, sheetLabel } from './heading';
import type { ImportPlan } from './import-plan';
import { openAsks } from './open-asks';
import { planImport } from './plan-import';
import { plainTable, type Table } from '../table/model';
import { previewRows, recordsOf } from './preview';

const ID = '01900000-0000-7000-b000-000000000001';
const detection = detected(untidy);
const planned = (decisions: Partial<Decisions> = {}, there: readonly Table[] = []): ImportPlan =>
  planImport(ID, detection, { ...noDecisions, ...decisions }, there);
const shape = (plan: ImportPlan) =>
  plan.tables.map(({ table, rows, columns }) => [
    table.key,
    rows.t,
    columns.map(({ column }) => `${column.key} ${column.kind}${column.required ? '!' : ''}`),
  ]);
const tableOf = (plan: ImportPlan, key: string) =>
  plan.tables.find(({ table }) => table.key === key) ?? expect.fail(`no table ${key}`);

describe('the plan of an import', () => {
  it('has tables before those that refer to them, with kinds, units and references', () => {
    expect(shape(planned())).toEqual([
      ['suppliers', 'distinct', ['supplier text!', 'phone phone!']],
      ['beds', 'each', ['code text!', 'name text!', 'area decimal!']],
      [
        'orders',
        'each',
        ['no text!', 'bed reference!', 'ordered_on date!', 'supplier reference!', 'paid yes-no!'],
      ],
      ['order_lines', 'numbered', ['thing text', 'amount decimal']],
    ]);
    const plan = planned();
    expect(tableOf(plan, 'beds').table).toMatchObject({ label: 'Beds', prefix: 'BE', parent: null });
    expect(tableOf(plan, 'beds').columns[2]?.column).toMatchObject({
      label: 'Area',
      unit: 'm²',
      decimals: 2,
    });
    expect(tableOf(plan, 'beds').table.title).toEqual(
      tableOf(plan, 'beds')
        .columns.slice(0, 2)
        .map(({ column }) => column.id),
    );
    expect(tableOf(plan, 'order_lines').table.parent).toBe(tableOf(plan, 'orders').table.id);
    expect(tableOf(plan, 'orders').columns[1]?.finds).toEqual({
      table: tableOf(plan, 'beds').table.id,
      column: tableOf(plan, 'beds').columns[0]?.column.id,
      label: 'Beds',
      adds: false,
    });
  });

  it('is the same whenever it is made, and another for another import', () => {
    expect(planned()).toEqual(planned());
    const ids = (plan: ImportPlan) =>
      plan.tables.flatMap(({ table, columns }) => [table.id, ...columns.map(({ column }) => column.id)]);
    expect(new Set(ids(planned())).size).toBe(ids(planned()).length);
    const other = new Set(ids(planImport('01900000-0000-7000-b000-000000000002', detection, noDecisions)));
    expect(ids(planned()).filter((id) => other.has(id))).toEqual([]);
  });

  it('keeps to itself: keys and prefixes of tables there are stay theirs', () => {
    const plan = planned(
      {},
      [
        ['beds', 'BE'],
        ['orders', 'OR'],
      ].map(([key = '', prefix = '']) => ({ ...plainTable, id: key, key, prefix, label: key })),
    );
    expect(plan.tables.map(({ table }) => table.key)).toEqual([
      'suppliers',
      'beds_2',
      'orders_2',
      'order_lines',
    ]);
    expect(new Set([...plan.tables.map(({ table }) => table.prefix), 'BE', 'OR']).size).toBe(6);
  });

  it('leaves declined proposals as they are written', () => {
    expect(
      shape(
        planned({ declined: ['relation:Orders/Bed', 'group:Orders/Supplier', 'numbered:Orders/Thing 1'] }),
      ),
    ).toEqual([
      [
        'orders',
        'each',
        [
          'no text!',
          'bed text!',
          'ordered_on date!',
          'supplier choice!',
          'phone phone!',
          'thing_1 text!',
          'amount_1 whole!',
          'thing_2 text',
          'amount_2 decimal',
          'paid yes-no!',
        ],
      ],
      ['beds', 'each', ['code text!', 'name text!', 'area decimal!']],
    ]);
  });

  it('follows what was decided of sheets and columns', () => {
    const plan = planned({
      sheets: { Beds: { leaveOut: true }, Orders: { label: 'Purchases' } },
      columns: {
        'Orders/Paid': { kind: 'text', label: 'Settled' },
        'Orders/No': { leaveOut: true },
        'Orders/Ordered on': { personal: 'birth' },
      },
    });
    expect(shape(plan)).toEqual([
      ['suppliers', 'distinct', ['supplier text!', 'phone phone!']],
      ['purchases', 'each', ['bed text!', 'ordered_on date!', 'supplier reference!', 'settled text']],
      ['purchase_lines', 'numbered', ['thing text', 'amount decimal']],
    ]);
    expect(tableOf(plan, 'purchases').columns[1]?.column.personal).toBe('birth');
  });

  it('asks of every record only what all there are bear, and not what was left open', () => {
    const rules = (decisions: Partial<Decisions>) =>
      tableOf(planned(decisions), 'orders').columns.map(
        ({ column }) => `${column.key}${column.required ? '!' : ''}${column.unique ? '*' : ''}`,
      );
    expect(rules({})).toEqual(['no!*', 'bed!', 'ordered_on!', 'supplier!', 'paid!']);
    expect(
      rules({
        columns: {
          'Orders/No': { unique: false },
          'Orders/Bed': { required: false },
          'Orders/Ordered on': { required: false, unique: true },
          'Orders/Paid': { required: false },
        },
      }),
    ).toEqual(['no!', 'bed', 'ordered_on', 'supplier!', 'paid!']);
  });

  it('asks only about what is taken', () => {
    const asking = detected({
      Trips: [
        ['No', 'On', 'Fee'],
        ['1', '03/04/2026', '1,500'],
        ['2', '05/06/2026', '2,250'],
      ],
    });
    const paths = (decisions: Partial<Decisions> = {}) =>
      openAsks(asking, { ...noDecisions, ...decisions }).map(({ path }) => path);
    expect(paths()).toEqual(['Trips/On', 'Trips/Fee']);
    expect(paths({ columns: { 'Trips/On': { dateOrder: 'mdy' }, 'Trips/Fee': { leaveOut: true } } })).toEqual(
      [],
    );
    expect(paths({ columns: { 'Trips/On': { kind: 'text' } } })).toEqual(['Trips/Fee']);
    expect(paths({ sheets: { Trips: { leaveOut: true } } })).toEqual([]);
    const fee = (sign: '.' | ',') =>
      planImport(ID, asking, { ...noDecisions, columns: { 'Trips/Fee': { decimalSign: sign } } }).tables[0]
        ?.columns[2]?.column;
    expect([fee('.'), fee(',')].map((column) => [column?.kind, column?.decimals])).toEqual([
      ['whole', 0],
      ['decimal', 3],
    ]);
  });

  it('makes a heading of the name of a file', () => {
    expect(['garden_walks', 'spring-list 2026', 'Beds'].map(sheetLabel)).toEqual([
      'Garden walks',
      'Spring list 2026',
      'Beds',
    ]);
  });
});

describe('headings made for machines', () => {
  it('are written as people would, and others stay', () => {
    expect(['customer_id', 'supplier phone', 'pH', 'Bed', 'Area m2'].map(headingLabel)).toEqual([
      'Customer id',
      'Supplier phone',
      'pH',
      'Bed',
      'Area m2',
    ]);
  });
});

describe('the first rows of what would be made', () => {
  const plan = planned();
  const rows = (key: string, most = 2) =>
    previewRows(
      tableOf(plan, key),
      (untidy[tableOf(plan, key).sheet] ?? []).slice(1),
      most,
      'Europe/London',
    ).map((cells) => cells.map(({ text }) => text));

  it('show values as they will be kept, each different one once, and rows side by side under one another', () => {
    expect(rows('beds')).toEqual([
      ['B-0', 'Bed number 0', '0.25'],
      ['B-1', 'Bed number 1', '1.25'],
    ]);
    expect(rows('suppliers', 9)).toEqual([
      ['Acorn', '01632 960111'],
      ['Birch', '01632 960222'],
      ['Cedar', '01632 960333'],
    ]);
    expect(rows('orders', 1)).toEqual([['O-0', 'b-0', 'Sun 1 Mar 2026', 'Acorn', 'Yes']]);
    expect(rows('order_lines', 3)).toEqual([
      ['Tool 0', '0.0'],
      ['Tool 0', '1.5'],
      ['Tool 1', '1.0'],
    ]);
  });

  it('mark what does not fit, and are counted', () => {
    const table =
      planImport(
        ID,
        detected({
          S: [
            ['No', 'Count'],
            ...Array.from({ length: 20 }, (_, i) => [`N${i}`, i === 0 ? 'many' : String(i)]),
          ],
        }),
        noDecisions,
      ).tables[0] ?? expect.fail('no table');
    expect(previewRows(table, [['N0', 'many']], 1, 'Europe/London')).toEqual([
      [
        { text: 'N0', trouble: false },
        { text: 'many', trouble: true },
      ],
    ]);
    // What names a record that is not there is in trouble, whoever wrote it how, unless it gets a record of its own.
    const seen = (adds: boolean) =>
      previewRows(
        {
          ...table,
          columns: table.columns.map((one, at) =>
            at === 0 ? { ...one, finds: { table: 't', column: 'c', label: 'Beds', adds } } : one,
          ),
        },
        [
          [' n 7', '1'],
          ['N1', '2'],
        ],
        2,
        'Europe/London',
        { asItStands: () => false, notThere: () => ['N7'] },
      ).map(([cell]) => cell?.trouble);
    expect([seen(false), seen(true)]).toEqual([
      [true, false],
      [false, false],
    ]);
    expect(plan.tables.map((one) => recordsOf(one, detection))).toEqual([3, 12, 36, 54]);
  });
});
