import { and, asc, desc, eq, gte, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { Digest } from '../../core/approval/digest';
import type { Answers } from '../../core/form/answers';
import type { Tx } from '../connect';
import { ask, form, formRelease, person, submission, submissionEvent } from './schema';
import type { SubmissionRow } from './submissions';

/** Submissions as they are listed: one's own, those of a form, those that wait and those that were decided. */
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
  digest: submission.digest,
};
/** A word that was the last thing said, where nobody has decided or answered since. */
const lastWord = sql<{ readonly by: string; readonly name: string; readonly word: string } | null>`(
  SELECT jsonb_build_object('by', e.by_id, 'name', p.name, 'word', e.word) FROM slate.submission_event e JOIN slate.person p ON p.id = e.by_id
  WHERE e.submission_id = ${submission.id} AND e.kind = 'remark'
    AND e.position = (SELECT max(position) FROM slate.submission_event WHERE submission_id = ${submission.id} AND kind <> 'late'))`;
/** When a step it waits at began: those who were asked later were handed it. */
const begunOf = (step: AnyPgColumn) => sql<string | null>`(
  SELECT to_char(min(a.since) AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') FROM slate.ask a
  WHERE a.submission_id = ${submission.id} AND a.step = ${step} AND a.since >= greatest(${submission.sentAt},
    (SELECT max(e.at) FROM slate.submission_event e WHERE e.submission_id = ${submission.id} AND e.kind IN ('return', 'move') AND e.to_step <= a.step AND e.at >= ${submission.sentAt})))`;
const sentBefore = sql<boolean>`${submission.earlierAnswers} IS NOT NULL`;
const inHand = {
  ...summary,
  lastWord,
  begun: begunOf(submission.step),
  sentBefore,
  version: submission.version,
  days: submission.days,
};

export type SubmissionSummaryRow = Omit<
  Awaited<ReturnType<typeof ownSubmissions>>[number],
  'lastWord' | 'begun' | 'sentBefore' | 'version' | 'days'
>;

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
    .select(inHand)
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

/** The latest of a form that are looked through for those alike. */
const LOOKED_THROUGH = 1_000;

/** What was sent by a form lately with the same answer to a question, as far as whoever asks may see it, the newest first. */
export async function alikeSent(
  tx: Tx,
  { form: of, except, question, value }: { form: string; except: string; question: string; value: string },
  most: number,
): Promise<SubmissionRow[]> {
  const latest = tx
    .select({ id: submission.id, answers: submission.answers })
    .from(submission)
    .where(and(eq(submission.formId, of), isNotNull(submission.sentAt), isNull(submission.ofRecord)))
    .orderBy(desc(submission.sentAt))
    .limit(LOOKED_THROUGH)
    .as('latest');
  const alike = tx
    .select({ id: latest.id })
    .from(latest)
    .where(sql`${latest.answers} -> 'values' ->> ${question} = ${value} AND ${latest.id} <> ${except}::uuid`);
  return tx
    .select()
    .from(submission)
    .where(inArray(submission.id, alike))
    .orderBy(desc(submission.sentAt), desc(submission.number))
    .limit(most);
}

/** The same, whole, and sent since a moment. */
export async function sentSince(tx: Tx, formId: string, since: Date, most: number): Promise<SubmissionRow[]> {
  return tx
    .select()
    .from(submission)
    .where(and(eq(submission.formId, formId), gte(submission.sentAt, since), isNull(submission.ofRecord)))
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

/**
 * What whoever asks may decide, as themselves or for somebody who is away: each submission once, with the
 * first of its steps they may decide.
 */
const isForAsking = sql`${ask.open} AND ${ask.personId} = ANY ((SELECT slate.asked_as())::uuid[])
  AND CASE WHEN ${ask.personId} = (SELECT slate.asking())
    THEN NOT EXISTS (SELECT 1 FROM slate.ask b WHERE b.submission_id = ${ask.submissionId} AND b.person_id = ${ask.personId} AND b.open AND b.step < ${ask.step})
    ELSE (${ask.personId}, ${ask.step}) = (SELECT who, at_step FROM slate.seat_at(${ask.submissionId})) END`;

/** What waits for whoever asks, longest first, and whom each asks. */
export async function waitingFor(
  tx: Tx,
  most: number,
): Promise<(Awaited<ReturnType<typeof ownSubmissions>>[number] & { since: Date; asks: string })[]> {
  return tx
    .select({ ...inHand, step: ask.step, begun: begunOf(ask.step), since: ask.since, asks: ask.personId })
    .from(ask)
    .innerJoin(submission, eq(submission.id, ask.submissionId))
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(form, eq(form.id, submission.formId))
    .innerJoin(person, eq(person.id, submission.senderId))
    .where(isForAsking)
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
      and(
        eq(submissionEvent.byId, who),
        sql`${submissionEvent.kind} IN ('approve', 'send-back', 'return', 'decline')`,
      ),
    )
    .orderBy(desc(submissionEvent.at))
    .limit(most);
}

export async function countWaiting(tx: Tx): Promise<number> {
  const rows = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(ask)
    .where(isForAsking);
  return rows[0]?.n ?? 0;
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

/** Keeps what lists say of something that waits, unless it has moved on meanwhile. */
export async function keepDigest(tx: Tx, id: string, version: number, digest: Digest): Promise<void> {
  await tx
    .update(submission)
    .set({ digest })
    .where(and(eq(submission.id, id), eq(submission.version, version), eq(submission.state, 'waiting')));
}

/** What waits and has no digest yet, longest sent first. */
export const undigested = (tx: Tx, most: number): Promise<{ id: string; sender: string }[]> =>
  tx
    .select({ id: submission.id, sender: submission.senderId })
    .from(submission)
    .where(and(eq(submission.state, 'waiting'), isNull(submission.digest)))
    .orderBy(asc(submission.sentAt))
    .limit(most);
