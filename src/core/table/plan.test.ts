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

describe('a table that is there already', () => {
  const col = (id: string, more: Partial<Column> = {}): Column => ({
    ...plainColumn,
    id,
    key: id,
    label: id.toUpperCase(),
    ...more,
  });
  const table = (columns: readonly Column[], more: Partial<Table> = {}): Table => ({
    ...plainTable,
    id: 't',
    key: 't',
    label: 'T',
    prefix: 'T',
    columns,
    ...more,
  });
  const choices = (...codes: string[]) => codes.map((code) => ({ code, label: code.toUpperCase() }));
  const planned = (there: Table, after: Table): unknown[] => {
    const plan = planTables([there], [after]);
    return plan.ok
      ? plan.value.map((change) => [change.t, 'column' in change ? change.column.id : null])
      : plan.error.map(({ code, path }) => [code, ...path]);
  };

  it('keeps the key a column has, and requires of its records no more than it did', () => {
    const [there] = [table([col('a', { key: 'old_key', required: false })])];
    const plan = planTables([there], [table([col('a', { key: 'new_key', label: 'New', required: true })])]);
    expect(plan.ok && plan.value).toMatchObject([
      { t: 'relabel-column', before: 'A', column: { key: 'old_key', label: 'New', required: false } },
    ]);
    expect(plan.ok && plan.value).toHaveLength(1);
    expect(planned(table([col('a', { required: true })]), table([col('a')]))).toEqual([
      ['loosen-column', 'a'],
    ]);
    expect(planned(table([col('a', { required: true })]), table([col('a', { required: true })]))).toEqual([]);
    expect(planned(table([col('a', { required: true }), col('b')]), table([]))).toEqual([
      ['loosen-column', 'a'],
    ]);
  });

  it('takes no other kind, target or number of decimals, and no column that was retired', () => {
    const [decimal, reference] = [
      (decimals: number | null) => table([col('a', { kind: 'decimal', decimals })]),
      (target: string) => table([col('a', { kind: 'reference', target })]),
    ];
    expect(planned(decimal(2), decimal(3))).toEqual([['kind-changed', 'store', 't', 'a']]);
    expect(planned(decimal(0), decimal(null))).toEqual([]);
    expect(planned(reference('x'), reference('y'))).toEqual([['kind-changed', 'store', 't', 'a']]);
    expect(planned(table([], { retired: [col('a')] }), table([col('a')]))).toEqual([
      ['column-retired', 'store', 't', 'a'],
    ]);
    expect(planned(table([], { retired: [col('b', { key: 'a' })] }), table([col('a')]))).toEqual([
      ['column-clash', 'store', 't', 'a'],
    ]);
  });

  it('of choices keeps those records may hold, retired ones retired, and takes none from a list', () => {
    const own = (...codes: string[]) => table([col('a', { kind: 'choice', choices: choices(...codes) })]);
    expect(planned(own('x', 'y'), own('y', 'x'))).toEqual([]);
    expect(planned(own('x', 'y'), own('x'))).toEqual([]);
    const retired = table([
      col('a', { kind: 'choice', choices: [{ code: 'x', label: 'Old', retired: true }] }),
    ]);
    const plan = planTables([retired], [own('x')]);
    expect(plan.ok && plan.value).toMatchObject([
      { t: 'change-choices', column: { choices: [{ code: 'x', label: 'X', retired: true }] } },
    ]);
    const list = (id: string, ...codes: string[]) =>
      table([col('a', { kind: 'choice', choices: choices(...codes), list: { id, label: `List ${id}` } })]);
    expect(planned(list('l', 'x', 'y'), own('x'))).toEqual([]);
    expect(planned(list('l', 'x', 'y'), list('l', 'x', 'y', 'z'))).toEqual([]);
    const beyond = planTables([list('l', 'x')], [own('x', 'z', 'w')]);
    expect(!beyond.ok && beyond.error).toMatchObject([
      { code: 'choice-not-in-list', facts: { list: 'List l', choices: 'Z, W' } },
    ]);
    expect(planned(own('x'), list('l', 'x', 'y'))).toEqual([['change-choices', 'a']]);
    const lacking = planTables([own('x', 'z')], [list('l', 'x')]);
    expect(!lacking.ok && lacking.error).toMatchObject([
      { code: 'list-lacks', facts: { list: 'List l', choices: 'Z' } },
    ]);
    expect(planned(list('l', 'x'), list('m', 'x'))).toEqual([['change-choices', 'a']]);
  });

  it('of a source outside is only called otherwise, and asks for what the source demands', () => {
    const linked = (columns: readonly Column[], adds = true, more: Partial<Table> = {}): Table =>
      table(columns, { linked: { source: 'Exchange', adds, changes: true }, ...more });
    const there = linked([col('a', { required: true }), col('b')]);
    expect(
      planned(
        there,
        linked([col('a', { label: 'Code', required: true }), col('b')], true, { label: 'Theirs' }),
      ),
    ).toEqual([
      ['relabel-table', null],
      ['relabel-column', 'a'],
    ]);
    expect(planned(there, linked([col('b')]))).toEqual([['linked-required', 'store', 't', 'a']]);
    expect(planned(there, linked([...there.columns, col('c')]))).toEqual([
      ['linked-structure', 'store', 't', 'c'],
    ]);
    expect(planned(linked([col('a')], false), linked([col('a')], false))).toEqual([
      ['linked-no-adding', 'store', 't'],
    ]);
    expect(planned(there, linked([col('a'), col('b')]))).toEqual([]);
  });
});
