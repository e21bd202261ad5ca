import { and, asc, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { Catalogue } from '../../core/catalogue/catalogue';
import type { FormDesign } from '../../core/form/design';
import { alwaysOpen, type Opening } from '../../core/form/opening';
import type { Tx } from '../connect';
import { withLists } from './choice-lists';
import { form, formRelease, person, releaseTable } from './schema';

export type FormRow = typeof form.$inferSelect;
export type ReleaseRow = typeof formRelease.$inferSelect;

export async function readForm(
  tx: Tx,
  catalogue: Catalogue,
  id: string,
  lock = false,
): Promise<FormRow | null> {
  const query = tx.select().from(form).where(eq(form.id, id));
  const rows = await (lock ? query.for('update') : query);
  return withLists(catalogue, rows)[0] ?? null;
}

/** When forms may be filled, and how many submissions of those that are limited were sent. */
export async function readOpenings(
  tx: Tx,
  ids: readonly string[],
): Promise<ReadonlyMap<string, { opening: Opening; sent: number }>> {
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select({
      id: form.id,
      opening: form.opening,
      sent: sql<number>`CASE WHEN ${form.opening}->>'most' IS NULL THEN 0 ELSE slate.sent_of(${form.id}) END`,
    })
    .from(form)
    .where(and(inArray(form.id, [...ids]), isNotNull(form.opening)));
  return new Map(rows.map(({ id, opening, sent }) => [id, { opening: opening ?? alwaysOpen, sent }]));
}

/** Those who send by a form that is limited do so one after the other. */
export async function oneSendingAtATime(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtextextended('slate sending ' || ${id}, 0))`);
}

export async function updateOpening(tx: Tx, id: string, opening: Opening | null): Promise<void> {
  await tx.update(form).set({ opening }).where(eq(form.id, id));
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

/** The releases that were read, by the catalogue they are shown with: a release never changes, and its lists do only with the catalogue. */
const releases = new WeakMap<Catalogue, Map<string, ReleaseRow>>();

/** The live release of each form: what colleagues may fill. */
export async function liveForms(
  tx: Tx,
  catalogue: Catalogue,
): Promise<{ formId: string; key: string; design: FormDesign }[]> {
  const live = [...catalogue.forms.values()].flatMap(({ key, live: release }) =>
    release === null ? [] : [{ key, id: release.id }],
  );
  const known = await readReleases(
    tx,
    catalogue,
    live.map(({ id }) => id),
  );
  return live.flatMap(({ key, id }) => {
    const release = known.get(id);
    return release === undefined ? [] : [{ formId: release.formId, key, design: release.design }];
  });
}

export async function liveRelease(tx: Tx, catalogue: Catalogue, formId: string): Promise<ReleaseRow | null> {
  const live = catalogue.forms.get(formId)?.live;
  return live == null ? null : readRelease(tx, catalogue, live.id);
}

export async function readRelease(tx: Tx, catalogue: Catalogue, id: string): Promise<ReleaseRow | null> {
  return (await readReleases(tx, catalogue, [id])).get(id) ?? null;
}

async function readReleases(
  tx: Tx,
  catalogue: Catalogue,
  ids: readonly string[],
): Promise<ReadonlyMap<string, ReleaseRow>> {
  const known = releases.get(catalogue) ?? new Map<string, ReleaseRow>();
  releases.set(catalogue, known);
  const missing = ids.filter((id) => !known.has(id));
  if (missing.length > 0) {
    const rows = await tx.select().from(formRelease).where(inArray(formRelease.id, missing));
    for (const row of withLists(catalogue, rows)) known.set(row.id, row);
  }
  return known;
}

export async function listReleases(
  tx: Tx,
  formId: string,
): Promise<{ number: number; releasedAt: Date; by: string; formVersion: number; note: string }[]> {
  return tx
    .select({
      number: formRelease.number,
      releasedAt: formRelease.releasedAt,
      by: person.name,
      formVersion: formRelease.formVersion,
      note: formRelease.note,
    })
    .from(formRelease)
    .innerJoin(person, eq(person.id, formRelease.releasedBy))
    .where(eq(formRelease.formId, formId))
    .orderBy(desc(formRelease.number));
}

export async function releaseNumbered(
  tx: Tx,
  catalogue: Catalogue,
  formId: string,
  number: number,
): Promise<ReleaseRow | null> {
  const rows = await tx
    .select()
    .from(formRelease)
    .where(and(eq(formRelease.formId, formId), eq(formRelease.number, number)));
  return withLists(catalogue, rows)[0] ?? null;
}

/** What a release does with a table. */
export type ReleaseUse = Omit<typeof releaseTable.$inferInsert, 'releaseId'>;

export async function insertRelease(
  tx: Tx,
  row: typeof formRelease.$inferInsert,
  tables: readonly ReleaseUse[],
): Promise<void> {
  await tx.insert(formRelease).values(row);
  if (tables.length > 0)
    await tx.insert(releaseTable).values(tables.map((one) => ({ releaseId: row.id, ...one })));
}

/**
 * How much of a form is on its way: drafts that were begun, and what waits for somebody's decision or was
 * sent back. To those who design it.
 */
export interface UnderWay {
  readonly drafts: number;
  readonly sent: number;
}

export async function underWay(tx: Tx, formId: string): Promise<UnderWay> {
  const { rows } = await tx.execute<{ drafts: number; sent: number }>(
    sql`SELECT drafts, sent FROM slate.under_way(${formId}::uuid)`,
  );
  const [{ drafts, sent } = { drafts: 0, sent: 0 }] = rows;
  return { drafts, sent };
}
