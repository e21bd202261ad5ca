import { sql, type SQL } from 'drizzle-orm';
import type { RecordData } from '../../../contract/answers-from-server';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { shownText } from './shown-text';
import { alias, columnName, sortIndexName, sortIndexText, stampName, tableName } from '../../identifiers';

export interface RecordQuery {
  /** A column id, or `number` or `created_at`. */
  readonly sort: string;
  readonly descending: boolean;
  /** From 1. */
  readonly page: number;
  readonly size: number;
}

type Tables = ReadonlyMap<string, Table>;

/** The title of a record of `table` under an alias: its title columns joined as people see them, or its number. */
export function titleSql(table: Table | undefined, at: SQL): SQL {
  const titles = (table?.title ?? []).flatMap(
    (id) => table?.columns.find((column) => column.id === id) ?? [],
  );
  if (titles.length === 0) return sql`${at}.number`;
  return sql`concat_ws(' · ', ${sql.join(
    titles.map((column) => shownText(column, at)),
    sql`, `,
  )})`;
}

/** One page of a table, in a total order. Columns of related tables come with it by one join each. */
export async function readRecords(
  tx: Tx,
  tables: Tables,
  table: Table,
  query: RecordQuery,
): Promise<RecordData[]> {
  const order = orderSql(tables, table, query);
  const page = sql`LIMIT ${query.size} OFFSET ${(query.page - 1) * query.size}`;
  // What comes along from other tables comes along for one page only, unless it is what the records are sorted by.
  const from = isReference(table, query.sort)
    ? sql`${tableName(table)} AS t ${joins(tables, table)} WHERE t.removed_at IS NULL ORDER BY ${order} ${page}`
    : sql`(SELECT * FROM ${tableName(table)} AS t WHERE t.removed_at IS NULL ORDER BY ${order} ${page}) AS t ${joins(tables, table)} ORDER BY ${order}`;
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(
    sql`SELECT ${selected(tables, table)} FROM ${from}`,
  );
  return rows.map((row) => asRecordData(table, row));
}

/** How many records there are, counted one by one. */
export async function countRecords(tx: Tx, table: Table): Promise<number> {
  const { rows } = await tx.execute<{ n: number }>(
    sql`SELECT count(*)::int AS n FROM ${tableName(table)} AS t WHERE t.removed_at IS NULL`,
  );
  return rows[0]?.n ?? 0;
}

const isReference = (table: Table, sort: string): boolean =>
  table.columns.some(({ id, kind }) => id === sort && kind === 'reference');

/** What stands in every record has no place for nothing, and one index serves both ways; it is spelled as the index is, or PostgreSQL does not see it. */
function orderSql(tables: Tables, table: Table, { sort, descending }: RecordQuery): SQL {
  const way = descending ? sql`DESC` : sql`ASC`;
  const nulls = isAlwaysThere(table, sort) ? sql`` : sql` NULLS LAST`;
  return sql`${sortSql(tables, table, sort)} ${way}${nulls}, t.id ${way}`;
}

const isAlwaysThere = (table: Table, sort: string): boolean =>
  table.columns.find(({ id }) => id === sort)?.required ?? true;

/** Has an index made for sorting a large table like this, if there is none. The number has one always, and other tables' names none. */
export async function askSortIndex(
  tx: Tx,
  table: Table,
  { sort, descending }: Pick<RecordQuery, 'sort' | 'descending'>,
): Promise<void> {
  const known = sort === 'created_at' || table.columns.some(({ id }) => id === sort);
  if (!known || isReference(table, sort)) return;
  const down = descending && !isAlwaysThere(table, sort);
  await tx.execute(
    sql`SELECT slate.ask_sort_index(${table.id}::uuid, ${sort}, ${down}) WHERE NOT EXISTS (SELECT 1 FROM pg_index WHERE indexrelid = to_regclass(${`records."${sortIndexText(table, sort, down)}"`}) AND indisvalid)`,
  );
}

/** The statement that makes it, while people go on working; null where the column is there no more. */
export function sortIndex(table: Table, sort: string, descending: boolean): { drop: SQL; make: SQL } | null {
  const known = sort === 'created_at' || table.columns.some(({ id }) => id === sort);
  if (!known || isReference(table, sort)) return null;
  const column = sort === 'created_at' ? stampName('created_at') : columnOf(table, sort);
  const name = sortIndexName(table, sort, descending);
  const way = descending ? sql`DESC NULLS LAST, id DESC` : sql`ASC, id ASC`;
  return {
    // What was begun and not ended is of no use, and in the way.
    drop: sql`DROP INDEX CONCURRENTLY IF EXISTS records.${name}`,
    make: sql`CREATE INDEX CONCURRENTLY ${name} ON ${tableName(table)} (${column} ${way}) WHERE removed_at IS NULL`,
  };
}

function columnOf(table: Table, id: string): SQL {
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined) throw new Error(`${table.key} has no column ${id}`);
  return columnName(column);
}

/** The records after one, by id, which is the order they were made in, to the millisecond; from the first with null. */
export async function recordsAfter(
  tx: Tx,
  tables: Tables,
  table: Table,
  last: string | null,
  most: number,
): Promise<RecordData[]> {
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(sql`
    SELECT ${selected(tables, table)} FROM ${tableName(table)} AS t ${joins(tables, table)}
    WHERE t.removed_at IS NULL ${last === null ? sql`` : sql`AND t.id > ${last}::uuid`} ORDER BY t.id LIMIT ${most}`);
  return rows.map((row) => asRecordData(table, row));
}

export async function readRecord(
  tx: Tx,
  tables: Tables,
  table: Table,
  id: string,
): Promise<RecordData | null> {
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(sql`
    SELECT ${selected(tables, table)} FROM ${tableName(table)} AS t ${joins(tables, table)} WHERE t.id = ${id}::uuid AND t.removed_at IS NULL`);
  return rows[0] === undefined ? null : asRecordData(table, rows[0]);
}

/** The rows that belong to a record, in their order. */
export async function readChildren(
  tx: Tx,
  tables: Tables,
  child: Table,
  parent: string,
  most: number,
): Promise<RecordData[]> {
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(sql`
    SELECT ${selected(tables, child)} FROM ${tableName(child)} AS t ${joins(tables, child)}
    WHERE t.parent_id = ${parent}::uuid AND t.removed_at IS NULL ORDER BY t.position LIMIT ${most}`);
  return rows.map((row) => asRecordData(child, row));
}

const references = (table: Table): Column[] => table.columns.filter((column) => column.kind === 'reference');

function joins(tables: Tables, table: Table): SQL {
  const found = references(table).flatMap((column, i) => {
    const target = tables.get(column.target ?? '');
    return target === undefined
      ? []
      : [sql`LEFT JOIN ${tableName(target)} AS ${alias(i)} ON ${alias(i)}.id = t.${columnName(column)}`];
  });
  return sql.join(found, sql` `);
}

function selected(tables: Tables, table: Table): SQL {
  const cells = table.columns.map(
    (column, i) => sql`${cellSql(tables, table, column)} AS ${sql.identifier(`c${i}`)}`,
  );
  return sql.join(
    [
      sql`t.id`,
      sql`t.number`,
      sql`to_json(t.created_at) #>> '{}' AS made_at`,
      sql`(SELECT name FROM slate.person p WHERE p.id = t.created_by) AS made_by`,
      sql`to_json(t.updated_at) #>> '{}' AS changed_at`,
      sql`t.version`,
      sql`t.submission_id`,
      ...cells,
    ],
    sql`, `,
  );
}

function cellSql(tables: Tables, table: Table, column: Column): SQL {
  if (column.kind === 'yes-no') return sql`t.${columnName(column)}`;
  if (column.kind !== 'reference') return sql`t.${columnName(column)}::text`;
  const at = alias(references(table).indexOf(column));
  const target = tables.get(column.target ?? '');
  return target === undefined
    ? sql`NULL`
    : sql`CASE WHEN ${at}.id IS NOT NULL THEN ${titleSql(target, at)} END`;
}

function sortSql(tables: Tables, table: Table, sort: string): SQL {
  const column = table.columns.find(({ id }) => id === sort);
  if (column === undefined) return sql`t.${stampName(sort === 'created_at' ? 'created_at' : 'number')}`;
  return column.kind === 'reference' ? cellSql(tables, table, column) : sql`t.${columnName(column)}`;
}

function asRecordData(table: Table, row: Record<string, string | boolean | null>): RecordData {
  return {
    id: String(row['id']),
    number: String(row['number']),
    createdAt: String(row['made_at']),
    createdBy: row['made_by'] === null ? null : String(row['made_by']),
    updatedAt: String(row['changed_at']),
    version: Number(row['version']),
    submissionId: row['submission_id'] === null ? null : String(row['submission_id']),
    cells: Object.fromEntries(table.columns.map((column, i) => [column.id, row[`c${i}`] ?? null])),
  };
}
