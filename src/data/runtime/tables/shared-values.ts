import { sql } from 'drizzle-orm';
import type { ColumnPair, PairCount } from '../../../core/table/likely-matches';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';

/** Different values of a column that are looked for elsewhere, and records they are taken from. */
const MOST_VALUES = 300;
const MOST_RECORDS = 20_000;
/** Records that values are looked for in; more would keep whoever asks waiting. */
export const LOOKED_THROUGH = 200_000;

type Samples = ReadonlyMap<string, readonly string[]>;

/** Some of the different values of each column, as text, by column id. */
export async function sampleValues(tx: Tx, table: Table, columns: readonly Column[]): Promise<Samples> {
  const samples = new Map<string, readonly string[]>();
  for (const column of columns) {
    const name = columnName(column);
    const { rows } = await tx.execute<{ values: string[] | null }>(
      sql`SELECT array_agg(v) AS values FROM (SELECT DISTINCT v FROM (SELECT ${name}::text AS v FROM ${seenName(table)} WHERE removed_at IS NULL AND ${name} IS NOT NULL LIMIT ${MOST_RECORDS}) AS s WHERE length(v) <= 200 LIMIT ${MOST_VALUES}) AS d`,
    );
    samples.set(column.id, rows[0]?.values ?? []);
  }
  return samples;
}

/**
 * How many of the values sampled stand in the other column of each pair: those of `from` in `table` by its
 * column `to`, or turned about. One reading of the table for all pairs.
 */
export async function countShared(
  tx: Tx,
  table: Table,
  pairs: readonly ColumnPair[],
  samples: Samples,
  turned: boolean,
): Promise<PairCount[]> {
  if (pairs.length === 0) return [];
  const asked = pairs.map((pair) => ({
    pair,
    values: samples.get((turned ? pair.to : pair.from).id) ?? [],
    column: turned ? pair.from : pair.to,
  }));
  const columns = new Map(asked.map(({ column }) => [column.id, columnName(column)]));
  const { rows } = await tx.execute<Record<string, string>>(
    sql`SELECT ${sql.join(
      asked.map(
        ({ values, column }, i) =>
          sql`count(DISTINCT t.${columnName(column)}) FILTER (WHERE t.${columnName(column)}::text = ANY(${sql.param(values)}::text[])) AS ${sql.identifier(`p${i}`)}`,
      ),
      sql`, `,
    )} FROM (SELECT ${sql.join([...columns.values()], sql`, `)} FROM ${seenName(table)} WHERE removed_at IS NULL LIMIT ${LOOKED_THROUGH}) AS t`,
  );
  return asked.map(({ pair, values }, i) => ({
    ...pair,
    found: Number(rows[0]?.[`p${i}`] ?? 0),
    of: values.length,
    turned,
  }));
}
