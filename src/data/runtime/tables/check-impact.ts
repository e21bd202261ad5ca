import { sql } from 'drizzle-orm';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import type { FormDesign } from '../../../core/form/design';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { rendered } from '../../identifiers';
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
  const all = sql`FROM ${from}${joins} WHERE ${live}`;
  const counted = await tx.execute<{ records: number; broken: number }>(
    sql`SELECT count(*)::int AS records, count(*) FILTER (WHERE (${holds}) IS FALSE)::int AS broken ${all}`,
  );
  const { records = 0, broken = 0 } = counted.rows[0] ?? {};
  if (broken === 0) return ok({ records, broken, examples: [] });
  const { rows } = await tx.execute<{ number: string }>(
    sql`SELECT r.number ${all} AND (${holds}) IS FALSE LIMIT ${EXAMPLES}::int`,
  );
  return ok({ records, broken, examples: rows.map(({ number }) => number) });
}
