import { and, asc, desc, eq, gte, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { AtSteps } from '../../core/approval/at-step';
import { draftState, waitingAt, type PathEvent, type PathState } from '../../core/approval/path';
import { grouped } from '../../core/kernel/grouped';
import type { Told } from '../../core/approval/told';
import type { Answers } from '../../core/form/answers';
import type { Tx } from '../connect';
import { ask, form, formRelease, person, requestKey, submission, submissionEvent } from './schema';

export type SubmissionRow = typeof submission.$inferSelect;
/** `through` is what the token of the program is called that did it for them. */
export type EventRow = typeof submissionEvent.$inferSelect & { byName: string; through: string | null };

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
  /** Of a sending: the number if it has none yet, the answers, and what they tell of the path. */
  readonly sent: { readonly number: string; readonly answers: Answers; readonly told: Told } | null;
  readonly at: Date;
}

/** Moves a submission along its path, with its event and whom it asks next. The database holds the same rules and refuses what they do not allow. */
export async function moveSubmission(
  tx: Tx,
  id: string,
  { event, state, word, sent, at }: Move,
): Promise<void> {
  const answers = sent === null ? null : JSON.stringify(sent.answers);
  const beside = Object.fromEntries(state.beside.map(({ step, asked }) => [step, asked]));
  await tx.execute(
    sql`SELECT slate.move_submission(${id}::uuid, ${event}, ${state.state}, ${state.step}::int, ${sql.param([...state.asked])}::uuid[], ${word}, ${sent?.number ?? null}, ${answers}::jsonb, ${at.toISOString()}::timestamptz, ${sql.param([...(sent?.told.skipped ?? [])])}::text[], ${JSON.stringify(sent?.told.named ?? {})}::jsonb, ${JSON.stringify(beside)}::jsonb, ${JSON.stringify(sent?.told.ruled ?? {})}::jsonb)`,
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
    .select({
      event: submissionEvent,
      byName: person.name,
      through: sql<
        string | null
      >`CASE WHEN ${submissionEvent.tokenId} IS NOT NULL THEN slate.token_label(${submissionEvent.tokenId}) END`,
    })
    .from(submissionEvent)
    .innerJoin(person, eq(person.id, submissionEvent.byId))
    .where(eq(submissionEvent.submissionId, id))
    .orderBy(asc(submissionEvent.position));
  return rows.map(({ event, ...said }) => ({ ...event, ...said }));
}

/** Everybody who is or was asked, longest asked first. */
export function askedOf(
  tx: Tx,
  id: string,
): Promise<{ person: string; open: boolean; step: number; since: Date }[]> {
  return tx
    .select({ person: ask.personId, open: ask.open, step: ask.step, since: ask.since })
    .from(ask)
    .where(eq(ask.submissionId, id))
    .orderBy(asc(ask.since), asc(ask.personId));
}

/** How it stands on its path: what it waits at, and whom it asks there. */
export async function standing(
  tx: Tx,
  { id, state, step }: Pick<SubmissionRow, 'id' | 'state' | 'step'>,
  said: Pick<AtSteps, 'approved' | 'against'>,
): Promise<PathState> {
  const open = grouped(
    (await askedOf(tx, id)).filter((one) => one.open),
    (one) => one.step,
  );
  // Somebody may be asked no more while nobody else is.
  const steps = state !== 'waiting' || step === null ? [] : [...new Set([step, ...open.keys()])];
  return steps.length === 0
    ? { ...draftState, state }
    : waitingAt(
        steps.map((at) => ({
          step: at,
          asked: (open.get(at) ?? []).map(({ person }) => person),
          approved: said.approved(at),
          ...(said.against(at).length > 0 && { against: said.against(at) }),
        })),
      );
}

/** Other answers in place of those it waits with, as far as the step that is decided may correct them; the database holds that. */
export async function correctSubmission(
  tx: Tx,
  id: string,
  { answers, told, word, at }: { answers: Answers; told: Told; word: string; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.correct_answers(${id}::uuid, ${JSON.stringify(answers)}::jsonb, ${sql.param([...told.skipped])}::text[], ${JSON.stringify(told.named)}::jsonb, ${JSON.stringify(told.ruled)}::jsonb, ${word}, ${at.toISOString()}::timestamptz)`,
  );
}

/** Asks somebody in place of whoever gives it away; the database holds who may be. */
export async function handSubmissionOver(
  tx: Tx,
  id: string,
  { to, word, at }: { to: string; word: string; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.hand_over(${id}::uuid, ${to}::uuid, ${word}, ${at.toISOString()}::timestamptz)`,
  );
}

/** A word without a decision, about one answer or all of it; whom it names are told. */
export async function insertRemark(
  tx: Tx,
  id: string,
  { word, place, tells, at }: { word: string; place: string | null; tells: readonly string[]; at: Date },
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.remark(${id}::uuid, ${word}, ${at.toISOString()}::timestamptz, ${place}, ${sql.param([...tells])}::uuid[])`,
  );
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

/** What whoever asks may decide, as themselves or for somebody who is away: each submission once, with the first of its steps they may decide. */
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
