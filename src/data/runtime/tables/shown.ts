import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Tx } from '../../connect';
import { designedColumn } from '../../system/schema';

/** The views by which tables with restricted columns are read (ADR 42); as the owner role. */

/** Before a table changes: PostgreSQL changes no column that a view names. */
export async function letGoOfShown(tx: Tx, table: string): Promise<void> {
  await tx.execute(sql`SELECT slate.let_go_of_shown(${table}::uuid)`);
}

/** As its columns are restricted now. */
export async function settleShown(tx: Tx, table: string): Promise<void> {
  await tx.execute(sql`SELECT slate.settle_shown(${table}::uuid)`);
}

/** Notes which columns of a table are restricted, and no others. */
export async function noteRestricted(tx: Tx, table: string, columns: readonly string[]): Promise<void> {
  await tx
    .update(designedColumn)
    .set({ restricted: sql`${designedColumn.id} = ANY (${sql.param([...columns])}::text[])` })
    .where(eq(designedColumn.tableId, table));
}

export async function alsoRestrict(tx: Tx, table: string, columns: readonly string[]): Promise<void> {
  await tx
    .update(designedColumn)
    .set({ restricted: true })
    .where(and(eq(designedColumn.tableId, table), inArray(designedColumn.id, [...columns])));
}
