import { and, asc, eq, sql } from 'drizzle-orm';
import type { Rehearsed } from '../../core/form/rehearsed';
import type { Tx } from '../connect';
import { formExample } from './schema';

export type ExampleRow = typeof formExample.$inferSelect;

export async function readExamples(tx: Tx, formId: string): Promise<ExampleRow[]> {
  return tx
    .select()
    .from(formExample)
    .where(eq(formExample.formId, formId))
    .orderBy(asc(sql`lower(${formExample.label})`), asc(formExample.id));
}

/** Kept again under the same id it changes nothing. */
export async function insertExample(tx: Tx, row: typeof formExample.$inferInsert): Promise<void> {
  await tx.insert(formExample).values(row).onConflictDoNothing();
}

export async function updateOutcome(
  tx: Tx,
  formId: string,
  id: string,
  outcome: Rehearsed,
  at: Date,
): Promise<boolean> {
  const rows = await tx
    .update(formExample)
    .set({ outcome, updatedAt: at })
    .where(and(eq(formExample.formId, formId), eq(formExample.id, id)))
    .returning({ id: formExample.id });
  return rows.length === 1;
}

export async function deleteExample(tx: Tx, formId: string, id: string): Promise<boolean> {
  const rows = await tx
    .delete(formExample)
    .where(and(eq(formExample.formId, formId), eq(formExample.id, id)))
    .returning({ id: formExample.id });
  return rows.length === 1;
}
