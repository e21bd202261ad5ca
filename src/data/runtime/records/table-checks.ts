import { sql } from 'drizzle-orm';
import type { ReadCheck } from '../../../core/check/table-checks';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import { rowsNamed } from '../../../core/record/table-scope';
import type { GivenReason } from '../../../core/record/own-checks';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { rendered, seenName } from '../../identifiers';
import { recordReason } from '../../system/schema';
import { recordNames } from '../tables/form-names';

/** Records told of one check. */
const MOST_TOLD = 200;

/** Lets what the checks of a table look into be seen while they are asked, whoever asks. */
export async function whileChecking<T>(tx: Tx, table: Table, ask: () => Promise<T>): Promise<T> {
  const checking = (id: string) => tx.execute(sql`SELECT set_config('slate.checking', ${id}, true)`);
  await checking(table.id);
  const found = await ask();
  await checking('');
  return found;
}

/**
 * Makes whoever writes rows of the same records wait for one another, so that what the rows come to is told
 * of all of them. In one order for everybody.
 */
export async function takeTurns(tx: Tx, table: Table, records: readonly string[]): Promise<void> {
  await tx.execute(
    sql`SELECT pg_advisory_xact_lock(hashtext(${table.id}), hashtext(id)) FROM (SELECT unnest(${sql.param([...records])}::text[]) AS id ORDER BY 1) AS these`,
  );
}

/** Of records of a table as they are now, those that break a condition. */
export async function breaking(
  tx: Tx,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  { check, tree }: ReadCheck,
  ids: readonly string[],
  world: Pick<World, 'today' | 'now'>,
): Promise<string[]> {
  const written = toSql(
    tree,
    recordNames(table, tables, 't', (id) => rowsNamed(id, tables), world),
  );
  // What SQL cannot say was refused when the check was designed.
  if (!written.ok) throw new Error(`the check ${check.id} cannot be said in SQL`);
  const { joins, expression } = written.value;
  const { rows } = await tx.execute<{ id: string }>(sql`
    SELECT t.id FROM ${seenName(table)} t ${rendered(joins)}
    WHERE t.id = ANY(${sql.param([...ids])}::uuid[]) AND t.removed_at IS NULL AND (${rendered(expression)}) IS FALSE ORDER BY t.id LIMIT ${MOST_TOLD}::int`);
  return rows.map(({ id }) => id);
}

/** The records whose rows these are. */
export async function parentsOf(tx: Tx, rows: Table, ids: readonly string[]): Promise<string[]> {
  const found = await tx.execute<{ id: string }>(
    sql`SELECT DISTINCT parent_id AS id FROM ${seenName(rows)} WHERE id = ANY(${sql.param([...ids])}::uuid[])`,
  );
  return found.rows.map(({ id }) => id);
}

/** Why somebody did what checks ask about, beside the trail of the same moment. */
export async function noteReasons(
  tx: Tx,
  person: string,
  reasons: readonly (GivenReason & { readonly table: string; readonly message: string })[],
): Promise<void> {
  if (reasons.length === 0) return;
  await tx.insert(recordReason).values(
    reasons.map(({ table, record, check, message, reason }) => ({
      tableId: table,
      recordId: record,
      checkId: check,
      message,
      reason,
      byId: person,
    })),
  );
}
