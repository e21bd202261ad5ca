import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { FormDesign } from '../../core/form/design';
import type { Tx } from '../connect';
import { withLists } from './choice-lists';
import { form, formRelease, person, releaseTable } from './schema';

export type FormRow = typeof form.$inferSelect;
export type ReleaseRow = typeof formRelease.$inferSelect;

export async function readForm(tx: Tx, id: string, lock = false): Promise<FormRow | null> {
  const query = tx.select().from(form).where(eq(form.id, id));
  const rows = await (lock ? query.for('update') : query);
  return (await withLists(tx, rows))[0] ?? null;
}

export async function insertForm(tx: Tx, row: typeof form.$inferInsert): Promise<void> {
  await tx.insert(form).values(row);
}

/** Keeps an edit only if the form is still at the version it began from. */
export async function updateDesign(
  tx: Tx,
  id: string,
  version: number,
  design: FormDesign,
  by: string,
): Promise<boolean> {
  const rows = await tx
    .update(form)
    .set({ design, version: version + 1, editedBy: by, updatedAt: new Date() })
    .where(and(eq(form.id, id), eq(form.version, version)))
    .returning({ id: form.id });
  return rows.length === 1;
}

export interface FormSummary {
  readonly id: string;
  readonly key: string;
  readonly title: string;
  readonly area: string;
  readonly ownerId: string;
  readonly ownerName: string;
  readonly version: number;
  readonly updatedAt: Date;
  readonly release: number | null;
  readonly releasedVersion: number | null;
}

export async function listForms(tx: Tx): Promise<FormSummary[]> {
  const newest = tx
    .selectDistinctOn([formRelease.formId], {
      formId: formRelease.formId,
      number: formRelease.number,
      formVersion: formRelease.formVersion,
    })
    .from(formRelease)
    .orderBy(formRelease.formId, desc(formRelease.number))
    .as('newest');
  return tx
    .select({
      id: form.id,
      key: form.key,
      title: sql<string>`${form.design}->>'title'`,
      area: sql<string>`${form.design}->>'area'`,
      ownerId: form.ownerId,
      ownerName: person.name,
      version: form.version,
      updatedAt: form.updatedAt,
      release: newest.number,
      releasedVersion: newest.formVersion,
    })
    .from(form)
    .innerJoin(person, eq(person.id, form.ownerId))
    .leftJoin(newest, eq(newest.formId, form.id))
    .orderBy(asc(sql`2`), asc(form.key));
}

/** The live release of each form: what colleagues may fill. */
export async function liveForms(
  tx: Tx,
): Promise<{ formId: string; key: string; releaseId: string; number: number; design: FormDesign }[]> {
  return withLists(
    tx,
    await tx
      .selectDistinctOn([formRelease.formId], {
        formId: formRelease.formId,
        key: form.key,
        releaseId: formRelease.id,
        number: formRelease.number,
        design: formRelease.design,
      })
      .from(formRelease)
      .innerJoin(form, eq(form.id, formRelease.formId))
      .orderBy(formRelease.formId, desc(formRelease.number)),
  );
}

export async function liveRelease(tx: Tx, formId: string): Promise<ReleaseRow | null> {
  const rows = await tx
    .select()
    .from(formRelease)
    .where(eq(formRelease.formId, formId))
    .orderBy(desc(formRelease.number))
    .limit(1);
  return (await withLists(tx, rows))[0] ?? null;
}

export async function readRelease(tx: Tx, id: string): Promise<ReleaseRow | null> {
  const rows = await tx.select().from(formRelease).where(eq(formRelease.id, id));
  return (await withLists(tx, rows))[0] ?? null;
}

export async function listReleases(
  tx: Tx,
  formId: string,
): Promise<{ number: number; releasedAt: Date; by: string; formVersion: number }[]> {
  return tx
    .select({
      number: formRelease.number,
      releasedAt: formRelease.releasedAt,
      by: person.name,
      formVersion: formRelease.formVersion,
    })
    .from(formRelease)
    .innerJoin(person, eq(person.id, formRelease.releasedBy))
    .where(eq(formRelease.formId, formId))
    .orderBy(desc(formRelease.number));
}

export async function insertRelease(
  tx: Tx,
  row: typeof formRelease.$inferInsert,
  tables: readonly { tableId: string; use: 'write' | 'pick' }[],
): Promise<void> {
  await tx.insert(formRelease).values(row);
  if (tables.length > 0)
    await tx.insert(releaseTable).values(tables.map((one) => ({ releaseId: row.id, ...one })));
}

export async function formByKey(tx: Tx, key: string): Promise<FormRow | null> {
  const rows = await tx.select().from(form).where(eq(form.key, key));
  return (await withLists(tx, rows))[0] ?? null;
}
