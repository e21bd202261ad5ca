import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { ask, form, formRelease, person, requestKey, submission, submissionEvent } from './schema';

export type SubmissionRow = typeof submission.$inferSelect;
export type EventRow = typeof submissionEvent.$inferSelect & { byName: string };

/** With `lock`, nobody else can decide it until the transaction ends. */
export async function readSubmission(tx: Tx, id: string, lock = false): Promise<SubmissionRow | null> {
  const query = tx.select().from(submission).where(eq(submission.id, id));
  const rows = await (lock ? query.for('update') : query);
  return rows[0] ?? null;
}

export async function insertSubmission(tx: Tx, row: typeof submission.$inferInsert): Promise<boolean> {
  const rows = await tx.insert(submission).values(row).onConflictDoNothing().returning({ id: submission.id });
  return rows.length === 1;
}

export async function updateSubmission(
  tx: Tx,
  id: string,
  now: Date,
  set: Partial<typeof submission.$inferInsert>,
): Promise<void> {
  await tx
    .update(submission)
    .set({ ...set, updatedAt: now })
    .where(eq(submission.id, id));
}

export async function deleteDraft(tx: Tx, id: string): Promise<boolean> {
  const rows = await tx
    .delete(submission)
    .where(and(eq(submission.id, id), eq(submission.state, 'draft')))
    .returning({ id: submission.id });
  return rows.length === 1;
}

export async function readEvents(tx: Tx, id: string): Promise<EventRow[]> {
  const rows = await tx
    .select({ event: submissionEvent, byName: person.name })
    .from(submissionEvent)
    .innerJoin(person, eq(person.id, submissionEvent.byId))
    .where(eq(submissionEvent.submissionId, id))
    .orderBy(asc(submissionEvent.position));
  return rows.map(({ event, byName }) => ({ ...event, byName }));
}

export async function addEvent(
  tx: Tx,
  row: Omit<typeof submissionEvent.$inferInsert, 'position'>,
): Promise<void> {
  const rows = await tx
    .select({ last: sql<number>`coalesce(max(${submissionEvent.position}), 0)::int` })
    .from(submissionEvent)
    .where(eq(submissionEvent.submissionId, row.submissionId));
  await tx.insert(submissionEvent).values({ ...row, position: (rows[0]?.last ?? 0) + 1 });
}

export async function openAsks(tx: Tx, id: string): Promise<string[]> {
  const rows = await tx
    .select({ person: ask.personId })
    .from(ask)
    .where(and(eq(ask.submissionId, id), eq(ask.open, true)));
  return rows.map(({ person }) => person);
}

export async function closeAsks(tx: Tx, id: string): Promise<void> {
  await tx
    .update(ask)
    .set({ open: false })
    .where(and(eq(ask.submissionId, id), eq(ask.open, true)));
}

export async function askPeople(
  tx: Tx,
  id: string,
  now: Date,
  step: number,
  people: readonly string[],
): Promise<void> {
  const rows = people.map((personId) => ({ submissionId: id, step, personId, open: true, since: now }));
  await tx
    .insert(ask)
    .values(rows)
    .onConflictDoUpdate({
      target: [ask.submissionId, ask.step, ask.personId],
      set: { open: true, since: now },
    });
}

const summary = {
  id: submission.id,
  number: submission.number,
  state: submission.state,
  formId: submission.formId,
  formKey: form.key,
  title: sql<string>`${formRelease.design}->>'title'`,
  senderName: person.name,
  senderPlace: person.place,
  sentAt: submission.sentAt,
  updatedAt: submission.updatedAt,
  answers: submission.answers,
  design: formRelease.design,
  step: submission.step,
};
export type SubmissionSummaryRow = Awaited<ReturnType<typeof ownSubmissions>>[number];

export async function ownSubmissions(tx: Tx, sender: string, most: number) {
  return tx
    .select(summary)
    .from(submission)
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(form, eq(form.id, submission.formId))
    .innerJoin(person, eq(person.id, submission.senderId))
    .where(eq(submission.senderId, sender))
    .orderBy(desc(submission.updatedAt))
    .limit(most);
}

/** What waits for this person, longest first. */
export async function waitingFor(
  tx: Tx,
  who: string,
  most: number,
): Promise<(SubmissionSummaryRow & { since: Date })[]> {
  return tx
    .select({ ...summary, since: ask.since })
    .from(ask)
    .innerJoin(submission, eq(submission.id, ask.submissionId))
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(form, eq(form.id, submission.formId))
    .innerJoin(person, eq(person.id, submission.senderId))
    .where(and(eq(ask.personId, who), eq(ask.open, true)))
    .orderBy(asc(ask.since), asc(submission.id))
    .limit(most);
}

/** What this person was asked about and is decided, newest first. */
export async function decidedBy(tx: Tx, who: string, most: number): Promise<SubmissionSummaryRow[]> {
  return tx
    .select(summary)
    .from(submissionEvent)
    .innerJoin(submission, eq(submission.id, submissionEvent.submissionId))
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(form, eq(form.id, submission.formId))
    .innerJoin(person, eq(person.id, submission.senderId))
    .where(
      and(eq(submissionEvent.byId, who), sql`${submissionEvent.kind} IN ('approve', 'send-back', 'decline')`),
    )
    .orderBy(desc(submissionEvent.at))
    .limit(most);
}

export async function countWaiting(tx: Tx, who: string): Promise<number> {
  const rows = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(ask)
    .where(and(eq(ask.personId, who), eq(ask.open, true)));
  return rows[0]?.n ?? 0;
}

/** Claims a request key. Null when it is new and now ours; else the answer given the first time. */
export async function claimKey(tx: Tx, who: string, key: string): Promise<unknown> {
  const rows = await tx
    .insert(requestKey)
    .values({ personId: who, key, answer: null })
    .onConflictDoNothing()
    .returning({ key: requestKey.key });
  if (rows.length === 1) return null;
  const known = await tx
    .select({ answer: requestKey.answer })
    .from(requestKey)
    .where(and(eq(requestKey.personId, who), eq(requestKey.key, key)));
  return known[0]?.answer ?? {};
}

export async function answerKey(tx: Tx, who: string, key: string, answer: unknown): Promise<void> {
  await tx
    .update(requestKey)
    .set({ answer })
    .where(and(eq(requestKey.personId, who), eq(requestKey.key, key)));
}

/** Whether anything on its way, of one of these forms, holds this text as a whole answer somewhere. */
export async function answersHolding(tx: Tx, forms: readonly string[], text: string): Promise<boolean> {
  const rows = await tx
    .select({ id: submission.id })
    .from(submission)
    .where(
      and(
        inArray(submission.formId, [...forms]),
        inArray(submission.state, ['draft', 'waiting', 'sent-back']),
        sql`position(${JSON.stringify(text)} IN ${submission.answers}::text) > 0`,
      ),
    )
    .limit(1);
  return rows.length > 0;
}
