import { sql, type SQL } from 'drizzle-orm';
import { isText } from '../../../core/record/jump';
import { keptColumns, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, sortIndexName, sortIndexText, stampName, tableName } from '../../identifiers';
import type { PlacedSort } from './keysets';
import { inOrder, isAlwaysThere } from './places-sql';

/** Has an index made for sorting a large table like this, if there is none. Other tables' names have none. */
export async function askSortIndex(tx: Tx, table: Table, { place, descending }: PlacedSort): Promise<void> {
  const sort = indexed(table, place.t === 'stamp' ? place.stamp : place.column.id);
  if (sort === null) return;
  const down = descending && !isAlwaysThere(place);
  await tx.execute(
    sql`SELECT slate.ask_sort_index(${table.id}::uuid, ${sort.name}, ${down}) WHERE NOT EXISTS (SELECT 1 FROM pg_index WHERE indexrelid = to_regclass(${`records."${sortIndexText(table, sort.name, down)}"`}) AND indisvalid)`,
  );
}

/** The statement that makes it, while people go on working; null where the column is there no more. */
export function sortIndex(table: Table, sort: string, descending: boolean): { drop: SQL; make: SQL } | null {
  const column = indexed(table, sort)?.column;
  if (column === undefined) return null;
  const name = sortIndexName(table, sort, descending);
  const way = descending ? sql`DESC NULLS LAST, id DESC` : sql`ASC, id ASC`;
  return {
    // What was begun and not ended is of no use, and in the way.
    drop: sql`DROP INDEX CONCURRENTLY IF EXISTS records.${name}`,
    make: sql`CREATE INDEX CONCURRENTLY ${name} ON ${tableName(table)} (${column} ${way}) WHERE removed_at IS NULL`,
  };
}

/** What an index is made of: the id of a column of the table itself, `number` or `created_at`; null for what is sorted without one. */
function indexed(table: Table, id: string): { readonly name: string; readonly column: SQL } | null {
  if (id === 'created_at') return { name: id, column: sql`${stampName('created_at')}` };
  if (id === 'number') return { name: id, column: inOrder(sql`${stampName('number')}`) };
  const column = keptColumns(table).find((one) => one.id === id && one.kind !== 'reference');
  if (column === undefined) return null;
  return { name: id, column: isText({ column }) ? inOrder(columnName(column)) : columnName(column) };
}
