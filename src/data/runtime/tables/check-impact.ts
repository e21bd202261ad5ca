import { sql, type SQL } from 'drizzle-orm';
import { isAmongRecords, type TableCheck } from '../../../core/check/check';
import { comparedInTable, existingIssues } from '../../../core/check/existing';
import { readTableCheck } from '../../../core/check/table-checks';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import type { FormDesign } from '../../../core/form/design';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { rendered, seenName } from '../../identifiers';
import { brokenBy, CHECKED } from '../records/existing-checks';
import { filterSql } from '../records/filter-sql';
import { formNames } from './form-names';

/** What a check would say of the records there are. */
export interface Impact {
  readonly records: number;
  readonly broken: number;
  /** The numbers of some of them. */
  readonly examples: readonly string[];
}

const EXAMPLES = 5;

/** Ends what this transaction asks after so many seconds, with SQLSTATE 57014. */
export async function giveUpAfter(tx: Tx, seconds: number): Promise<void> {
  await tx.execute(sql`SELECT set_config('statement_timeout', ${`${seconds}s`}, true)`);
}

/** Holds a condition against every live record kept from a form, or every row of one of its groups. A check is broken where it is false. */
export async function checkImpact(
  tx: Tx,
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  { condition, group, world }: { condition: Expression; group: string | null; world: World },
): Promise<Result<Impact, Issue[]>> {
  const form = formNames(design, tables, group, world);
  if (form === null) return ok({ records: 0, broken: 0, examples: [] });
  const written = toSql(condition, form.names);
  if (!written.ok) return written;
  const [from, live, joins, holds] = [
    form.from,
    form.live,
    written.value.joins,
    written.value.expression,
  ].map(rendered);
  return ok(await counted(tx, 'r', sql`FROM ${from}${joins} WHERE ${live}`, sql`(${holds}) IS FALSE`));
}

/** What a check of a table would say of its records, as the table is; null where it reads what is not there yet. */
export async function tableCheckMeets(
  tx: Tx,
  check: TableCheck,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  world: Pick<World, 'today' | 'now'>,
): Promise<Impact | null> {
  if (isAmongRecords(check)) {
    if (existingIssues({ ...check, message: 'any' }, comparedInTable(table)).length > 0) return null;
    const all = sql`FROM ${seenName(table)} ${CHECKED} WHERE ${CHECKED}.removed_at IS NULL`;
    return counted(tx, CHECKED, all, brokenBy(check, table));
  }
  const read = readTableCheck(check, table, tables);
  const holds = read.ok ? filterSql(read.value.tree, table, tables, world) : null;
  if (holds?.ok !== true) return null;
  const all = sql`FROM ${seenName(table)} t ${holds.value.joins} WHERE t.removed_at IS NULL`;
  return counted(tx, 't', all, sql`${holds.value.holds} IS FALSE`);
}

async function counted(tx: Tx, name: SQL | string, all: SQL, isBroken: SQL): Promise<Impact> {
  const { rows } = await tx.execute<{ records: number; broken: number }>(
    sql`SELECT count(*)::int AS records, count(*) FILTER (WHERE ${isBroken})::int AS broken ${all}`,
  );
  const { records = 0, broken = 0 } = rows[0] ?? {};
  if (broken === 0) return { records, broken, examples: [] };
  const of = typeof name === 'string' ? sql.raw(name) : name;
  const found = await tx.execute<{ number: string }>(
    sql`SELECT ${of}.number ${all} AND ${isBroken} LIMIT ${EXAMPLES}::int`,
  );
  return { records, broken, examples: found.rows.map(({ number }) => number) };
}
