import { and, asc, eq, sql } from 'drizzle-orm';
import type { AtSteps } from '../../core/approval/at-step';
import { draftState, waitingAt, type PathEvent, type PathState } from '../../core/approval/path';
import { grouped } from '../../core/kernel/grouped';
import type { Told } from '../../core/approval/told';
import type { Answers } from '../../core/form/answers';
import type { Tx } from '../connect';
import { ask, person, submission, submissionEvent } from './schema';

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

/**
 * Moves a submission along its path, with its event and whom it asks next. The database holds the same rules
 * and refuses what they do not allow.
 */
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
