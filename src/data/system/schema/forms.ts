import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  index,
  integer,
  jsonb,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Days } from '../../../core/approval/due';
import type { Named } from '../../../core/approval/told';
import type { Ruled } from '../../../core/rules/rules';
import type { Digest } from '../../../core/approval/digest';
import type { Answers } from '../../../core/form/answers';
import type { FormDesign } from '../../../core/form/design';
import type { Opening } from '../../../core/form/opening';
import type { Rehearsed } from '../../../core/form/rehearsed';
import type { WriteUse } from '../../../core/storage/further-write';
import type { SubmissionState } from '../../../core/approval/path';

import { at, bytea, made, slate } from './base';
import { person, personGroup } from './people';
import { designedTable } from './tables';

/** The forms that may write to a table, and those that ask to: a table's designers decide how it may be filled. */
export const tableForm = slate.table(
  'table_form',
  {
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id, { onDelete: 'cascade' }),
    state: text('state').$type<'asked' | 'allowed'>().notNull(),
    /** What it may do there, and what it asks for beyond that. */
    covers: text('covers')
      .array()
      .$type<WriteUse[]>()
      .notNull()
      .default(sql`'{write}'`),
    asks: text('asks')
      .array()
      .$type<WriteUse[]>()
      .notNull()
      .default(sql`'{}'`),
    byId: uuid('by_id').references(() => person.id),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.tableId, t.formId] }),
    check('table_form_state', sql`${t.state} IN ('asked', 'allowed')`),
  ],
);

export const form = slate.table('form', {
  id: uuid('id').primaryKey(),
  key: text('key').notNull().unique(),
  ownerId: uuid('owner_id')
    .notNull()
    .references(() => person.id),
  design: jsonb('design').$type<FormDesign>().notNull(),
  /** When it may be filled; null is always. */
  opening: jsonb('opening').$type<Opening>(),
  /** Grows with every kept edit; an edit names the version it began from. */
  version: integer('version').notNull().default(1),
  editedBy: uuid('edited_by')
    .notNull()
    .references(() => person.id),
  ...made,
});

/**
 * Who may do what. Who: everybody where none of role, group and person is named. What: of a table see, add,
 * change, remove, pick (offer its records in lookups of forms they release, so that those who fill them see
 * the columns shown) and design (change it and say which forms may write to it); of a form fill, see-all and
 * design. Where: FEEL over the columns of the table, or everywhere. Which columns: by id, or all.
 */
export const accessGrant = slate.table(
  'access_grant',
  {
    id: uuid('id')
      .primaryKey()
      .default(sql`gen_random_uuid()`),
    tableId: uuid('table_id').references(() => designedTable.id, { onDelete: 'cascade' }),
    formId: uuid('form_id').references(() => form.id, { onDelete: 'cascade' }),
    role: text('role'),
    groupId: uuid('group_id').references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: uuid('person_id').references(() => person.id, { onDelete: 'cascade' }),
    action: text('action').notNull(),
    where: text('where_rule'),
    columns: text('columns').array(),
    byId: uuid('by_id').references(() => person.id),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex('access_grant_once').on(
      sql`coalesce(${t.tableId}, ${t.formId})`,
      t.action,
      sql`coalesce(${t.role}, ${t.groupId}::text, ${t.personId}::text, '')`,
      // A rule may be longer than an index takes.
      sql`md5(coalesce(${t.where}, ''))`,
    ),
    check('access_grant_on', sql`num_nonnulls(${t.tableId}, ${t.formId}) = 1`),
    check('access_grant_columns', sql`(${t.action} = 'see-columns') = (${t.columns} IS NOT NULL)`),
    check('access_grant_to', sql`num_nonnulls(${t.role}, ${t.groupId}, ${t.personId}) <= 1`),
    check(
      'access_grant_action',
      sql`CASE WHEN ${t.formId} IS NULL THEN ${t.action} IN ('see', 'see-columns', 'add', 'change', 'remove', 'pick', 'design') ELSE ${t.action} IN ('fill', 'see-all', 'design') END`,
    ),
  ],
);

export const formRelease = slate.table(
  'form_release',
  {
    id: uuid('id').primaryKey(),
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id),
    number: integer('number').notNull(),
    design: jsonb('design').$type<FormDesign>().notNull(),
    releasedBy: uuid('released_by')
      .notNull()
      .references(() => person.id),
    releasedAt: at('released_at').notNull().defaultNow(),
    /** The draft's version it was made from; while they are equal there is nothing to release. */
    formVersion: integer('form_version').notNull(),
    /** What is new, in its releaser's words. */
    note: text('note').notNull().default(''),
  },
  (t) => [uniqueIndex('form_release_number').on(t.formId, t.number)],
);

/** Answers that are rehearsed again before each release, with what they came to when they were kept. */
export const formExample = slate.table(
  'form_example',
  {
    id: uuid('id').primaryKey(),
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id, { onDelete: 'cascade' }),
    label: text('label').notNull(),
    /** As whom it is rehearsed. */
    senderId: uuid('sender_id')
      .notNull()
      .references(() => person.id),
    /** ISO date-time of the workspace's zone at which it is rehearsed, however late it is by now. */
    moment: text('moment').notNull(),
    answers: jsonb('answers').$type<Answers>().notNull(),
    outcome: jsonb('outcome').$type<Rehearsed>().notNull(),
    keptBy: uuid('kept_by')
      .notNull()
      .references(() => person.id),
    ...made,
  },
  (t) => [index('form_example_form').on(t.formId)],
);

/** Pictures that the fixed texts of a form show. A form made like another has them under the same ids. */
export const formPicture = slate.table(
  'form_picture',
  {
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id, { onDelete: 'cascade' }),
    id: uuid('id').notNull(),
    type: text('type').notNull(),
    bytes: bytea('bytes').notNull(),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.formId, t.id] }), index('form_picture_id').on(t.id)],
);

/** The tables a release writes to and picks from: what a colleague who fills it needs, and no more. */
export const releaseTable = slate.table(
  'release_table',
  {
    releaseId: uuid('release_id')
      .notNull()
      .references(() => formRelease.id, { onDelete: 'cascade' }),
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id),
    use: text('use').$type<WriteUse | 'pick'>().notNull(),
    /** Of a table whose records are changed beside: the columns, by id. */
    columns: text('columns')
      .array()
      .notNull()
      .default(sql`'{}'`),
  },
  (t) => [
    primaryKey({ columns: [t.releaseId, t.tableId, t.use] }),
    check('release_table_use', sql`${t.use} IN ('write', 'pick', 'change', 'add')`),
  ],
);

export const submission = slate.table(
  'submission',
  {
    id: uuid('id').primaryKey(),
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id),
    releaseId: uuid('release_id')
      .notNull()
      .references(() => formRelease.id),
    /** Given when it is first sent; the record it becomes carries the same number. */
    number: text('number'),
    state: text('state').$type<SubmissionState>().notNull(),
    step: integer('step'),
    /** Steps, by id, that are not asked about what was sent. */
    skipped: text('skipped')
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** Whom the answers name, by the id of the step that asks them, as it was told when it was sent. */
    named: jsonb('named').$type<Named>().notNull().default({}),
    /** The rows that count of each table of rules, as it was told when it was sent. */
    ruled: jsonb('ruled').$type<Ruled>().notNull().default({}),
    /** Working days to decide by the rules, by the id of the step; made by the database when it is sent. */
    days: jsonb('days').$type<Days>().notNull().default({}),
    senderId: uuid('sender_id')
      .notNull()
      .references(() => person.id),
    answers: jsonb('answers').$type<Answers>().notNull(),
    /** What the last sending held, so that a second sending shows what changed. */
    sentAnswers: jsonb('sent_answers').$type<Answers>(),
    /** The sending before that. */
    earlierAnswers: jsonb('earlier_answers').$type<Answers>(),
    /** What lists say of it while it waits; null until that is worked out, and again once it has other answers. */
    digest: jsonb('digest').$type<Digest>(),
    version: integer('version').notNull().default(1),
    recordId: uuid('record_id'),
    /** The record it changes; null where it makes a new one. */
    ofRecord: uuid('of_record'),
    /** That record, as answers, as its sender last saw it: what others changed since is merged, or asked about. */
    base: jsonb('base').$type<Answers>(),
    sentAt: at('sent_at'),
    ...made,
  },
  (t) => [
    index('submission_undigested')
      .on(t.sentAt)
      .where(sql`${t.state} = 'waiting' AND ${t.digest} IS NULL`),
    index('submission_sender').on(t.senderId, t.updatedAt),
    index('submission_state').on(t.state, t.updatedAt),
    index('submission_form').on(t.formId),
    index('submission_release').on(t.releaseId),
    index('submission_of_record')
      .on(t.ofRecord)
      .where(sql`${t.ofRecord} IS NOT NULL`),
    check('submission_base', sql`(${t.ofRecord} IS NULL) = (${t.base} IS NULL)`),
    check(
      'submission_state_known',
      sql`${t.state} IN ('draft', 'waiting', 'sent-back', 'kept', 'declined', 'withdrawn', 'rehearsing')`,
    ),
  ],
);

/** The trail of a submission; rows are added and never changed. */
export const submissionEvent = slate.table(
  'submission_event',
  {
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    kind: text('kind').notNull(),
    step: integer('step'),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    /** Who was asked, where whoever stands in for them decided. */
    forId: uuid('for_id').references(() => person.id),
    /** To whom it was handed over, or moved. */
    toId: uuid('to_id').references(() => person.id),
    /** The earlier step it was sent back to, or the step an administrator moved it to. */
    toStep: integer('to_step'),
    word: text('word').notNull().default(''),
    /** The answer a remark is about: its place, joined by slashes; null where it is about all of it. */
    place: text('place'),
    /** Whom a remark names. */
    tells: uuid('tells')
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** The sheet's state after a sending, or a correction. */
    answers: jsonb('answers').$type<Answers>(),
    /** The token by which a program did it for them. */
    tokenId: uuid('token_id').default(sql`slate.token()`),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.submissionId, t.position] }),
    index('submission_event_by').on(t.byId, t.at),
  ],
);

/** Whom a submission waits for now, or has been decided by. */
export const ask = slate.table(
  'ask',
  {
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    step: integer('step').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    open: boolean('open').notNull().default(true),
    since: at('since').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.submissionId, t.step, t.personId] }),
    index('ask_open')
      .on(t.personId)
      .where(sql`${t.open}`),
    index('ask_waits')
      .on(t.submissionId)
      .where(sql`${t.open}`),
  ],
);
