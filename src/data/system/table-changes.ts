import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { tableWithLists } from '../../core/table/choice-list';
import type { FormDesign } from '../../core/form/design';
import type { ChangeProgress } from '../../core/table/table-change';
import type { Tx } from '../connect';
import { withLists } from './choice-lists';
import { form, formRelease, person, submission, tableChange } from './schema';

export type TableChangeRow = typeof tableChange.$inferSelect;

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readChange(
  tx: Tx,
  catalogue: Catalogue,
  id: string,
  lock = false,
): Promise<TableChangeRow | null> {
  const query = tx.select().from(tableChange).where(eq(tableChange.id, id));
  const rows = await (lock ? query.for('update') : query);
  return asNow(catalogue, rows)[0] ?? null;
}

/** With the choices that lists have now, both in what it began from and in what is wanted. */
function asNow<T extends Pick<TableChangeRow, 'base' | 'redesign'>>(
  { lists }: Catalogue,
  rows: readonly T[],
): T[] {
  return rows.map((row) => ({
    ...row,
    base: row.base == null ? null : tableWithLists(row.base, lists),
    redesign: { ...row.redesign, table: tableWithLists(row.redesign.table, lists) },
  }));
}

/** What this person has begun to change of a table and not ended. */
export async function openChange(
  tx: Tx,
  catalogue: Catalogue,
  table: string,
  by: string,
): Promise<TableChangeRow | null> {
  const rows = await tx
    .select()
    .from(tableChange)
    .where(
      and(
        eq(tableChange.tableId, table),
        eq(tableChange.personId, by),
        inArray(tableChange.state, ['draft', 'refused', 'running']),
      ),
    );
  return asNow(catalogue, rows)[0] ?? null;
}

/** Drafts of tables that are not there yet. */
export async function newTableDrafts(tx: Tx, catalogue: Catalogue, by: string): Promise<TableChangeRow[]> {
  return asNow(
    catalogue,
    await tx
      .select()
      .from(tableChange)
      .where(
        and(
          eq(tableChange.personId, by),
          inArray(tableChange.state, ['draft', 'refused']),
          sql`${tableChange.base} IS NULL`,
        ),
      )
      .orderBy(desc(tableChange.updatedAt)),
  );
}

export async function insertChange(
  tx: Tx,
  row: Pick<TableChangeRow, 'id' | 'tableId' | 'personId' | 'base' | 'redesign'>,
): Promise<boolean> {
  const made = await tx
    .insert(tableChange)
    .values({ ...row, state: 'draft' })
    .onConflictDoNothing()
    .returning({ id: tableChange.id });
  return made.length === 1;
}

export async function updateChange(
  tx: Tx,
  id: string,
  change: Partial<Pick<TableChangeRow, 'state' | 'base' | 'redesign' | 'progress' | 'issues'>>,
): Promise<void> {
  await tx
    .update(tableChange)
    .set({ ...change, updatedAt: sql`now()`, version: sql`${tableChange.version} + 1` })
    .where(eq(tableChange.id, id));
}

/** Told often, so it leaves the version alone. */
export async function noteChangeProgress(tx: Tx, id: string, progress: ChangeProgress): Promise<void> {
  await tx.update(tableChange).set({ progress }).where(eq(tableChange.id, id));
}

export async function askChangeJob(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_change_job(${id}::uuid)`);
}

/** Changes a job ought to be at work on. */
export async function runningChanges(tx: Tx): Promise<string[]> {
  const rows = await tx
    .select({ id: tableChange.id })
    .from(tableChange)
    .where(eq(tableChange.state, 'running'));
  return rows.map(({ id }) => id);
}

export interface DoneChange {
  readonly id: string;
  readonly base: TableChangeRow['base'];
  readonly redesign: TableChangeRow['redesign'];
  readonly by: string;
  readonly at: Date;
}

/** What was done to a table, the newest first. */
export async function doneChanges(
  tx: Tx,
  catalogue: Catalogue,
  table: string,
  most: number,
): Promise<DoneChange[]> {
  return asNow(
    catalogue,
    await tx
      .select({
        id: tableChange.id,
        base: tableChange.base,
        redesign: tableChange.redesign,
        by: person.name,
        at: tableChange.updatedAt,
      })
      .from(tableChange)
      .innerJoin(person, eq(person.id, tableChange.personId))
      .where(and(eq(tableChange.tableId, table), eq(tableChange.state, 'done')))
      .orderBy(desc(tableChange.updatedAt))
      .limit(most),
  );
}

/** A job that is begun again while the first is still at it waits until that has ended. */
export async function oneChangeAtATime(tx: Tx, table: string): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtext('slate change'), hashtext(${table}))`);
}

export interface UsingForm {
  readonly id: string;
  readonly title: string;
  readonly design: FormDesign;
  /** A release that is the newest of its form, or has submissions on their way; null for a draft. */
  readonly release: number | null;
}

/** Every design that people fill or will: drafts, live releases, and releases with submissions on their way. */
export async function designsInUse(tx: Tx, catalogue: Catalogue): Promise<UsingForm[]> {
  const drafts = await tx.select({ id: form.id, design: form.design }).from(form);
  const releases = await tx
    .select({ id: formRelease.formId, number: formRelease.number, design: formRelease.design })
    .from(formRelease).where(sql`
    ${formRelease.number} = (SELECT max(number) FROM ${formRelease} AS r WHERE r.form_id = ${formRelease.formId})
    OR EXISTS (SELECT 1 FROM ${submission} AS s WHERE s.release_id = ${formRelease.id} AND s.state IN ('draft', 'waiting', 'sent-back'))`);
  return withLists(catalogue, [
    ...releases.map(({ id, number, design }) => ({ id, title: design.title, design, release: number })),
    ...drafts.map(({ id, design }) => ({ id, title: design.title, design, release: null })),
  ]);
}
