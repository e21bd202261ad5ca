import type { Field, Scope } from '../expression/type';
import { oncePer } from '../kernel/once-per';
import { fieldsOf } from '../form/scope';
import { kinds } from '../table/kinds/list';
import type { Table } from '../table/model';
import { ME, meField } from '../expression/person';

/** What an expression over the records of a table may name: its columns, those of the records it refers to, and the rows that belong to a record. */
export const tableScope = (table: Table, tables: ReadonlyMap<string, Table>): Scope =>
  scopesWith(tables).records(table);

/** What a filter may name besides: whoever looks. */
export const filterScope = (table: Table, tables: ReadonlyMap<string, Table>): Scope =>
  scopesWith(tables).filters(table);

const scopesWith = oncePer((tables: ReadonlyMap<string, Table>) => ({
  records: oncePer((table: Table) => namesOf(table, tables)),
  filters: oncePer((table: Table): Scope => {
    const names = namesOf(table, tables);
    return names.has(ME) ? names : new Map([...names, [ME, meField]]);
  }),
}));

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
