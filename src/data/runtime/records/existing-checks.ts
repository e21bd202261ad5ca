import { sql, type SQL } from 'drizzle-orm';
import type { ExistingCheck } from '../../../core/check/check';
import { groupsOf, outerOf, type FormDesign, type RowsQuestion } from '../../../core/form/design';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { alias, columnName, seenName } from '../../identifiers';

/** A check that the records there are do not allow, with the first of those just written that breaks it. */
export interface BrokenExisting {
  readonly check: ExistingCheck;
  readonly record: string;
}

/** What a check holds against one another: records of a table, and which of them were just written. */
interface Place {
  readonly table: Table;
  readonly written: SQL;
}

const [ONE, OTHER] = [alias(0), alias(1)];
/** The same checks for everybody in the same order, so that no two can wait for each other. */
const inTurn = (checks: readonly ExistingCheck[]): ExistingCheck[] =>
  [...checks].sort((a, b) => (a.id < b.id ? -1 : 1));

/** The checks of a form that the record just written, and its rows, break. */
export async function brokenExisting(
  tx: Tx,
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  recordId: string,
): Promise<BrokenExisting[]> {
  const found: BrokenExisting[] = [];
  for (const check of inTurn(design.existing ?? [])) {
    const group = groupsOf(design).find(({ columns }) => columns.some(({ id }) => id === check.on));
    const table = tables.get((group ?? design).table.id);
    if (table === undefined) continue;
    const written =
      group === undefined ? sql`${ONE}.id = ${recordId}::uuid` : rowsOf(design, tables, group, recordId);
    const [first] = await brokenAmong(tx, check, { table, written });
    if (first !== undefined) found.push({ check, record: first });
  }
  return found;
}

/** The rows of a group that belong to a record, or to one of its rows. */
function rowsOf(
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  group: RowsQuestion,
  record: string,
): SQL {
  const outer = tables.get(outerOf(design, group)?.table.id ?? '');
  return outer === undefined
    ? sql`${ONE}.parent_id = ${record}::uuid`
    : sql`${ONE}.parent_id IN (SELECT id FROM ${seenName(outer)} WHERE parent_id = ${record}::uuid)`;
}

/** Of records of a table that were just written, those that break a check of the table among its records. */
export async function brokenOfTable(
  tx: Tx,
  table: Table,
  checks: readonly ExistingCheck[],
  ids: readonly string[],
): Promise<{ check: ExistingCheck; record: string }[]> {
  const found: { check: ExistingCheck; record: string }[] = [];
  for (const check of inTurn(checks)) {
    const written = sql`${ONE}.id = ANY(${sql.param([...ids])}::uuid[]) AND ${ONE}.removed_at IS NULL`;
    for (const record of await brokenAmong(tx, check, { table, written })) found.push({ check, record });
  }
  return found;
}

/** Nobody else writes what these checks compare until the transaction ends: for an import, which would take a lock for each of its rows. */
export async function waitForAll(tx: Tx, checks: readonly ExistingCheck[]): Promise<void> {
  for (const { id } of inTurn(checks))
    await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtextextended(${id}, 0))`);
}

/**
 * First everybody who writes the same answers is made to wait until this transaction ends; only then are the
 * others looked at, who are all done by then.
 */
async function brokenAmong(tx: Tx, check: ExistingCheck, place: Place): Promise<string[]> {
  await waitForOthers(tx, check, place);
  const position = place.table.parent === null ? sql`NULL` : sql`${ONE}.position`;
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT ${ONE}.id, ${position} AS position FROM ${seenName(place.table)} ${ONE} WHERE ${place.written} AND ${brokenBy(check, place.table)} ORDER BY 2, 1 LIMIT ${MOST_TOLD}::int`,
  );
  return rows.map(({ id }) => id);
}
/** Records told of one check. */
const MOST_TOLD = 200;

const columnIn = (table: Table, id: string | null): Column | undefined =>
  table.columns.find((one) => one.id === id);
const of = (name: SQL, known: Column | undefined): SQL =>
  known === undefined ? sql`NULL` : sql`${name}.${columnName(known)}`;

async function waitForOthers(tx: Tx, check: ExistingCheck, { table, written }: Place): Promise<void> {
  const answers = check.same.map((id) => sql`coalesce(${of(ONE, columnIn(table, id))}::text, '')`);
  const key = sql.join([sql`${check.id}::text`, ...answers], sql` || E'\\x1f' || `);
  // Whoever writes many at once keeps all others out by this (`waitForAll`).
  await tx.execute(sql`SELECT pg_advisory_xact_lock_shared(hashtextextended(${check.id}, 0))`);
  await tx.execute(
    sql`SELECT pg_advisory_xact_lock(hashtextextended(key, 0)) FROM (SELECT DISTINCT ${key} AS key FROM ${seenName(table)} ${ONE} WHERE ${written} ORDER BY 1) keys`,
  );
}

/** The others with the same answers. An empty answer is the same as none, so such a record breaks nothing. */
function others(check: ExistingCheck, table: Table): SQL {
  const same = check.same.map(
    (id) => sql` AND ${of(OTHER, columnIn(table, id))} = ${of(ONE, columnIn(table, id))}`,
  );
  return sql`FROM ${seenName(table)} ${OTHER} WHERE ${OTHER}.removed_at IS NULL${sql.join(same, sql``)}`;
}

/** That the record under the first alias breaks a check among the records of its table. */
export function brokenBy(check: ExistingCheck, table: Table): SQL {
  const { rule } = check;
  const another = sql` AND ${OTHER}.id <> ${ONE}.id`;
  switch (rule.t) {
    case 'unique':
      return sql`EXISTS (SELECT 1 ${others(check, table)}${another})`;
    case 'no-overlap': {
      const [from, to] = [columnIn(table, rule.from), columnIn(table, rule.to)];
      const begins = (earlier: SQL, later: SQL) =>
        sql` AND ${of(earlier, from)} <= coalesce(${of(later, to)}, 'infinity')`;
      return sql`EXISTS (SELECT 1 ${others(check, table)}${another}${begins(ONE, OTHER)}${begins(OTHER, ONE)})`;
    }
    case 'at-most': {
      const date = columnIn(table, rule.date);
      const period =
        rule.per === 'ever'
          ? sql``
          : sql` AND date_trunc(${rule.per}, ${of(OTHER, date)}::timestamp) = date_trunc(${rule.per}, ${of(ONE, date)}::timestamp)`;
      return sql`(SELECT count(*) ${others(check, table)}${period}) > ${rule.most}::int`;
    }
  }
}
/** The alias of the record that `brokenBy` is about. */
export const CHECKED = ONE;
