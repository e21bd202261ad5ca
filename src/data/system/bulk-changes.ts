import { and, asc, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import type { BulkBack, BulkProgress, BulkState } from '../../core/record/bulk-change';
import type { Tx } from '../connect';
import { bulkChange, bulkChanged } from './schema';

export type BulkRow = typeof bulkChange.$inferSelect;

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readBulk(tx: Tx, id: string, lock = false): Promise<BulkRow | null> {
  const query = tx.select().from(bulkChange).where(eq(bulkChange.id, id));
  const [row] = await (lock ? query.for('update') : query);
  return row ?? null;
}

/** The last that a person asked of a table, within a day. */
export async function lastBulk(tx: Tx, table: string, by: string): Promise<BulkRow | null> {
  const [row] = await tx
    .select()
    .from(bulkChange)
    .where(
      and(
        eq(bulkChange.tableId, table),
        eq(bulkChange.personId, by),
        gt(bulkChange.createdAt, sql`now() - interval '1 day'`),
      ),
    )
    .orderBy(desc(bulkChange.createdAt))
    .limit(1);
  return row ?? null;
}

/** False where one of this person's is at work on the table, or this one was begun already. */
export async function insertBulk(
  tx: Tx,
  row: Pick<BulkRow, 'id' | 'tableId' | 'personId' | 'what' | 'progress'>,
): Promise<boolean> {
  const made = await tx.insert(bulkChange).values(row).onConflictDoNothing().returning({ id: bulkChange.id });
  if (made.length === 0) return false;
  await askBulkJob(tx, row.id);
  return true;
}

export async function askBulkJob(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_bulk_job(${id}::uuid)`);
}

export async function noteBulk(
  tx: Tx,
  id: string,
  change: { readonly state?: BulkState; readonly progress?: BulkProgress; readonly upTo?: string },
): Promise<void> {
  await tx
    .update(bulkChange)
    .set({ ...change, updatedAt: sql`now()` })
    .where(eq(bulkChange.id, id));
}

export async function keepBacks(
  tx: Tx,
  id: string,
  backs: readonly (BulkBack & { readonly record: string })[],
): Promise<void> {
  if (backs.length === 0) return;
  await tx
    .insert(bulkChanged)
    .values(backs.map(({ record, ...back }) => ({ bulkId: id, recordId: record, back })))
    .onConflictDoNothing();
}

/** What a bulk change left to be taken back, in the order of ids. */
export async function readBacks(
  tx: Tx,
  id: string,
  after: string | null,
  most: number,
): Promise<(BulkBack & { record: string })[]> {
  const rows = await tx
    .select({ record: bulkChanged.recordId, back: bulkChanged.back })
    .from(bulkChanged)
    .where(and(eq(bulkChanged.bulkId, id), after === null ? undefined : gt(bulkChanged.recordId, after)))
    .orderBy(asc(bulkChanged.recordId))
    .limit(most);
  return rows.map(({ record, back }) => ({ record, ...back }));
}

/** Those a job ought to be at work on. */
export async function runningBulks(tx: Tx): Promise<string[]> {
  const rows = await tx
    .select({ id: bulkChange.id })
    .from(bulkChange)
    .where(inArray(bulkChange.state, ['running']));
  return rows.map(({ id }) => id);
}
