import { sql, type SQL } from 'drizzle-orm';
import type { Filterable } from '../../../core/record/filter';
import { groupOf, isPeriod, totalled, type RecordGroup, type Total } from '../../../core/record/groups';
import type { Place } from '../../../core/record/places';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';
import { also, joined, type Condition } from './filter-sql';
import { PlacesSql, titleSql } from './places-sql';

type Tables = ReadonlyMap<string, Table>;

/** Groups shown at once. */
export const MOST_GROUPS = 200;

interface Row extends Record<string, unknown> {
  readonly value: string | null;
  readonly title: string | null;
  readonly records: number;
}

/** Records put together by what they have in a place, in its order; those without come last. */
export async function countGroups(
  tx: Tx,
  tables: Tables,
  table: Table,
  { by, place, where }: { readonly by: Filterable; readonly place: Place; readonly where: Condition | null },
): Promise<RecordGroup[]> {
  const target = by.kind === 'reference' ? tables.get(place.column.target ?? '') : undefined;
  const places = new PlacesSql(tables);
  const own = target === undefined ? places.of(place) : sql`t.${columnName(place.column)}`;
  const value = isPeriod(by) ? sql`to_char(${own}, 'YYYY-MM')` : own;
  const counted = sql`SELECT ${value} AS value, count(*)::int AS records${totalsSql(table)} FROM ${seenName(table)} AS t${places.joins()}${joined(where)} WHERE t.removed_at IS NULL${also(where)} GROUP BY 1`;
  // Counted by id, and named only then.
  const named =
    target === undefined
      ? sql`SELECT c.*, NULL AS title FROM (${counted}) AS c ORDER BY c.value NULLS LAST`
      : sql`SELECT c.*, ${titleSql(target, sql`n`)} AS title FROM (${counted}) AS c LEFT JOIN ${seenName(target)} AS n ON n.id = c.value ORDER BY title NULLS LAST, c.value`;
  const { rows } = await tx.execute<Row>(sql`${named} LIMIT ${MOST_GROUPS + 1}`);
  return rows.map((row) =>
    groupOf(by, row.value === null ? null : String(row.value), row.title ?? '', {
      records: row.records,
      totals: totalsOf(table, row),
    }),
  );
}

/** What the numbers of records come to, all of them together. */
export async function countTotals(
  tx: Tx,
  table: Table,
  where: Condition | null,
): Promise<Readonly<Record<string, Total>>> {
  const { rows } = await tx.execute<Record<string, unknown>>(
    sql`SELECT count(*)::int AS records${totalsSql(table)} FROM ${seenName(table)} AS t${joined(where)} WHERE t.removed_at IS NULL${also(where)}`,
  );
  return totalsOf(table, rows[0] ?? {});
}

const totalsSql = (table: Table): SQL =>
  sql.join(
    totalled(table).map((column, i) => {
      const own = sql`t.${columnName(column)}`;
      const decimals = (column.decimals ?? 0) + 2;
      const as = (what: string): SQL => sql`${sql.identifier(`${what}${i}`)}`;
      return sql`, sum(${own})::text AS ${as('sum')}, round(avg(${own}), ${decimals})::text AS ${as('mean')}, min(${own})::text AS ${as('least')}, max(${own})::text AS ${as('most')}`;
    }),
    sql``,
  );

const totalsOf = (table: Table, row: Record<string, unknown>): Record<string, Total> =>
  Object.fromEntries(
    totalled(table).map(({ id }, i) => {
      const of = (what: string): string | null => {
        const value = row[`${what}${i}`];
        return typeof value === 'string' ? value : null;
      };
      return [id, { sum: of('sum'), mean: of('mean'), least: of('least'), most: of('most') }];
    }),
  );
