import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { PathEvent, PathState } from '../../core/approval/path';
import type { Answers } from '../../core/form/answers';
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

/** Keeps what its sender typed; the database lets nothing else of it be written like this. */
export async function updateDraft(
  tx: Tx,
  id: string,
  now: Date,
  set: { answers: Answers; version: number; base?: Answers },
): Promise<void> {
  await tx
    .update(submission)
    .set({ ...set, updatedAt: now })
    .where(eq(submission.id, id));
}

export interface Move {
  readonly event: PathEvent['t'];
  readonly state: PathState;
  readonly word: string;
  /** Of a sending: the number if it has none yet, the answers, and the steps that are not asked about them. */
  readonly sent: {
    readonly number: string;
    readonly answers: Answers;
    readonly skipped: readonly string[];
  } | null;
  readonly at: Date;
}

/** Moves a submission along its path, with its event and whom it asks next. The database holds the same rules and refuses what they do not allow. */
export async function moveSubmission(
  tx: Tx,
  id: string,
  { event, state, word, sent, at }: Move,
): Promise<void> {
  const answers = sent === null ? null : JSON.stringify(sent.answers);
  await tx.execute(
    sql`SELECT slate.move_submission(${id}::uuid, ${event}, ${state.state}, ${state.step}::int, ${sql.param([...state.asked])}::uuid[], ${word}, ${sent?.number ?? null}, ${answers}::jsonb, ${at.toISOString()}::timestamptz, ${sql.param([...(sent?.skipped ?? [])])}::text[])`,
  );
}

/** A draft goes on under another release, with answers as that asks for them. */
export async function carrySubmission(
  tx: Tx,
  id: string,
  { release, answers, at }: { release: string; answers: Answers; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.carry_draft(${id}::uuid, ${release}::uuid, ${JSON.stringify(answers)}::jsonb, ${at.toISOString()}::timestamptz)`,
  );
}

/** A draft goes on as a change of a record that is there. */
export async function turnToRecord(
  tx: Tx,
  id: string,
  { record, base, answers, at }: { record: string; base: Answers; answers: Answers; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.turn_to_record(${id}::uuid, ${record}::uuid, ${JSON.stringify(base)}::jsonb, ${JSON.stringify(answers)}::jsonb, ${at.toISOString()}::timestamptz)`,
  );
}

/** Which record it became, or changed: then with how that was before. */
export async function noteKept(
  tx: Tx,
  id: string,
  { record, was, at }: { record: string; was: Answers | null; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.note_kept(${id}::uuid, ${record}::uuid, ${was === null ? null : JSON.stringify(was)}::jsonb, ${at.toISOString()}::timestamptz)`,
  );
}

/** Makes the tables take its rows, for a transaction that is undone; no other can be committed. */
export async function rehearse(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.rehearse_submission(${id}::uuid)`);
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

export async function openAsks(tx: Tx, id: string): Promise<string[]> {
  const rows = await tx
    .select({ person: ask.personId })
    .from(ask)
    .where(and(eq(ask.submissionId, id), eq(ask.open, true)));
  return rows.map(({ person }) => person);
}

/** How many have approved the step it is at, since it was sent the last time. */
export async function approvals(tx: Tx, id: string): Promise<number> {
  const { rows } = await tx.execute<{ n: number }>(sql`SELECT slate.approvals(${id}::uuid) AS n`);
  return rows[0]?.n ?? 0;
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
  ofRecord: submission.ofRecord,
};
export type SubmissionSummaryRow = Awaited<ReturnType<typeof ownSubmissions>>[number];

/** What somebody answered in a form lately, the newest first. */
export async function latestAnswers(tx: Tx, sender: string, of: string, most: number): Promise<Answers[]> {
  const rows = await tx
    .select({ answers: submission.answers })
    .from(submission)
    .where(and(eq(submission.senderId, sender), eq(submission.formId, of)))
    .orderBy(desc(submission.updatedAt))
    .limit(most);
  return rows.map(({ answers }) => answers);
}

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

/** What was sent by a form lately, as far as whoever asks may see it, the newest first. */
export async function sentOf(tx: Tx, formId: string, most: number) {
  return tx
    .select(summary)
    .from(submission)
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(form, eq(form.id, submission.formId))
    .innerJoin(person, eq(person.id, submission.senderId))
    .where(and(eq(submission.formId, formId), isNotNull(submission.sentAt), isNull(submission.ofRecord)))
    .orderBy(desc(submission.sentAt))
    .limit(most);
}

/** A change of a record by a form that its sender has not finished yet. */
export async function ownChangeOf(
  tx: Tx,
  { sender, form: of, record }: { sender: string; form: string; record: string },
): Promise<SubmissionRow | null> {
  const rows = await tx
    .select()
    .from(submission)
    .where(
      and(
        eq(submission.ofRecord, record),
        eq(submission.senderId, sender),
        eq(submission.formId, of),
        inArray(submission.state, ['draft', 'sent-back']),
      ),
    )
    .orderBy(desc(submission.updatedAt))
    .limit(1);
  return rows[0] ?? null;
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

/** Claims a request key. Null when it is new and now ours; else what was asked under it the first time, and the answer. */
export async function claimKey(
  tx: Tx,
  who: string,
  { key, operation, bodyHash }: { key: string; operation: string; bodyHash: string },
): Promise<{ operation: string; bodyHash: string; answer: unknown } | null> {
  const rows = await tx
    .insert(requestKey)
    .values({ personId: who, key, operation, bodyHash, answer: null })
    .onConflictDoNothing()
    .returning({ key: requestKey.key });
  if (rows.length === 1) return null;
  const known = await tx
    .select({ operation: requestKey.operation, bodyHash: requestKey.bodyHash, answer: requestKey.answer })
    .from(requestKey)
    .where(and(eq(requestKey.personId, who), eq(requestKey.key, key)));
  return known[0] ?? { operation: '', bodyHash: '', answer: null };
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
