import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Catalogue } from '../../../core/catalogue/catalogue';
import { tablesChecked } from '../../../core/check/table-checks';
import { applyChange, type TableChange } from '../../../core/table/change';
import { isCalculated, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { catalogueNow } from '../../catalogue';
import { accessGrant, checkRead, designedColumn, designedTable } from '../../system/schema';
import type { Role } from '../../../core/access/rules';
import { tableName } from '../../identifiers';
import { settleFormulas } from './calculated';
import { holdChecks } from './hold-checks';
import { loosenRules, settleRules } from './row-rules';
import { grantNewTable } from './table-rights';
import { bareTable, changeSql, finishedTable, primaryKey, stamps } from './change-sql';

/** Carries out planned changes and notes them: the tables themselves, what is known of them, and who sees new ones. */
export async function applyChanges(
  tx: Tx,
  there: ReadonlyMap<string, Table>,
  changes: readonly TableChange[],
  seenBy: readonly Role[],
): Promise<void> {
  const keys = new Map(
    [...there.values(), ...changes.map(({ table }) => table)].map(({ id, key }) => [id, key]),
  );
  for (const id of new Set(changes.map(({ table }) => table.id))) {
    const before = there.get(id) ?? null;
    const after = changes
      .filter(({ table }) => table.id === id)
      .reduce<Table | null>(
        (table, change) =>
          table === null && change.t !== 'make-table' ? null : applyChange(table ?? change.table, change),
        before,
      );
    if (after !== null) await noteTable(tx, after, before, seenBy);
  }
  const touched = new Set(changes.map(({ table }) => table.id));
  const relying = await loosenRules(
    tx,
    await catalogueNow(tx),
    [...touched].filter((id) => there.has(id)),
  );
  await applyStatements(tx, changes, (id) => keys.get(id) ?? '');
  await settleRules(tx, await catalogueNow(tx), [...relying, ...touched]);
  const made = changes.flatMap((change) => (change.t === 'make-table' ? [change.table] : []));
  const demanding = made.filter(({ checks, columns }) => checks.length > 0 || columns.some(isCalculated));
  if (demanding.length === 0) return;
  const { tables } = await catalogueNow(tx);
  await settleFormulas(tx, demanding, tables);
  for (const table of demanding) await holdChecks(tx, table, tables);
}

/** The tables themselves, and nothing of what is known of them. */
export async function applyStatements(
  tx: Tx,
  changes: readonly TableChange[],
  keyOf: (id: string) => string,
): Promise<void> {
  // A table that somebody reads for long must not make everybody else wait behind this.
  await tx.execute(sql`SET LOCAL lock_timeout = '5s'`);
  for (const change of changes) for (const statement of changeSql(change, keyOf)) await tx.execute(statement);
}

/**
 * Notes tables that will be filled before they are finished, and makes them bare, retired columns too; they
 * may refer to one another in any way. Where no row has stamps of its own, they come later.
 */
export async function makeBareTables(
  tx: Tx,
  tables: readonly Table[],
  seenBy: readonly Role[],
  stamped: 'stamped' | 'unstamped',
): Promise<void> {
  // What is known of a column names the table it refers to, so all of them are noted before any column is.
  for (const table of tables) await noteTable(tx, { ...table, columns: [], retired: [] }, null, seenBy);
  for (const table of tables) {
    await noteTable(tx, table, { ...table, version: 0 }, seenBy);
    for (const statement of bareTable(withRetired(table), stamped === 'stamped' ? stamps(null) : []))
      await tx.execute(statement);
  }
}

/** A table with the columns that are kept but not shown, as it stands in the database. */
export const withRetired = (table: Table): Table => ({
  ...table,
  columns: [...table.columns, ...table.retired],
});

/** Makes bare tables that were filled what they ought to be; they may refer to one another in any way. */
export async function finishTables(
  tx: Tx,
  tables: readonly Table[],
  keyOf: (id: string) => string,
): Promise<void> {
  // Sorted in memory, the keys of a million records are there in half the time.
  await tx.execute(sql`SET LOCAL maintenance_work_mem = '128MB'`);
  for (const table of tables) await tx.execute(primaryKey(table));
  for (const table of tables) {
    for (const statement of finishedTable(table, keyOf)) await tx.execute(statement);
    await tx.execute(sql`ANALYZE ${tableName(table)}`);
  }
  await settleRules(
    tx,
    await catalogueNow(tx),
    tables.map(({ id }) => id),
  );
}

/** What is known of a table from now on. */
export async function noteTable(
  tx: Tx,
  table: Table,
  before: Table | null,
  seenBy: readonly Role[],
): Promise<void> {
  const { id, key, label, prefix, numbering, parent: parentId } = table;
  const row = {
    id,
    key,
    label,
    prefix,
    numbering,
    parentId,
    title: [...table.title],
    together: table.together,
    checks: table.checks,
    matches: table.matches,
    duty: table.duty,
    version: (before?.version ?? 0) + 1,
  };
  await tx.insert(designedTable).values(row).onConflictDoUpdate({ target: designedTable.id, set: row });
  // Who sees a column that is there is said elsewhere, and never by a change of the table.
  const restricted = await restrictedAmong(tx, id);
  const there = new Set([...(before?.columns ?? []), ...(before?.retired ?? [])].map((column) => column.id));
  // Keys may pass from one column to another, so what is there goes first.
  await tx.delete(designedColumn).where(eq(designedColumn.tableId, id));
  const columns = [
    ...table.columns.map((column, i) => columnRow(table, column, i, false)),
    ...table.retired.map((column, i) => columnRow(table, column, table.columns.length + i, true)),
  ];
  if (columns.length > 0)
    await tx.insert(designedColumn).values(
      columns.map((one) => ({
        ...one,
        restricted: there.has(one.id) ? restricted.has(one.id) : (one.restricted ?? false),
      })),
    );
  await noteChecked(tx, table);
  if (before === null) await grantNewTable(tx, id, seenBy);
  if (before !== null && (before.numbering !== numbering || before.prefix !== table.prefix))
    await countOn(tx, id);
}

async function restrictedAmong(tx: Tx, table: string): Promise<ReadonlySet<string>> {
  const rows = await tx
    .select({ id: designedColumn.id })
    .from(designedColumn)
    .where(and(eq(designedColumn.tableId, table), eq(designedColumn.restricted, true)));
  return new Set(rows.map(({ id }) => id));
}

/** What the checks of a table look into, so that it can be seen while they are asked. */
async function noteChecked(tx: Tx, table: Table): Promise<void> {
  await tx.delete(checkRead).where(eq(checkRead.tableId, table.id));
  if (table.checks.length === 0) return;
  const { tables } = await catalogueNow(tx);
  const read = [...tablesChecked(table, new Map(tables).set(table.id, table))];
  if (read.length > 0)
    await tx.insert(checkRead).values(read.map((readsId) => ({ tableId: table.id, readsId })));
}

/** Whatever the numbers look like from now on, they go on after the highest there is, so that none comes twice. */
async function countOn(tx: Tx, table: string): Promise<void> {
  await tx.execute(sql`
    INSERT INTO slate.number_counter AS c (table_id, year, last)
    SELECT ${table}::uuid, y.year, coalesce(max(n.last), 0) FROM (VALUES (0), (extract(year FROM now())::int)) AS y (year) LEFT JOIN slate.number_counter n ON n.table_id = ${table}::uuid GROUP BY y.year
    ON CONFLICT (table_id, year) DO UPDATE SET last = excluded.last`);
}

function columnRow(
  table: Table,
  { target, choices, list, ...column }: Column,
  position: number,
  retired: boolean,
): typeof designedColumn.$inferInsert {
  return {
    ...column,
    tableId: table.id,
    choices: list === null ? [...choices] : [],
    listId: list?.id ?? null,
    targetId: target,
    position,
    retired,
  };
}

export async function grantSee(tx: Tx, tables: readonly string[], role: Role): Promise<void> {
  await tx
    .insert(accessGrant)
    .values(tables.flatMap((tableId) => ['see', 'pick'].map((action) => ({ tableId, role, action }))))
    .onConflictDoNothing();
}

export async function tableKeysTaken(tx: Tx, keys: readonly string[]): Promise<string[]> {
  if (keys.length === 0) return [];
  const rows = await tx
    .select({ key: designedTable.key })
    .from(designedTable)
    .where(inArray(designedTable.key, [...keys]));
  return rows.map(({ key }) => key);
}

/**
 * Two releases that make the same table would otherwise meet half way. Held until the transaction ends; what
 * was read before may have been changed by whoever held it, so the catalogue comes with it.
 */
export async function oneTableChangeAtATime(tx: Tx): Promise<Catalogue> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtext('slate tables'))`);
  return catalogueNow(tx);
}
