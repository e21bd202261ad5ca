import { describe, expect, it } from 'vitest';
import { detected, many, untidy } from '../../../tests/support/sheets';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { missesSentence, proposalSentence } from '../wording/proposal-sentence';
import { asKind, asNames, noDecisions, type Decisions } from './decisions';
import { namedBeforeMade, namesFor } from './import-plan';
import { planImport } from './plan-import';
import type { Named } from './detection';
import { addedThere, addedTo, isSame, nameable, neededBesides, relationId, relationsOf } from './references';
import { proposalsOf } from './proposals';

const ID = '01900000-0000-7000-b000-000000000001';
/** Two of the beds that are weeded are not among the beds. */
const sheets = {
  ...untidy,
  Weeding: [
    ['Job', 'Bed', 'Helper'],
    ...many(24, (i) => [`J-${i}`, i === 4 ? 'B-98' : i === 9 ? 'B-99' : `B-${i % 12}`, `Person ${i % 5}`]),
  ],
};
const detection = detected(sheets);
const [path, id] = ['Weeding/Bed', 'relation:Weeding/Bed'];
const orders: Named = { to: { sheet: 'Orders', column: 'No' }, table: null };
const columnOf = (decisions: Decisions, key: string, table = 'weeding') =>
  planImport(ID, detection, decisions)
    .tables.find((one) => one.table.key === table)
    ?.columns.find(({ column }) => column.key === key);
const relation = (decisions: Decisions) =>
  relationsOf(detection, decisions).find((one) => relationId(one) === id) ?? expect.fail('no relation');

describe('what a column names', () => {
  it('is what was found, until somebody says otherwise, and again when it is said to be a kind', () => {
    expect(relation(noDecisions)).toMatchObject({
      to: { sheet: 'Beds', column: 'Code' },
      covered: 12,
      missed: 2,
    });
    const said = asNames(noDecisions, path, orders, id);
    expect(relation(said)).toMatchObject({ to: orders.to, covered: 0, missed: 0 });
    expect(columnOf(said, 'bed')?.finds).toMatchObject({ label: 'Orders' });
    const text = asKind(said, path, 'text', id);
    expect([text.columns[path], text.declined, columnOf(text, 'bed')?.column.kind]).toEqual([
      { kind: 'text' },
      [id],
      'text',
    ]);
    const back = asNames(text, path, { to: { sheet: 'Beds', column: 'Code' }, table: null }, id);
    expect([relation(back).missed, back.declined, columnOf(back, 'bed')?.column.kind]).toEqual([
      2,
      [],
      'reference',
    ]);
  });

  it('may be said of a column of which nothing was found', () => {
    const said = asNames(noDecisions, 'Weeding/Helper', orders, 'relation:Weeding/Helper');
    expect(columnOf(said, 'helper')?.column).toMatchObject({ kind: 'reference' });
    const weeding = detection.sheets.find(({ name }) => name === 'Weeding') ?? expect.fail('no sheet');
    expect(proposalsOf(detection, weeding, said).map((one) => proposalSentence(one, 'it'))).toContain(
      '“Helper” names records of Orders by their No, as you said',
    );
  });

  it('is offered among what tells rows and records apart', () => {
    const table = {
      ...plainTable,
      id: 't',
      key: 'sheds',
      prefix: 'SH',
      label: 'Sheds',
      columns: [
        { ...plainColumn, id: 'a', key: 'code', label: 'Code', kind: 'text' as const, unique: true },
        { ...plainColumn, id: 'b', key: 'opened', label: 'Opened', kind: 'date' as const, unique: true },
      ],
    };
    const labels = (decisions: Decisions) =>
      nameable(detection, decisions, [table], { sheet: 'Weeding', column: 'Job' }).map(
        ({ to }) => `${to.sheet}.${to.column}`,
      );
    expect(labels(noDecisions)).toEqual(['Orders.No', 'Beds.Code', 'Beds.Name', 'Sheds.Code']);
    expect(
      labels({
        ...noDecisions,
        sheets: { Beds: { leaveOut: true } },
        columns: { 'Orders/No': { leaveOut: true } },
      }),
    ).toEqual(['Sheds.Code']);
    expect([isSame(orders, orders), isSame(orders, { ...orders, table: { id: 't', column: 'a' } })]).toEqual([
      true,
      false,
    ]);
  });
});

describe('what is named and not there', () => {
  const adds: Decisions = { ...noDecisions, adds: [id] };

  it('is told with its rows', () => {
    expect(missesSentence({ misses: many(7, (i) => ({ row: i + 2, text: `B-${i}` })), missed: 7 })).toBe(
      'Not found: “B-0” in row 2, “B-1” in row 3, “B-2” in row 4, “B-3” in row 5, “B-4” in row 6 and 2 more',
    );
    expect(
      missesSentence({
        misses: [
          { row: 6, text: 'B-98' },
          { row: 11, text: 'B-99' },
        ],
        missed: 2,
      }),
    ).toBe('Not found: “B-98” in row 6 and “B-99” in row 11');
  });

  it('becomes records where that is said: nothing else of them need be known', () => {
    expect([
      columnOf(noDecisions, 'bed')?.column.required,
      columnOf(noDecisions, 'name', 'beds')?.column.required,
    ]).toEqual([false, true]);
    expect([
      columnOf(adds, 'bed')?.column.required,
      columnOf(adds, 'name', 'beds')?.column.required,
      columnOf(adds, 'code', 'beds')?.column.required,
    ]).toEqual([true, false, true]);
    const plan = planImport(ID, detection, adds);
    expect([
      namedBeforeMade(plan).map(({ table }) => table.key),
      namedBeforeMade(planImport(ID, detection, noDecisions)),
    ]).toEqual([['beds'], []]);
    expect(namesFor(plan, columnOf(adds, 'code', 'beds')?.column.id ?? '')).toEqual([
      { sheet: 'Weeding', at: [1], empty: [] },
    ]);
    expect([
      addedTo(detection, adds, 'Beds'),
      addedTo(detection, { ...adds, declined: [id] }, 'Beds'),
      addedTo(detection, noDecisions, 'Beds'),
    ]).toEqual([2, 0, 0]);
  });

  it('becomes records of a table there is, if they need nothing but the name', () => {
    const code: Column = {
      ...plainColumn,
      id: 'code',
      key: 'code',
      label: 'Code',
      kind: 'text',
      required: true,
      unique: true,
    };
    const sheds = (...more: Column[]): Table => ({
      ...plainTable,
      id: 't',
      key: 'sheds',
      prefix: 'SH',
      label: 'Sheds',
      columns: [code, ...more],
    });
    const said = {
      ...asNames(
        noDecisions,
        'Weeding/Helper',
        { to: { sheet: 'Sheds', column: 'Code' }, table: { id: 't', column: 'code' } },
        'relation:Weeding/Helper',
      ),
      adds: ['relation:Weeding/Helper'],
    };
    const named = (table: Table) => planImport(ID, detection, said, [table]).named;
    expect(named(sheds())).toMatchObject([
      {
        sheet: 'Weeding',
        table: { id: 't' },
        rows: { t: 'distinct', by: 2, unless: 'code' },
        into: { table: 't', by: ['code'], what: 'add' },
        columns: [{ at: [2], finds: null, column: { id: 'code', required: false } }],
      },
    ]);
    expect(addedThere(detection, said, [sheds()]).map(({ from }) => from.column)).toEqual(['Helper']);
    const required = { ...code, id: 'opened', key: 'opened', label: 'Opened', unique: false };
    expect(
      neededBesides(
        relationsOf(detection, said).find(({ from }) => from.column === 'Helper') ??
          expect.fail('no relation'),
        [sheds(required)],
      ),
    ).toEqual(['Opened']);
    expect([named(sheds(required)), addedThere(detection, said, [sheds(required)])]).toEqual([[], []]);
    expect([
      named(sheds({ ...required, required: false })).length,
      named(sheds({ ...required, default: '"old"' })).length,
    ]).toEqual([1, 1]);
    expect([
      named({ ...sheds(), parent: 'other' }),
      named({ ...sheds(), linked: { source: 'Seed exchange', adds: true, changes: true } }),
      planImport(ID, detection, said, []).named,
    ]).toEqual([[], [], []]);
    expect(
      planImport(ID, detection, { ...said, declined: ['relation:Weeding/Helper'] }, [sheds()]).named,
    ).toEqual([]);
  });
});
