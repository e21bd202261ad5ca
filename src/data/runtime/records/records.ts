import { sql, type SQL } from 'drizzle-orm';
import type { RecordData } from '../../../contract/answers-from-server';
import { ownPlace, type Place } from '../../../core/record/places';
import { isCalculated, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { also, joined, type Condition } from './filter-sql';
import { columnName, stampName, seenName } from '../../identifiers';
import { keysets, orderSql, type From, type PlacedSort } from './keysets';
import { PlacesSql } from './places-sql';

export interface RecordQuery {
  readonly sorts: readonly PlacedSort[];
  /** The record after or before which it goes on; null for the first. */
  readonly from: From | null;
  /** What records must be like; null for all. */
  readonly where: Condition | null;
  readonly most: number;
  /** What is shown besides the columns of the table. */
  readonly also?: readonly Place[];
}

type Tables = ReadonlyMap<string, Table>;

/**
 * Some records of a table in a total order, from the first or from another on. What comes along from other
 * tables comes along by one join each, for these records only.
 */
export async function readRecords(
  tx: Tx,
  tables: Tables,
  table: Table,
  query: RecordQuery,
): Promise<RecordData[]> {
  const found: RecordData[] = [];
  for (const condition of await keysets(tx, tables, table, query.sorts, query.from)) {
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
  const back = query.from?.side === 'before';
  const where = sql`t.removed_at IS NULL${also(query.where)}${condition === null ? sql`` : sql` AND ${condition}`}`;
  const [inner, outer] = [new PlacesSql(tables), new PlacesSql(tables)];
  const order = orderSql(inner, query.sorts, back);
  const again = orderSql(outer, query.sorts, back);
  const cells = selected(outer, table, query.also);
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
    SELECT ${cells} FROM (SELECT t.*${workedOut(table)} FROM ${seenName(table)} AS t${inner.joins()}${joined(query.where)} WHERE ${where} ORDER BY ${order} LIMIT ${query.most}) AS t${outer.joins()} ORDER BY ${again}`);
  return rows.map((row) => asRecordData(table, row, query.also));
}

/** What is worked out of a record is known by the record's type alone, which does not go beyond the table; a view has it as its own. */
const workedOut = (table: Table): SQL =>
  sql.join(
    table.columns
      .filter((column) => isCalculated(column) && !table.guarded)
      .map((column) => sql`, t.${columnName(column)} AS ${columnName(column)}`),
    sql``,
  );

/** Where each of these has its last row: by the id of the record whose rows they are. */
export async function lastPositions(
  tx: Tx,
  table: Table,
  parents: readonly string[],
): Promise<Map<string, number>> {
  const { rows } = await tx.execute<{ id: string; last: number }>(
    sql`SELECT parent_id AS id, max(position)::int AS last FROM ${seenName(table)} WHERE parent_id = ANY(${sql.param([...new Set(parents)])}::uuid[]) GROUP BY 1`,
  );
  return new Map(rows.map(({ id, last }) => [id, last]));
}

/** The records after one, by id, which is the order they were made in, to the millisecond; from the first with null. */
export async function recordsAfter(
  tx: Tx,
  tables: Tables,
  table: Table,
  last: string | null,
  most: number,
  where: Condition | null = null,
): Promise<RecordData[]> {
  const places = new PlacesSql(tables);
  const cells = selected(places, table);
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
    SELECT ${cells} FROM (SELECT t.*${workedOut(table)} FROM ${seenName(table)} AS t${joined(where)} WHERE t.removed_at IS NULL${also(where)} ${last === null ? sql`` : sql`AND t.id > ${last}::uuid`} ORDER BY t.id LIMIT ${most}) AS t${places.joins()} ORDER BY t.id`);
  return rows.map((row) => asRecordData(table, row));
}

/** Those of these records that are there, by id. */
export async function recordsOf(
  tx: Tx,
  tables: Tables,
  table: Table,
  ids: readonly string[],
): Promise<ReadonlyMap<string, RecordData>> {
  if (ids.length === 0) return new Map();
  const places = new PlacesSql(tables);
  const cells = selected(places, table);
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
    SELECT ${cells} FROM ${seenName(table)} AS t${places.joins()} WHERE t.id = ANY(${sql.param([...ids])}::uuid[]) AND t.removed_at IS NULL`);
  return new Map(rows.map((row) => asRecordData(table, row)).map((record) => [record.id, record]));
}

export async function readRecord(
  tx: Tx,
  tables: Tables,
  table: Table,
  id: string,
): Promise<RecordData | null> {
  const places = new PlacesSql(tables);
  const cells = selected(places, table);
  const { rows } = await tx.execute<Record<string, unknown>>(sql`
    SELECT ${cells} FROM ${seenName(table)} AS t${places.joins()} WHERE t.id = ${id}::uuid AND t.removed_at IS NULL`);
  return rows[0] === undefined ? null : asRecordData(table, rows[0]);
}

/** The record that a number names, by id; null for none. */
export async function recordOfNumber(tx: Tx, table: Table, number: string): Promise<string | null> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM ${seenName(table)} WHERE number = ${number} AND removed_at IS NULL`,
  );
  return rows[0]?.id ?? null;
}

/** The record whose row this one is, by id. */
export async function parentOf(tx: Tx, table: Table, id: string): Promise<string | null> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT ${stampName('parent_id')} AS id FROM ${seenName(table)} WHERE id = ${id}::uuid`,
  );
  return rows[0]?.id ?? null;
}

const references = (table: Table): Column[] => table.columns.filter((column) => column.kind === 'reference');

function selected(places: PlacesSql, table: Table, besides: readonly Place[] = []): SQL {
  const cells = [...table.columns.map(ownPlace), ...besides].map(
    (place, i) => sql`${places.cell(place)} AS ${sql.identifier(`c${i}`)}`,
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

/** Which records the references name, for those who change them: ids in the order of the columns. */
const namedSql = (table: Table): SQL =>
  sql`ARRAY[${sql.join(
    references(table).map((column) => sql`t.${columnName(column)}`),
    sql`, `,
  )}]::uuid[] AS named`;

function asRecordData(
  table: Table,
  row: Record<string, unknown>,
  besides: readonly Place[] = [],
): RecordData {
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
      [...table.columns, ...besides.map(({ column }) => column)].map((column, i) => [
        column.id,
        (row[`c${i}`] ?? null) as string | boolean | null,
      ]),
    ),
    named: Object.fromEntries(
      references(table).flatMap(({ id }, i) => (named[i] ? [[id, named[i]] as const] : [])),
    ),
  };
}

const textOr = (value: unknown): string | null => (typeof value === 'string' ? value : null);
