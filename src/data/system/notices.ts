import { and, asc, desc, eq, inArray, isNull, lte, notInArray, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { GO_ON } from '../../core/form/design';
import type { Begun } from '../../core/notice/due-now';
import type { ByMail, NoticeFacts } from '../../core/notice/notice';
import type { Tx } from '../connect';
import {
  accountMail,
  formRelease,
  lapse,
  notice,
  person,
  submission,
  submissionEvent,
  stuckTold,
  telling,
} from './schema';

export interface NoticeRow extends NoticeFacts {
  readonly id: number;
  readonly submissionId: string;
  readonly personId: string;
  readonly at: Date;
  readonly seen: boolean;
  /** Whether the owner of the form has a mail of it say more. */
  readonly saysMore: boolean;
}

const [sender, actor, away, late] = [
  alias(person, 'sender'),
  alias(person, 'actor'),
  alias(person, 'away'),
  alias(person, 'late'),
];

const facts = {
  id: notice.id,
  submissionId: notice.submissionId,
  personId: notice.personId,
  kind: notice.kind,
  title: sql<string>`${formRelease.design}->>'title'`,
  number: submission.number,
  sender: sender.name,
  by: actor.name,
  handed: sql<boolean>`${submissionEvent.kind} = 'hand-over'`,
  passed: sql<boolean>`${submissionEvent.kind} = 'lapse'`,
  insteadOf: late.name,
  standsInFor: away.name,
  word: submissionEvent.word,
  due: notice.dueDay,
  at: notice.at,
  saysMore: sql<boolean>`coalesce(${formRelease.design}->'mails' @> jsonb_build_array(jsonb_build_object('on', ${notice.kind})), false)`,
  seen: sql<boolean>`${notice.seenAt} IS NOT NULL`,
};

const read = (tx: Tx) =>
  tx
    .select(facts)
    .from(notice)
    .innerJoin(submission, eq(submission.id, notice.submissionId))
    .innerJoin(formRelease, eq(formRelease.id, submission.releaseId))
    .innerJoin(sender, eq(sender.id, submission.senderId))
    .innerJoin(
      submissionEvent,
      and(
        eq(submissionEvent.submissionId, notice.submissionId),
        eq(submissionEvent.position, notice.position),
      ),
    )
    .innerJoin(actor, eq(actor.id, submissionEvent.byId))
    .leftJoin(away, eq(away.id, notice.forId))
    .leftJoin(late, and(eq(late.id, submissionEvent.forId), eq(submissionEvent.kind, 'late')));

/** Those of whoever asks about what they may still see, newest first. */
export const noticesOf = (tx: Tx, who: string, most: number): Promise<NoticeRow[]> =>
  read(tx).where(eq(notice.personId, who)).orderBy(desc(notice.id)).limit(most);

/** The same without what they are asked to decide: what others did about what they sent, or said. */
export const newsOf = (tx: Tx, who: string, most: number): Promise<NoticeRow[]> =>
  read(tx)
    .where(and(eq(notice.personId, who), notInArray(notice.kind, ['asked', 'soon', 'due', 'late'])))
    .orderBy(desc(notice.id))
    .limit(most);

export async function countUnseen(tx: Tx, who: string): Promise<number> {
  const rows = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(notice)
    .where(and(eq(notice.personId, who), isNull(notice.seenAt)));
  return rows[0]?.n ?? 0;
}

/** Marks those up to one of them as looked at, or those about one submission. */
export async function markSeen(
  tx: Tx,
  who: string,
  which: { upTo: number } | { submission: string },
): Promise<void> {
  await tx
    .update(notice)
    .set({ seenAt: sql`now()` })
    .where(
      and(
        eq(notice.personId, who),
        isNull(notice.seenAt),
        'upTo' in which ? lte(notice.id, which.upTo) : eq(notice.submissionId, which.submission),
      ),
    );
}

export async function byMailOf(tx: Tx, who: string): Promise<{ byMail: ByMail; hasCalendar: boolean }> {
  const [row] = await tx.select().from(telling).where(eq(telling.personId, who));
  return { byMail: row?.byMail ?? 'at-once', hasCalendar: (row?.calendarHash ?? null) !== null };
}

export async function setTelling(
  tx: Tx,
  who: string,
  set: { byMail: ByMail } | { calendarHash: string | null },
): Promise<void> {
  const [column, value] =
    'byMail' in set ? [sql`by_mail`, set.byMail] : [sql`calendar_hash`, set.calendarHash];
  // Not by the query builder, which names the columns besides, and those are not theirs to write.
  await tx.execute(
    sql`INSERT INTO ${telling} (person_id, ${column}) VALUES (${who}::uuid, ${value}) ON CONFLICT (person_id) DO UPDATE SET ${column} = ${value}`,
  );
}

/** Whose calendar goes by that hash; null where nobody's does. */
export async function calendarOf(tx: Tx, hash: string): Promise<string | null> {
  const { rows } = await tx.execute<{ id: string | null }>(sql`SELECT slate.calendar_of(${hash}) AS id`);
  return rows[0]?.id ?? null;
}

const wants = sql`coalesce((SELECT t.by_mail FROM slate.telling t WHERE t.person_id = ${notice.personId}), 'at-once')`;

/** What needs no mail any more: it was looked at, its person wants none or has left, or it is too old to be news. */
export async function settleUnmailed(tx: Tx, now: Date, olderThan: Date): Promise<void> {
  await tx
    .update(notice)
    .set({ mailedAt: now })
    .where(
      sql`${notice.mailedAt} IS NULL AND (${notice.seenAt} IS NOT NULL OR ${notice.at} < ${olderThan.toISOString()}::timestamptz OR ${wants} = 'never'
        OR EXISTS (SELECT 1 FROM slate.person p WHERE p.id = ${notice.personId} AND p.ended_at IS NOT NULL))`,
    );
}

/** What is mailed to somebody in one. */
export interface Post {
  readonly person: string;
  readonly to: Addressed;
  readonly notices: readonly NoticeRow[];
}

interface Addressed {
  readonly name: string;
  readonly email: string;
}

/** After so long a claim is of a worker that was killed. */
const CLAIM_MS = 5 * 60_000;

const isFree = (now: Date): SQL =>
  sql`${notice.mailedAt} IS NULL AND (${notice.claimedAt} IS NULL OR ${notice.claimedAt} < ${new Date(now.getTime() - CLAIM_MS).toISOString()}::timestamptz)`;

/**
 * Takes what a person is to be told and nobody else has taken. It is held by a claim and not by a lock, or
 * whoever decides meanwhile would wait for the mail server.
 */
async function claimOf(tx: Tx, who: SQL, now: Date): Promise<Post | null> {
  const { rows } = await tx.execute<{ id: string; person: string }>(
    sql`WITH held AS (SELECT id FROM ${notice} WHERE ${isFree(now)} AND person_id = (${who}) FOR UPDATE SKIP LOCKED)
      UPDATE ${notice} SET claimed_at = ${now.toISOString()}::timestamptz WHERE id IN (SELECT id FROM held) RETURNING id, person_id AS person`,
  );
  const id = rows[0]?.person;
  if (id === undefined) return null;
  const notices = await read(tx)
    .where(
      inArray(
        notice.id,
        rows.map((row) => Number(row.id)),
      ),
    )
    .orderBy(asc(notice.id));
  return { person: id, to: await addressOf(tx, id), notices };
}

/** The next person, by id, who is to be told at once, with all of it. */
export const claimNext = (tx: Tx, after: string, now: Date): Promise<Post | null> =>
  claimOf(
    tx,
    sql`SELECT person_id FROM ${notice} WHERE ${isFree(now)} AND ${wants} = 'at-once' AND person_id::text > ${after} ORDER BY person_id::text LIMIT 1`,
    now,
  );

/** The next person, by id, whose mail of the day has not gone yet, with all they are to be told; their day counts as mailed. */
export async function claimDay(tx: Tx, today: string, after: string, now: Date): Promise<Post | null> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`UPDATE ${telling} SET mailed_day = ${today}::date WHERE person_id = (
      SELECT t.person_id FROM ${telling} t WHERE t.by_mail = 'daily' AND t.mailed_day IS DISTINCT FROM ${today}::date AND t.person_id::text > ${after}
        AND EXISTS (SELECT 1 FROM ${notice} WHERE ${notice.personId} = t.person_id AND ${isFree(now)}) ORDER BY t.person_id::text LIMIT 1 FOR UPDATE OF t SKIP LOCKED) RETURNING person_id AS id`,
  );
  const id = rows[0]?.id;
  return id === undefined ? null : claimOf(tx, sql`${id}::uuid`, now);
}

export async function markMailed(tx: Tx, ids: readonly number[], now: Date): Promise<void> {
  await tx
    .update(notice)
    .set({ mailedAt: now })
    .where(inArray(notice.id, [...ids]));
}

/** Gives back what could not be mailed now, for the next round. */
export async function giveBack(tx: Tx, { person: who, notices }: Post, ofTheDay: boolean): Promise<void> {
  const ids = notices.map(({ id }) => id);
  await tx.update(notice).set({ claimedAt: null }).where(inArray(notice.id, ids));
  if (ofTheDay) await tx.update(telling).set({ mailedDay: null }).where(eq(telling.personId, who));
}

async function addressOf(tx: Tx, id: string): Promise<Addressed> {
  const rows = await tx
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(eq(person.id, id));
  return rows[0] ?? { name: '', email: '' };
}

/**
 * The steps with a time that anything waits at, and when they began: on which days of the workspace, or at
 * which minutes for those that have hours.
 */
export async function waitingWithin(tx: Tx): Promise<Begun[]> {
  const { rows } = await tx.execute<Begun & Record<string, unknown>>(
    sql`SELECT DISTINCT within, hours, soon, begun FROM (${timed}) AS timed`,
  );
  return rows;
}

/** Those of the steps that are meant, as a table with when they are due. */
const meant = (which: readonly (Begun & { due?: string })[]): SQL =>
  sql`unnest(${sql.param(which.map(({ within }) => within))}::int[], ${sql.param(which.map(({ hours }) => hours))}::boolean[], ${sql.param(which.map(({ soon }) => soon))}::int[], ${sql.param(which.map(({ begun }) => begun))}::text[], ${sql.param(which.map(({ due }) => due ?? null))}::date[]) AS d (within, hours, soon, begun, due) ON d.within = t.within AND d.hours = t.hours AND d.soon IS NOT DISTINCT FROM t.soon AND d.begun = t.begun`;

/**
 * What waits at a step that has a time, when that began, and what it says of being late. The steps are read
 * of each release once, for designs are large.
 */
const timed: SQL = sql`SELECT s.id, w.step, coalesce((s.days->>w.id)::int, w.within) AS within, w.hours AND NOT s.days ? w.id AS hours, w.soon, w.late,
    to_char(min(a.since) AT TIME ZONE coalesce((SELECT zone FROM slate.workspace), 'UTC'), CASE WHEN w.hours AND NOT s.days ? w.id THEN 'YYYY-MM-DD"T"HH24:MI' ELSE 'YYYY-MM-DD' END) AS begun, min(a.since) AS since
  FROM (SELECT r.id AS release, e.place - 1 AS step, e.says->>'id' AS id, (e.says->>'within')::int AS within, e.says ? 'hours' AS hours, (e.says->>'soon')::int AS soon, e.says->>'late' AS late
    FROM slate.form_release r CROSS JOIN LATERAL jsonb_array_elements(r.design->'steps') WITH ORDINALITY AS e (says, place)
    WHERE e.says ? 'within' OR EXISTS (SELECT 1 FROM jsonb_array_elements(r.design->'rules') AS t WHERE t->'days' ? (e.says->>'id')) OFFSET 0) AS w
  JOIN slate.submission s ON s.release_id = w.release AND s.step <= w.step AND s.state = 'waiting'
  JOIN slate.ask a ON a.submission_id = s.id AND a.step = w.step AND a.since >= greatest(s.sent_at, (SELECT max(e.at) FROM slate.submission_event e WHERE e.submission_id = s.id AND e.kind IN ('return', 'move') AND e.to_step <= a.step AND e.at >= s.sent_at))
  WHERE w.within IS NOT NULL OR s.days ? w.id
  GROUP BY s.id, w.step, w.id, w.within, w.hours, w.soon, w.late HAVING bool_or(a.open)`;

/** Tells those who are asked, and who stands in for them, of steps that are due or late; of each once. */
export async function tellDue(
  tx: Tx,
  kind: 'soon' | 'due' | 'late',
  which: readonly (Begun & { due: string })[],
  now: Date,
): Promise<void> {
  if (which.length === 0) return;
  // All in one, for on a Monday there may be very many; who stands in is asked for each person once. A clock
  // that was put back keeps nobody from being told.
  await tx.execute(sql`WITH waits AS MATERIALIZED (
      SELECT t.id, t.step, t.since, d.due FROM (${timed}) AS t
      JOIN ${meant(which)}),
    asked AS MATERIALIZED (
      SELECT w.id, w.due, a.person_id, s.sender_id,
        coalesce((SELECT max(e.position) FROM slate.submission_event e WHERE e.submission_id = w.id AND e.kind <> 'remark' AND e.at <= w.since), 1) AS position
      FROM waits w JOIN slate.submission s ON s.id = w.id JOIN slate.ask a ON a.submission_id = w.id AND a.step = w.step AND a.open),
    seats AS MATERIALIZED (
      SELECT p.person_id, seat.who FROM (SELECT DISTINCT person_id FROM asked) AS p
      CROSS JOIN LATERAL (SELECT p.person_id UNION SELECT slate.stand_ins_of(p.person_id)) AS seat (who)),
    made AS (
      INSERT INTO slate.notice (person_id, submission_id, kind, position, for_id, due_day, at)
      SELECT seats.who, asked.id, ${kind}, asked.position, nullif(asked.person_id, seats.who), asked.due, ${now.toISOString()}::timestamptz
      FROM asked JOIN seats USING (person_id) JOIN slate.person p ON p.id = seats.who AND p.ended_at IS NULL
      WHERE seats.who <> asked.sender_id ON CONFLICT DO NOTHING RETURNING person_id)
    SELECT slate.tell('person:' || person_id) FROM (SELECT DISTINCT person_id FROM made) AS told`);
}

/** Whom to ask because somebody is late with a step. */
export interface LateAsk {
  readonly submission: string;
  readonly step: number;
  readonly late: string;
  readonly instead: string;
}

/** Whom a step of what is late says to ask besides, for each of those who are late. */
export async function askedBecauseLate(tx: Tx, which: readonly Begun[], most: number): Promise<LateAsk[]> {
  if (which.length === 0) return [];
  const { rows } = await tx.execute<LateAsk & Record<string, unknown>>(
    sql`SELECT t.id AS submission, t.step, a.person_id AS late, i.instead FROM (${timed}) AS t
    JOIN ${meant(which)}
    JOIN slate.submission s ON s.id = t.id
    JOIN slate.ask a ON a.submission_id = t.id AND a.step = t.step AND a.open
    JOIN slate.person p ON p.id = a.person_id
    CROSS JOIN LATERAL (SELECT CASE WHEN t.late = 'manager' THEN p.manager_id WHEN t.late <> ${GO_ON} THEN t.late::uuid END) AS i (instead)
    WHERE t.late IS NOT NULL AND i.instead IS NOT NULL AND NOT EXISTS (SELECT 1 FROM slate.submission_event e WHERE e.submission_id = t.id AND e.step = t.step AND e.kind = 'late' AND e.at >= t.since AND a.person_id IN (e.for_id, e.to_id))
    ORDER BY t.since LIMIT ${most}`,
  );
  return rows;
}

/** Asks them; nothing where it was done already, or is not so any more. The database holds what is allowed. */
export async function askBecauseLate(
  tx: Tx,
  { submission: of, step, late, instead }: LateAsk,
  now: Date,
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.ask_because_late(${of}::uuid, ${step}::int, ${late}::uuid, ${instead}::uuid, ${now.toISOString()}::timestamptz)`,
  );
}

/** Notes which steps are late and may be gone on without; the sender's path does the rest. */
export async function letLapse(tx: Tx, which: readonly Begun[], most: number, now: Date): Promise<void> {
  if (which.length === 0) return;
  await tx.execute(
    sql`INSERT INTO ${lapse} (submission_id, step, position, at)
      SELECT t.id, t.step::int, slate.begun_with(t.id, t.step::int), ${now.toISOString()}::timestamptz FROM (${timed}) AS t
      JOIN ${meant(which)} WHERE t.late = ${GO_ON}
        AND NOT EXISTS (SELECT 1 FROM ${lapse} l WHERE l.submission_id = t.id AND l.step = t.step AND l.position = slate.begun_with(t.id, t.step::int)) ORDER BY t.since LIMIT ${most} ON CONFLICT DO NOTHING`,
  );
}

/** What is to be gone on without a step, in whose name. */
export interface Lapse {
  readonly submission: string;
  readonly step: number;
  readonly sender: string;
}

/** Those that were not tried since then: what could not be gone on without lets others through. */
export async function lapsed(tx: Tx, since: Date, most: number): Promise<Lapse[]> {
  const { rows } = await tx.execute<Lapse & Record<string, unknown>>(
    sql`SELECT l.submission_id AS submission, l.step, s.sender_id AS sender FROM ${lapse} AS l JOIN ${submission} AS s ON s.id = l.submission_id
      WHERE (l.tried_at IS NULL OR l.tried_at < ${since.toISOString()}::timestamptz) AND l.step = slate.lapsed_at(s.id) ORDER BY l.at LIMIT ${most}`,
  );
  return rows;
}

/** Notes why it could not be gone on; administrators are shown that. */
export async function noteTrouble(
  tx: Tx,
  { submission: of, step }: Lapse,
  trouble: string,
  now: Date,
): Promise<void> {
  await tx
    .update(lapse)
    .set({ trouble, triedAt: now })
    .where(and(eq(lapse.submissionId, of), eq(lapse.step, step)));
}

/**
 * What nobody can decide and administrators were not told of; from now on they were. What is no longer so is
 * told of again should it come back.
 */
export async function newlyStuck(tx: Tx): Promise<number> {
  await tx.execute(
    sql`DELETE FROM ${stuckTold} t WHERE NOT EXISTS (SELECT 1 FROM ${submission} s WHERE s.id = t.submission_id AND s.state = 'waiting' AND ${isStuck})`,
  );
  const { rowCount } = await tx.execute(
    sql`INSERT INTO ${stuckTold} (submission_id) SELECT s.id FROM ${submission} s WHERE s.state = 'waiting' AND ${isStuck} ON CONFLICT DO NOTHING`,
  );
  return rowCount ?? 0;
}

/** Where nobody who may decide is left, or it could not be gone on without a step. */
const isStuck = sql`(slate.is_stuck_anywhere(s.id, s.sender_id) OR EXISTS (SELECT 1 FROM ${lapse} l WHERE l.submission_id = s.id AND l.trouble IS NOT NULL AND l.position = slate.begun_with(s.id, l.step)))`;

export async function mailAdministrators(tx: Tx, now: Date): Promise<void> {
  await tx.execute(
    sql`INSERT INTO ${accountMail} (person_id, kind, at) SELECT id, 'stuck', ${now.toISOString()}::timestamptz FROM ${person} WHERE ended_at IS NULL AND 'administrator' = ANY (roles)`,
  );
}
