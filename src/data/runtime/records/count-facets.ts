import { sql, type SQL } from 'drizzle-orm';
import {
  MOST_VALUES,
  niceStep,
  periodCount,
  rangeCount,
  unusedChoices,
  valueCount,
} from '../../../core/record/facet-counts';
import type { FacetCount } from '../../../core/record/facets';
import type { Filterable } from '../../../core/record/filter';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName, tableName } from '../../identifiers';
import { tableSizes, roughly } from './record-counts';
import { also, joined, type Condition } from './filter-sql';

interface Counting {
  readonly table: Table;
  readonly column: Column;
  /** Of a reference, the table it points to and the column its records are told apart by. */
  readonly target: Table | null;
  readonly by: Column | null;
  readonly of: Filterable;
  /** Which records are counted; null for all. */
  readonly where: Condition | null;
  /** Of a large table, from how many percent of its pages they are told, about; null to count all. */
  readonly sample: number | null;
}

/** Records a sample is to have, so that eight columns are counted in some 50 ms; and those it must have to tell anything. */
const SAMPLED = 4_000;
const TELLING = 40;

/** How many percent of a table to look at; null where all of it is counted as quickly. */
export async function sampleOf(tx: Tx, table: Table): Promise<number | null> {
  const count = (await tableSizes(tx, [table])).get(table.id);
  return count?.about === true && count.records > SAMPLED ? (100 * SAMPLED) / count.records : null;
}

/** How many records have what in one column. */
export async function countFacet(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const counts = await counted(tx, counting);
  const { sample } = counting;
  if (sample === null) return counts;
  const seen = counts.reduce((sum, { records }) => sum + records, 0);
  return seen < TELLING
    ? []
    : counts.map((one) => ({ ...one, records: roughly((one.records * 100) / sample) }));
}

/** The records that are counted, or the same few of them each time. */
const from = ({ table, where, sample }: Counting): SQL =>
  sql`FROM ${sample === null ? sql`${seenName(table)} AS t` : sampled(table, sample)}${joined(where)} WHERE t.removed_at IS NULL${also(where)}`;

/** Of a view no sample can be taken, so the records of one are taken of its table. */
function sampled(table: Table, percent: number): SQL {
  const taken = sql`TABLESAMPLE SYSTEM (${percent}::real) REPEATABLE (1)`;
  return table.guarded
    ? sql`(SELECT id FROM ${tableName(table)} ${taken}) AS taken JOIN ${seenName(table)} AS t ON t.id = taken.id`
    : sql`${tableName(table)} AS t ${taken}`;
}

async function counted(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const { kind } = counting.column;
  if (kind === 'date' || kind === 'date-time') return periods(tx, counting);
  if (kind === 'whole' || kind === 'decimal' || kind === 'money') return ranges(tx, counting);
  return values(tx, counting);
}

async function values(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const { column, target, by, of } = counting;
  const own = sql`t.${columnName(column)}`;
  // Counted by id, and named only then: joining every record first would cost as much again.
  const counted = sql`SELECT ${own} AS value, count(*)::int AS records ${from(counting)} GROUP BY 1`;
  if (column.kind === 'choices') return members(tx, counting);
  const { rows } = await tx.execute<{ value: string | null; records: number }>(
    target === null || by === null
      ? sql`SELECT value::text AS value, records FROM (${counted}) AS c ORDER BY records DESC, 1 LIMIT ${MOST_VALUES}`
      : sql`SELECT n.${columnName(by)} AS value, sum(records)::int AS records FROM (${counted}) AS c LEFT JOIN ${seenName(target)} AS n ON n.id = c.value GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT ${MOST_VALUES}`,
  );
  const found = rows.map(({ value, records }) => valueCount(of, value, '', records));
  const seen = new Set(rows.flatMap(({ value }) => (value === null ? [] : [value])));
  return rows.length < MOST_VALUES ? [...found, ...unusedChoices(of, seen)].slice(0, MOST_VALUES) : found;
}

/** Each of several choices by itself, so that a record may be counted more than once; and the records that have none. */
async function members(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const { column, of } = counting;
  const { rows } = await tx.execute<{ value: string | null; records: number }>(
    sql`SELECT m.value, count(*)::int AS records FROM (SELECT t.${columnName(column)} AS list ${from(counting)}) AS c LEFT JOIN LATERAL unnest(c.list) AS m (value) ON TRUE GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT ${MOST_VALUES}`,
  );
  const found = rows.map(({ value, records }) => valueCount(of, value, '', records));
  const seen = new Set(rows.flatMap(({ value }) => (value === null ? [] : [value])));
  return rows.length < MOST_VALUES ? [...found, ...unusedChoices(of, seen)].slice(0, MOST_VALUES) : found;
}

/** Years; the months of one, where all are of one. */
async function periods(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const { column, of } = counting;
  const own = sql`t.${columnName(column)}`;
  const by = (form: string) =>
    tx.execute<{ period: string; records: number }>(
      sql`SELECT to_char(${own}, ${form}) AS period, count(*)::int AS records ${from(counting)} AND ${own} IS NOT NULL GROUP BY 1 ORDER BY 1 DESC LIMIT 12`,
    );
  const years = (await by('YYYY')).rows;
  const found = years.length === 1 ? (await by('YYYY-MM')).rows : years;
  return found.map(({ period, records }) => periodCount(of, period, records));
}

async function ranges(tx: Tx, counting: Counting): Promise<FacetCount[]> {
  const { column, of } = counting;
  const own = sql`t.${columnName(column)}`;
  const filled = sql`${from(counting)} AND ${own} IS NOT NULL`;
  const { rows: edges } = await tx.execute<{ least: number | null; most: number | null }>(
    sql`SELECT min(${own})::float8 AS least, max(${own})::float8 AS most ${filled}`,
  );
  const { least = null, most = null } = edges[0] ?? {};
  if (least === null || most === null) return [];
  const step = niceStep(least, most, column.kind === 'whole');
  const { rows } = await tx.execute<{ place: number; records: number }>(
    sql`SELECT floor(${own} / ${String(step)}::numeric)::float8 AS place, count(*)::int AS records ${filled} GROUP BY 1 ORDER BY 1 LIMIT 12`,
  );
  return rows.map(({ place, records }) => rangeCount(of, place, step, records));
}
