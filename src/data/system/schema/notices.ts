import { sql } from 'drizzle-orm';
import {
  bigint,
  check,
  date,
  index,
  integer,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { ByMail, NoticeKind } from '../../../core/notice/notice';
import { at, slate } from './base';
import { submission } from './forms';
import { person } from './people';

/**
 * What somebody is told of, made in the transaction of what it tells of: one for each event and person,
 * however often anything is tried again.
 */
export const notice = slate.table(
  'notice',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<NoticeKind>().notNull(),
    /** The event it tells of, or with which began what is due. */
    position: integer('position').notNull(),
    /** Who is away, where it is told to whoever stands in. */
    forId: uuid('for_id').references(() => person.id),
    /** The day of the workspace on which a step is due, where it tells of that. */
    dueDay: date('due_day'),
    at: at('at').notNull().defaultNow(),
    seenAt: at('seen_at'),
    /** When a worker took it to mail it: for a while, it is nobody else's. */
    claimedAt: at('claimed_at'),
    /** When it was mailed, or it was decided that it is not. */
    mailedAt: at('mailed_at'),
  },
  (t) => [
    uniqueIndex('notice_once').on(t.submissionId, t.personId, t.kind, t.position),
    index('notice_person').on(t.personId, t.id),
    index('notice_unseen')
      .on(t.personId)
      .where(sql`${t.seenAt} IS NULL`),
    index('notice_unmailed')
      .on(t.id)
      .where(sql`${t.mailedAt} IS NULL`),
    check(
      'notice_kind_known',
      sql`${t.kind} IN ('asked', 'kept', 'sent-back', 'declined', 'withdrawn', 'remark', 'due', 'late', 'corrected', 'soon', 'passed')`,
    ),
  ],
);

/** A step that is late and may be gone on without, as its form says; used up once it was. */
export const lapse = slate.table(
  'lapse',
  {
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    step: integer('step').notNull(),
    /** The event with which the step began; begun anew, it has its time again. */
    position: integer('position').notNull(),
    at: at('at').notNull().defaultNow(),
    /** When it could not be gone on without it the last time, and why. */
    triedAt: at('tried_at'),
    trouble: text('trouble'),
  },
  (t) => [primaryKey({ columns: [t.submissionId, t.step, t.position] })],
);

/** What waits where nobody can decide it, and administrators were told of. */
export const stuckTold = slate.table('stuck_told', {
  submissionId: uuid('submission_id')
    .primaryKey()
    .references(() => submission.id, { onDelete: 'cascade' }),
});

/** How somebody wants to be told. Who has no row is told at once. */
export const telling = slate.table('telling', {
  personId: uuid('person_id')
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  byMail: text('by_mail').$type<ByMail>().notNull().default('at-once'),
  /** The day of the workspace that was mailed last, of those who want one mail a day. */
  mailedDay: date('mailed_day'),
  /** SHA-256 of the secret in the address of their calendar, as base64url. */
  calendarHash: text('calendar_hash').unique(),
});
