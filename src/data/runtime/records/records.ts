import { sql, type SQL } from 'drizzle-orm';
import type { RecordData } from '../../../contract/answers-from-server';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { also, joined, type Condition } from './filter-sql';
import { shownText } from './shown-text';
import { alias, columnName, sortIndexName, sortIndexText, stampName, tableName } from '../../identifiers';

export interface RecordQuery {
  /** A column id, or `number` or `created_at`. */
  readonly sort: string;
  readonly descending: boolean;
  /** The record, by id, after or before which it goes on; null for the first. */
  readonly from: { readonly side: 'after' | 'before'; readonly id: string } | null;
  /** What records must be like; null for all. */
  readonly where: Condition | null;
  readonly most: number;
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

/**
 * Some records of a table in a total order, from the first or from another on. What comes along from other tables comes along by one join each, for these
 * records only.
 */
export async function readRecords(
  tx: Tx,
  tables: Tables,
  table: Table,
  query: RecordQuery,
): Promise<RecordData[]> {
  const found: RecordData[] = [];
  for (const condition of await keysets(tx, tables, table, query)) {
    const most = query.most - found.length;
    if (most <= 0) break;
    found.push(...(await readSome(tx, tables, table, { ...query, most }, condition)));
  }
  return query.from?.side === 'before' ? found.reverse() : found;
}

async function readSome(
  tx: Tx,
  tables: Tables,
  table: Table,
  query: RecordQuery,
  condition: SQL | null,
): Promise<RecordData[]> {
  const order = orderSql(tables, table, query);
  const where = sql`t.removed_at IS NULL${also(query.where)}${condition === null ? sql`` : sql` AND ${condition}`}`;
  const from = sql`${tableName(table)} AS t${joined(query.where)}`;
  const some = isReference(table, query.sort)
    ? sql`${from} ${joins(tables, table)} WHERE ${where} ORDER BY ${order} LIMIT ${query.most}`
    : sql`(SELECT t.* FROM ${from} WHERE ${where} ORDER BY ${order} LIMIT ${query.most}) AS t ${joins(tables, table)} ORDER BY ${order}`;
  const { rows } = await tx.execute<Record<string, unknown>>(
    sql`SELECT ${selected(tables, table)} FROM ${some}`,
  );
  return rows.map((row) => asRecordData(table, row));
}

/**
 * The conditions, one after the other, under which the records beyond one are found by an index: those of its value, those beyond that, and those without a
 * value, which come last. Each is a stretch of the index; said together, every record of the value would be looked at.
 */
async function keysets(
  tx: Tx,
  tables: Tables,
  table: Table,
  { sort, descending, from }: RecordQuery,
): Promise<readonly (SQL | null)[]> {
  if (from === null) return [null];
  const value = sortSql(tables, table, sort);
  const ofIt = sql`FROM ${tableName(table)} AS t ${isReference(table, sort) ? joins(tables, table) : sql``} WHERE t.id = ${from.id}::uuid`;
  const { rows } = await tx.execute<{ blank: boolean }>(sql`SELECT ${value} IS NULL AS blank ${ofIt}`);
  const [row] = rows;
  if (row === undefined) return [null];
  const back = from.side === 'before';
  const beyond = descending !== back ? sql`<` : sql`>`;
  const others = sql`t.id ${beyond} ${from.id}::uuid`;
  const nullable = !isAlwaysThere(table, sort) || isReference(table, sort);
  if (row.blank) {
    const alike = sql`${value} IS NULL AND ${others}`;
    return back ? [alike, sql`${value} IS NOT NULL`] : [alike];
  }
  const here = sql`(SELECT ${value} ${ofIt})`;
  const further = [sql`${value} = ${here} AND ${others}`, sql`${value} ${beyond} ${here}`];
  return nullable && !back ? [...further, sql`${value} IS NULL`] : further;
}

/** Where each of these has its last row: by the id of the record whose rows they are. */
export async function lastPositions(
  tx: Tx,
  table: Table,
  parents: readonly string[],
): Promise<Map<string, number>> {
  const { rows } = await tx.execute<{ id: string; last: number }>(
    sql`SELECT parent_id AS id, max(position)::int AS last FROM ${tableName(table)} WHERE parent_id = ANY(${sql.param([...new Set(parents)])}::uuid[]) GROUP BY 1`,
  );
  return new Map(rows.map(({ id, last }) => [id, last]));
}

const isReference = (table: Table, sort: string): boolean =>
  table.columns.some(({ id, kind }) => id === sort && kind === 'reference');

/**
 * What stands in every record has no place for nothing, and one index serves both ways; it is spelled as the index is, or PostgreSQL does not see it.
 * Backwards, nothing comes first.
 */
function orderSql(
  tables: Tables,
  table: Table,
  { sort, descending, from }: Pick<RecordQuery, 'sort' | 'descending' | 'from'>,
): SQL {
  const back = from?.side === 'before';
  const way = descending !== back ? sql`DESC` : sql`ASC`;
  const nulls = isAlwaysThere(table, sort) ? sql`` : back ? sql` NULLS FIRST` : sql` NULLS LAST`;
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
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
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
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
    SELECT ${selected(tables, table)} FROM ${tableName(table)} AS t ${joins(tables, table)} WHERE t.id = ${id}::uuid AND t.removed_at IS NULL`);
  return rows[0] === undefined ? null : asRecordData(table, rows[0]);
}

/** The record that a number names, by id; null for none. */
export async function recordOfNumber(tx: Tx, table: Table, number: string): Promise<string | null> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM ${tableName(table)} WHERE number = ${number} AND removed_at IS NULL`,
  );
  return rows[0]?.id ?? null;
}

/** The record whose row this one is, by id. */
export async function parentOf(tx: Tx, table: Table, id: string): Promise<string | null> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT ${stampName('parent_id')} AS id FROM ${tableName(table)} WHERE id = ${id}::uuid`,
  );
  return rows[0]?.id ?? null;
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
      namedSql(table),
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

/** Which records the references name, for those who change them: ids in the order of the columns. */
const namedSql = (table: Table): SQL =>
  sql`ARRAY[${sql.join(
    references(table).map((column) => sql`t.${columnName(column)}`),
    sql`, `,
  )}]::uuid[] AS named`;

function sortSql(tables: Tables, table: Table, sort: string): SQL {
  const column = table.columns.find(({ id }) => id === sort);
  if (column === undefined) return sql`t.${stampName(stampOf(table, sort))}`;
  return column.kind === 'reference' ? cellSql(tables, table, column) : sql`t.${columnName(column)}`;
}

/** What it is sorted by that is no column; a name of nothing means the number. */
const stampOf = (table: Table, sort: string): 'created_at' | 'position' | 'number' =>
  sort === 'created_at' || (sort === 'position' && table.parent !== null) ? sort : 'number';

function asRecordData(table: Table, row: Record<string, unknown>): RecordData {
  const named = Array.isArray(row['named']) ? (row['named'] as (string | null)[]) : [];
  return {
    id: String(row['id']),
    number: String(row['number']),
    createdAt: String(row['made_at']),
    createdBy: textOr(row['made_by']),
    updatedAt: String(row['changed_at']),
    version: Number(row['version']),
    submissionId: textOr(row['submission_id']),
    cells: Object.fromEntries(
      table.columns.map((column, i) => [column.id, (row[`c${i}`] ?? null) as string | boolean | null]),
    ),
    named: Object.fromEntries(
      references(table).flatMap(({ id }, i) => (named[i] ? [[id, named[i]] as const] : [])),
    ),
  };
}

const textOr = (value: unknown): string | null => (typeof value === 'string' ? value : null);
