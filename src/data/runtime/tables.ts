import { asc, eq, inArray, sql } from 'drizzle-orm';
import type { ColumnKind, PersonalData, Table } from '../../core/table/model';
import type { TableChange } from '../../core/table/plan';
import type { Tx } from '../connect';
import { designedColumn, designedTable, tableGrant } from '../system/schema';
import type { Role } from '../../core/access/rules';
import { tableName } from '../identifiers';
import { bareTable, changeSql, finishedTable } from './change-sql';

/** Every designed table with its columns, by id. */
export async function readTables(tx: Tx): Promise<Map<string, Table>> {
  const [tables, columns] = [
    await tx.select().from(designedTable).orderBy(asc(designedTable.label)),
    await tx.select().from(designedColumn).orderBy(asc(designedColumn.position)),
  ];
  return new Map(tables.map((table) => [table.id, {
    id: table.id, key: table.key, label: table.label, prefix: table.prefix, parent: table.parentId, title: table.title,
    columns: columns.filter((column) => column.tableId === table.id).map((column) => ({
      ...column, kind: column.kind as ColumnKind, choices: column.choices as Table['columns'][number]['choices'], target: column.targetId, personal: column.personal as PersonalData | null,
    })),
  }]));
}

/** Tables the person may see as a whole. */
export async function visibleTables(tx: Tx): Promise<{ id: string; records: number }[]> {
  const { rows } = await tx.execute<{ id: string }>(sql`SELECT id FROM slate.designed_table WHERE slate.may(id, 'see') ORDER BY label`);
  const tables = await readTables(tx);
  const counts: { id: string; records: number }[] = [];
  for (const { id } of rows) counts.push({ id, records: await countRecords(tx, tables.get(id)) });
  return counts;
}

async function countRecords(tx: Tx, table: Table | undefined): Promise<number> {
  if (table === undefined) return 0;
  const { rows } = await tx.execute<{ n: number }>(sql`SELECT count(*)::int AS n FROM ${tableName(table)} WHERE removed_at IS NULL`);
  return rows[0]?.n ?? 0;
}

export async function maySee(tx: Tx, table: string): Promise<boolean> {
  const { rows } = await tx.execute<{ may: boolean }>(sql`SELECT slate.may(${table}::uuid, 'see') AS may`);
  return rows[0]?.may ?? false;
}

/** Carries out planned changes and notes them: the tables themselves, what is known of them, and who sees new ones. */
export async function applyChanges(tx: Tx, there: ReadonlyMap<string, Table>, changes: readonly TableChange[], seenBy: readonly Role[]): Promise<void> {
  const keys = new Map([...there.values(), ...changes.map(({ table }) => table)].map(({ id, key }) => [id, key]));
  // A table that somebody reads for long must not make everybody else wait behind this.
  await tx.execute(sql`SET LOCAL lock_timeout = '5s'`);
  for (const change of changes) {
    await note(tx, change, seenBy);
    for (const statement of changeSql(change, (id) => keys.get(id) ?? '')) await tx.execute(statement);
  }
}

/** Notes a table that will be filled before it is finished, and makes it bare. */
export async function makeBareTable(tx: Tx, table: Table, seenBy: readonly Role[]): Promise<void> {
  await note(tx, { t: 'make-table', table }, seenBy);
  for (const statement of bareTable(table)) await tx.execute(statement);
}

export async function finishTable(tx: Tx, table: Table, keyOf: (id: string) => string): Promise<void> {
  for (const statement of finishedTable(table, keyOf)) await tx.execute(statement);
  await tx.execute(sql`ANALYZE ${tableName(table)}`);
}

async function note(tx: Tx, change: TableChange, seenBy: readonly Role[]): Promise<void> {
  const { table } = change;
  if (change.t === 'make-table') {
    await tx.insert(designedTable).values({ id: table.id, key: table.key, label: table.label, prefix: table.prefix, parentId: table.parent, title: [...table.title] });
    if (table.columns.length > 0) await tx.insert(designedColumn).values(table.columns.map((column, i) => columnRow(table, column, i)));
    if (seenBy.length > 0) await tx.insert(tableGrant).values(seenBy.map((role) => ({ tableId: table.id, role, action: 'see' })));
  } else if (change.t === 'relabel-table') {
    await tx.update(designedTable).set({ label: table.label }).where(eq(designedTable.id, table.id));
  } else {
    const at = table.columns.findIndex(({ id }) => id === change.column.id);
    const row = columnRow(table, change.column, at < 0 ? 999 : at);
    const { label, required, choices, unit } = row;
    await tx.insert(designedColumn).values(row).onConflictDoUpdate({ target: [designedColumn.tableId, designedColumn.id], set: { label, required, choices, unit } });
  }
}

function columnRow(table: Table, column: Table['columns'][number], position: number): typeof designedColumn.$inferInsert {
  const { id, key, label, kind, required, unique, decimals, unit, choices, target, description, personal } = column;
  return { tableId: table.id, id, key, label, kind, required, unique, decimals, unit, choices: [...choices], targetId: target, description, personal, position };
}

export async function grantSee(tx: Tx, tables: readonly string[], role: Role): Promise<void> {
  await tx.insert(tableGrant).values(tables.map((tableId) => ({ tableId, role, action: 'see' }))).onConflictDoNothing();
}

export async function tableKeysTaken(tx: Tx, keys: readonly string[]): Promise<string[]> {
  if (keys.length === 0) return [];
  const rows = await tx.select({ key: designedTable.key }).from(designedTable).where(inArray(designedTable.key, [...keys]));
  return rows.map(({ key }) => key);
}

/** Two releases that make the same table would otherwise meet half way. Held until the transaction ends. */
export async function oneTableChangeAtATime(tx: Tx): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtext('slate tables'))`);
}
