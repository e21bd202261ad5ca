import { sql, type SQL } from 'drizzle-orm';
import type { Expression } from '../../../core/expression/tree';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { seenName } from '../../identifiers';
import { filterSql, type Looking } from './filter-sql';

/** Which records somebody sees, and would see. */
export interface Sight {
  readonly me: Looking;
  readonly now: Seen;
  readonly then: Seen;
}
/** All, none, or those of which a condition holds. */
export type Seen = 'all' | 'none' | Expression;

/**
 * How many records people see and would see, and how many of those they see they would not see any more. As
 * the owner role: every record counts, and only counts leave.
 */
export async function countSights(
  tx: Tx,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  sights: readonly Sight[],
  now: string,
): Promise<{ records: number; counts: { now: number; then: number; lost: number }[] }> {
  const holds = (seen: Seen, me: Looking): SQL => {
    if (typeof seen === 'string') return seen === 'all' ? sql`TRUE` : sql`FALSE`;
    const written = filterSql(seen, table, tables, { today: now.slice(0, 10), now, me });
    return written.ok
      ? sql`(SELECT ${written.value.holds} FROM (SELECT 1) AS one ${written.value.joins}) IS TRUE`
      : sql`FALSE`;
  };
  const told = sights.flatMap(({ me, now: before, then: after }) => [
    sql`count(*) FILTER (WHERE ${holds(before, me)})`,
    sql`count(*) FILTER (WHERE ${holds(after, me)})`,
    sql`count(*) FILTER (WHERE ${holds(before, me)} AND NOT ${holds(after, me)})`,
  ]);
  const { rows } = await tx.execute<{ told: (string | number)[] }>(
    sql`SELECT ARRAY[count(*)${sql.join(
      told.map((one) => sql`, ${one}`),
      sql``,
    )}]::int[] AS told FROM ${seenName(table)} AS t WHERE t.removed_at IS NULL`,
  );
  const [records = 0, ...counts] = (rows[0]?.told ?? []).map(Number);
  return {
    records,
    counts: sights.map((_, i) => ({
      now: counts[3 * i] ?? 0,
      then: counts[3 * i + 1] ?? 0,
      lost: counts[3 * i + 2] ?? 0,
    })),
  };
}
