import { describe, expect, it } from 'vitest';
import { design } from '../../../tests/support/designs';
import { baseTables } from '../../../demo/tables';
import { tablesOf } from '../storage/tables-of';
import { changeSentence } from '../wording/change-sentence';
import { plainColumn, plainTable, type Column, type Table } from './model';
import { planTables } from './plan';

const wanted = tablesOf(design);
const words = (there: readonly Table[], after: readonly Table[]): string[] => {
  const plan = planTables(there, after);
  if (!plan.ok) throw new Error(JSON.stringify(plan.error));
  return plan.value.map((change) => changeSentence(change));
};
const withColumns = (table: Table, change: (columns: readonly Column[]) => readonly Column[]): Table => ({
  ...table,
  columns: change(table.columns),
});

describe('the tables of a form', () => {
  it('are one for its answers with the totals, and one for each repeating group', () => {
    expect(
      wanted.map(({ key, parent, columns }) => [key, parent, columns.map((column) => column.key)]),
    ).toEqual([
      ['treatments', null, ['bed', 'bed_area', 'total', 'planned_on', 'path_closed', 'seen']],
      ['treatment_lines', design.table.id, ['product', 'rate', 'area', 'amount']],
    ]);
  });

  it('require what must be filled, but never what is calculated', () => {
    expect(wanted[1]?.columns.map(({ key, required }) => [key, required])).toEqual([
      ['product', true],
      ['rate', true],
      ['area', false],
      ['amount', false],
    ]);
  });
});

describe('planning', () => {
  it('makes what is not there, parents first', () => {
    expect(words(baseTables, wanted)).toEqual([
      'The table Treatments is made, with 6 columns',
      'The table Treatment lines is made, with 4 columns',
    ]);
  });

  it('of what is there already is nothing', () =>
    expect(words([...baseTables, ...wanted], wanted)).toEqual([]));

  it('adds a column that may be empty, for rows there are do not have it', () => {
    const [parent, lines] = wanted as [Table, Table];
    const extra: Column = { ...plainColumn, id: 'qnew', key: 'wind', label: 'Wind', required: true };
    const plan = planTables(wanted, [withColumns(parent, (columns) => [...columns, extra]), lines]);
    expect(plan.ok && plan.value).toMatchObject([
      { t: 'add-column', column: { key: 'wind', required: false } },
    ]);
  });

  it('never drops a column that is no longer asked for, and lets it be empty', () => {
    const [parent, lines] = wanted as [Table, Table];
    expect(
      words(wanted, [
        withColumns(parent, (columns) => columns.filter(({ key }) => key !== 'planned_on')),
        lines,
      ]),
    ).toEqual(['“When should it be done?” in Treatments may be left empty']);
  });

  it('refuses another kind for a column with rows, a second column of one key, and a table key that is taken', () => {
    const [parent, lines] = wanted as [Table, Table];
    const other = withColumns(parent, (columns) =>
      columns.map((column) => (column.key === 'seen' ? { ...column, kind: 'whole' as const } : column)),
    );
    const clash = withColumns(lines, (columns) => [...columns, { ...(columns[0] as Column), id: 'qother' }]);
    const plan = planTables(
      [...baseTables, ...wanted],
      [other, clash, { ...parent, id: 'another', key: 'beds' }],
    );
    expect(plan.ok ? [] : plan.error.map(({ code }) => code)).toEqual([
      'kind-changed',
      'column-clash',
      'table-key-taken',
    ]);
  });

  it('keeps codes that rows may hold when choices change', () => {
    const choices = (...codes: string[]) => codes.map((code) => ({ code, label: code.toUpperCase() }));
    const table = (list: ReturnType<typeof choices>): Table => ({
      ...plainTable,
      id: 't',
      key: 't',
      label: 'T',
      prefix: 'T',
      columns: [{ ...plainColumn, id: 'c', key: 'c', label: 'C', kind: 'choice', choices: list }],
    });
    const plan = planTables([table(choices('a', 'b'))], [table(choices('b', 'c'))]);
    expect(plan.ok && plan.value[0]).toMatchObject({
      t: 'change-choices',
      column: { choices: choices('a', 'b', 'c') },
    });
  });

  it('says every change in words', () => {
    const [parent, lines] = wanted as [Table, Table];
    const relabelled = {
      ...withColumns(parent, (columns) =>
        columns.map((column) => (column.key === 'seen' ? { ...column, label: 'Seen' } : column)),
      ),
      label: 'Sprayings',
    };
    expect(words(wanted, [relabelled, lines])).toEqual([
      'The table “Treatments” is renamed “Sprayings”',
      '“What did you see?” in Sprayings is renamed “Seen”',
    ]);
  });
});
