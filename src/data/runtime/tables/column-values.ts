import { sql } from 'drizzle-orm';
import type { Column, Table } from '../../../core/table/model';
import type { Repeated } from '../../../core/table/table-change';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';

export interface StoredValue {
  /** PostgreSQL's text; null for a blank. */
  readonly value: string | null;
  readonly rows: number;
  /** The number of one of its records. */
  readonly example: string;
}

/** The different values of a column, the most frequent first, at most so many. */
export async function distinctValues(
  tx: Tx,
  table: Table,
  column: Column,
  most: number,
): Promise<StoredValue[]> {
  const { rows } = await tx.execute<{ value: string | null; rows: number; example: string }>(sql`
    SELECT ${columnName(column)}::text AS value, count(*)::int AS rows, min(number) AS example FROM ${seenName(table)} GROUP BY ${columnName(column)} ORDER BY 2 DESC, 1 LIMIT ${most}`);
  return rows;
}

/** What several records share in these columns, and how many records that are in all. */
export async function repeatedValues(
  tx: Tx,
  table: Table,
  columns: readonly Column[],
  most: number,
): Promise<{ repeated: Repeated[]; rows: number }> {
  const names = sql.join(columns.map(columnName), sql`, `);
  const { rows } = await tx.execute<{ text: string; rows: number; total: number }>(sql`
    WITH shared AS (
      SELECT concat_ws(' · ', ${sql.join(
        columns.map((column) => sql`${columnName(column)}::text`),
        sql`, `,
      )}) AS text, count(*)::int AS rows FROM ${seenName(table)}
      WHERE ${sql.join(
        columns.map((column) => sql`${columnName(column)} IS NOT NULL`),
        sql` AND `,
      )} GROUP BY ${names} HAVING count(*) > 1)
    SELECT text, rows, (SELECT sum(rows) FROM shared)::int AS total FROM shared ORDER BY rows DESC, text LIMIT ${most}`);
  return {
    repeated: rows.map(({ text, rows: times }) => ({ text, rows: times })),
    rows: rows[0]?.total ?? 0,
  };
}

/** How many records hold each code of a column of choices, removed ones as well. */
export async function heldCodes(
  tx: Tx,
  table: Table,
  column: Column,
): Promise<{ code: string; rows: number }[]> {
  const { rows } = await tx.execute<{ code: string; rows: number }>(
    sql`SELECT ${columnName(column)} AS code, count(*)::int AS rows FROM ${seenName(table)} WHERE ${columnName(column)} IS NOT NULL GROUP BY 1`,
  );
  return rows;
}
