import type { Field, Scope } from '../expression/type';
import { fieldsOf } from '../form/scope';
import { kinds } from '../table/kinds/list';
import type { Table } from '../table/model';
import { ME, meField } from '../expression/person';

/** What an expression over the records of a table may name: its columns, those of the records it refers to, and the rows that belong to a record. */
export function tableScope(table: Table, tables: ReadonlyMap<string, Table>): Scope {
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

/** What a filter may name besides: whoever looks. */
export function filterScope(table: Table, tables: ReadonlyMap<string, Table>): Scope {
  const names = new Map(tableScope(table, tables));
  if (!names.has(ME)) names.set(ME, meField);
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
