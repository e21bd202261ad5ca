import { sql, type SQL } from 'drizzle-orm';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { tableName } from '../../identifiers';

/** How many records a table has; of a large one about as many, as the database knew when it last looked. */
export interface RecordCount {
  readonly records: number;
  readonly about: boolean;
}

/**
 * Pages of 8 kB, of all tables that are counted exactly together, and how many tables those are at most:
 * planning and counting them take some 30 ms. The smallest come first.
 */
const PAGES_COUNTED = 800;
const TABLES_COUNTED = 30;
/** No larger one is among them. */
const SMALL_PAGES = 100;

/**
 * Of tables the person may see; where they see some of a table's records, those are counted, for an estimate
 * would tell of the others. A million records take 150 ms to count, and nobody waits for that on the way to
 * another page.
 */
export const recordCounts = (tx: Tx, tables: readonly Table[]): Promise<Map<string, RecordCount>> =>
  counted(tx, tables, sql`slate.is_limited(w.id)`);

/** The same for whoever decides how to look for something, and tells nobody of it: estimated for everybody. */
export const tableSizes = (tx: Tx, tables: readonly Table[]): Promise<Map<string, RecordCount>> =>
  counted(tx, tables, sql`false`);

async function counted(
  tx: Tx,
  tables: readonly Table[],
  neverEstimated: SQL,
): Promise<Map<string, RecordCount>> {
  if (tables.length === 0) return new Map();
  const { rows } = await tx.execute<{ key: string; about: number; pages: number }>(
    sql`SELECT relname AS key, CASE WHEN ${neverEstimated} THEN 0 ELSE greatest(reltuples, 0)::float8 END AS about, pg_relation_size(oid) / 8192 AS pages
      FROM unnest(${sql.param(tables.map(({ id }) => id))}::uuid[], ${sql.param(tables.map(({ key }) => key))}::text[]) AS w (id, key) JOIN pg_class ON relnamespace = 'records'::regnamespace AND relname = w.key`,
  );
  const known = new Map(rows.map((row) => [row.key, row]));
  const pagesOf = ({ key }: Table): number => Number(known.get(key)?.pages ?? 0);
  // What the database never looked at it cannot estimate.
  const unknown = tables.filter(({ key }) => (known.get(key)?.about ?? 0) === 0);
  let pages = 0;
  const small = tables
    .filter((table) => !unknown.includes(table) && pagesOf(table) <= SMALL_PAGES)
    .sort((a, b) => pagesOf(a) - pagesOf(b))
    .slice(0, TABLES_COUNTED)
    .filter((table) => (pages += pagesOf(table)) <= PAGES_COUNTED);
  const exact = await exactCounts(tx, [...unknown, ...small]);
  return new Map(
    tables.map(({ id, key }) => [
      id,
      exact.get(id) ?? { records: roughly(known.get(key)?.about ?? 0), about: true },
    ]),
  );
}

async function exactCounts(tx: Tx, tables: readonly Table[]): Promise<Map<string, RecordCount>> {
  if (tables.length === 0) return new Map();
  const { rows } = await tx.execute<{ id: string; records: string }>(
    sql.join(
      tables.map(
        (table) =>
          sql`SELECT ${table.id} AS id, count(*) AS records FROM ${tableName(table)} WHERE removed_at IS NULL`,
      ),
      sql` UNION ALL `,
    ),
  );
  return new Map(rows.map(({ id, records }) => [id, { records: Number(records), about: false }]));
}

/** Two figures that mean something. */
export const roughly = (count: number): number => {
  const step = 10 ** Math.max(0, Math.floor(Math.log10(Math.max(1, count))) - 1);
  return Math.round(count / step) * step;
};
