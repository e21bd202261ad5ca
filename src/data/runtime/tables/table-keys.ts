import { sql, type SQL } from 'drizzle-orm';
import { fold, tidy } from '../../../core/import/cell';
import { hashOf } from '../../../core/import/hash';
import { keyColumns } from '../../../core/table/key-columns';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';
import { titleSql } from '../records/places-sql';

/** Tables larger than this are not held against sheets, for their keys would not fit in memory. */
const MOST_KEYS = 500_000;

/** A column by which the records of a table are named, with its values. */
export interface TableKey {
  readonly table: Table;
  readonly column: Column;
  readonly records: readonly { readonly id: string; readonly value: string }[];
}

/** What who asks may see of it; null for a table that is too large. */
export async function readKey(tx: Tx, table: Table, column: Column): Promise<TableKey | null> {
  const { rows: counted } = await tx.execute<{ most: number }>(
    sql`SELECT count(*)::int AS most FROM (SELECT 1 FROM ${seenName(table)} LIMIT ${MOST_KEYS + 1}) AS counted`,
  );
  if ((counted[0]?.most ?? 0) > MOST_KEYS) return null;
  const { rows } = await tx.execute<{ id: string; value: string }>(
    sql`SELECT id, ${columnName(column)}::text AS value FROM ${seenName(table)} WHERE removed_at IS NULL AND ${columnName(column)} IS NOT NULL`,
  );
  return { table, column, records: rows };
}

/** Records that are looked at together. */
const PAGE = 50_000;

/**
 * The records that are wanted, by what names them without case, spaces and accents, as hashes: `by` one
 * column, or by whatever names a record, its title, its number, and what is different in each. A name of
 * several records names none.
 */
export async function readNames(
  tx: Tx,
  table: Table,
  by: Column | null,
  wanted: ReadonlySet<number>,
  page = PAGE,
): Promise<Map<number, string>> {
  const columns =
    by === null
      ? [
          titleSql(table, sql`t`),
          sql`t.number`,
          ...keyColumns(table).map((column) => sql`t.${columnName(column)}::text`),
        ]
      : [sql`t.${columnName(by)}::text`];
  const names = new Map<number, string>();
  const shared = new Set<number>();
  for (let last: string | null = wanted.size === 0 ? null : ''; last !== null;) {
    const after: SQL = last === '' ? sql`` : sql`AND t.id > ${last}::uuid`;
    const { rows }: { rows: { id: string; names: (string | null)[] }[] } = await tx.execute(
      sql`SELECT t.id, ARRAY[${sql.join(columns, sql`, `)}] AS names FROM ${seenName(table)} AS t WHERE t.removed_at IS NULL ${after} ORDER BY t.id LIMIT ${page}`,
    );
    for (const { id, names: own } of rows)
      for (const name of new Set(
        own.flatMap((text) => (text === null || text === '' ? [] : [hashOf(fold(tidy(text)))])),
      )) {
        if (!wanted.has(name)) continue;
        if (names.has(name)) shared.add(name);
        else names.set(name, id);
      }
    last = rows.length < page ? null : (rows.at(-1)?.id ?? null);
  }
  for (const name of shared) names.delete(name);
  return names;
}
