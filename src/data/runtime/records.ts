import { sql, type SQL } from 'drizzle-orm';
import type { RecordData } from '../../contract/answers-from-server';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../connect';
import { shownText } from './shown-text';
import { alias, columnName, stampName, tableName } from '../identifiers';

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
): Promise<{ rows: RecordData[]; total: number }> {
  const direction = query.descending ? sql`DESC NULLS LAST` : sql`ASC NULLS LAST`;
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(sql`
    SELECT ${selected(tables, table)} FROM ${tableName(table)} AS t ${joins(tables, table)}
    WHERE t.removed_at IS NULL ORDER BY ${sortSql(tables, table, query.sort)} ${direction}, t.id
    LIMIT ${query.size} OFFSET ${(query.page - 1) * query.size}`);
  const counted = await tx.execute<{ n: number }>(
    sql`SELECT count(*)::int AS n FROM ${tableName(table)} AS t WHERE t.removed_at IS NULL`,
  );
  return { rows: rows.map((row) => asRecordData(table, row)), total: counted.rows[0]?.n ?? 0 };
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
