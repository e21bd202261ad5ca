import { DATE_TIME, listOf, TEXT, type Field, type Scope } from '../expression/type';
import { oncePer } from '../kernel/once-per';
import { fieldsOf } from '../form/scope';
import { kinds } from '../table/kinds/list';
import type { Table } from '../table/model';
import { ME, PERSON } from '../expression/person';

/**
 * What an expression over the records of a table may name: its columns, those of the records it refers to,
 * and the rows that belong to a record.
 */
export const tableScope = (table: Table, tables: ReadonlyMap<string, Table>): Scope =>
  scopesWith(tables).records(table);

/** What a filter may name besides: whoever looks, and who made and changed a record, and when. */
export const filterScope = (table: Table, tables: ReadonlyMap<string, Table>): Scope =>
  scopesWith(tables).filters(table);

/**
 * What a rule may name that says which records somebody sees: as a filter, but not the rows of a record, for
 * which of those are seen is asked of the record. Columns that are retired still hold, so that no rule ends
 * because a column does.
 */
export const rowRuleScope = (table: Table, tables: ReadonlyMap<string, Table>): Scope =>
  scopesWith(tables).rules(table);

/** Whoever looks, with the groups they are in, by their labels. */
const meField: Field = {
  id: ME,
  type: {
    ...PERSON,
    fields: new Map([...PERSON.fields, ['groups', { id: 'groups', type: listOf(TEXT) }]]),
  },
};

/** What every record says of itself. */
export const stampFields: ReadonlyMap<string, Field> = new Map([
  ['created_by', { id: 'created_by', type: PERSON }],
  ['created_at', { id: 'created_at', type: DATE_TIME }],
  ['updated_by', { id: 'updated_by', type: PERSON }],
  ['updated_at', { id: 'updated_at', type: DATE_TIME }],
]);

const scopesWith = oncePer((tables: ReadonlyMap<string, Table>) => ({
  records: oncePer((table: Table) => namesOf(table, tables)),
  filters: oncePer((table: Table) => asked(namesOf(table, tables))),
  rules: oncePer((table: Table) =>
    asked(
      new Map(
        [...namesOf({ ...table, columns: [...table.columns, ...table.retired] }, tables)].filter(
          ([, { type }]) => type.t !== 'rows',
        ),
      ),
    ),
  ),
}));

/** With whoever asks, and what records say of themselves, unless a column is called so. */
const asked = (names: Scope): Scope =>
  new Map([...names, ...[...stampFields, [ME, meField] as const].filter(([key]) => !names.has(key))]);

function namesOf(table: Table, tables: ReadonlyMap<string, Table>): Scope {
  const names = new Map<string, Field>();
  for (const column of table.columns) {
    const target = tables.get(column.target ?? '');
    names.set(column.key, {
      id: column.id,
      type:
        column.kind === 'reference'
          ? {
              t: 'record',
              table: column.target ?? '',
              fields: target === undefined ? new Map() : fieldsOf(target),
            }
          : kinds[column.kind].type,
    });
  }
  for (const rows of tables.values())
    if (rows.parent === table.id && !names.has(rows.key)) names.set(rows.key, rowsField(rows));
  return names;
}

/** The rows of a child table as an expression names them. Its id must itself be a name, for stored text has ids where people read keys. */
function rowsField(rows: Table): Field {
  const id = rowsName(rows.id);
  return { id, type: { t: 'rows', group: id, columns: fieldsOf(rows) } };
}
export const rowsName = (table: string): string => `t${table.replaceAll('-', '')}`;

/** The table whose rows are named so. */
export const rowsNamed = (name: string, tables: ReadonlyMap<string, Table>): Table | undefined =>
  tables.get(name.replace(/^t(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5'));
