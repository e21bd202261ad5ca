import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  customType,
  date,
  index,
  integer,
  jsonb,
  pgSchema,
  primaryKey,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import type { Answers } from '../../core/form/answers';
import type { FormDesign } from '../../core/form/design';
import type { Decisions } from '../../core/import/decisions';
import type { Detection } from '../../core/import/detection';
import type {
  ImportFault,
  ImportFile,
  ImportProgress,
  ImportResult,
  ImportState,
  Samples,
  Trial,
} from '../../core/import/import';
import type { SubmissionState } from '../../core/approval/path';
import type { LinkMapping, Refreshed, RefreshEvery } from '../../core/link/link';
import type { SourceAddress, SourceFault } from '../../core/link/source';
import type { Issue } from '../../core/kernel/issue';
import type { ColumnChoice, Numbering, Table } from '../../core/table/model';
import type { Look, ViewDesign } from '../../core/record/view';
import type { Redesign } from '../../core/table/redesign';
import type { ChangeProgress, ChangeState } from '../../core/table/table-change';

/** What Tidy Slate knows about itself. What owners design lives in schema `records`. */
export const slate = pgSchema('slate');

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });
const made = {
  createdAt: at('created_at').notNull().defaultNow(),
  updatedAt: at('updated_at').notNull().defaultNow(),
};

/** Colleagues: the accounts of the sign-in library, with what we know besides. */
export const person = slate.table('person', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: boolean('email_verified').notNull().default(false),
  image: text('image'),
  place: text('place').notNull().default(''),
  roles: text('roles')
    .array()
    .notNull()
    .default(sql`'{colleague}'::text[]`),
  managerId: uuid('manager_id').references((): AnyPgColumn => person.id),
  /** Who stands in while this person is away. */
  deputyId: uuid('deputy_id').references((): AnyPgColumn => person.id),
  /** From when on this person is here no more: nobody who has left signs in, is asked or may do anything. */
  endedAt: at('ended_at'),
  ...made,
});

/** An invitation to choose a password. The link that carries the token is shown once; only its hash is kept. */
export const invitation = slate.table('invitation', {
  /** SHA-256 of the token, as base64url. */
  tokenHash: text('token_hash').primaryKey(),
  personId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  byId: uuid('by_id')
    .notNull()
    .references(() => person.id),
  expiresAt: at('expires_at').notNull(),
  usedAt: at('used_at'),
});

/** People who may do the same things. A group may hold groups, and a person may be in several. */
export const personGroup = slate.table('person_group', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull().unique(),
  ...made,
});

export const groupMember = slate.table(
  'group_member',
  {
    groupId: uuid('group_id')
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: uuid('person_id').references(() => person.id, { onDelete: 'cascade' }),
    memberId: uuid('member_id').references(() => personGroup.id, { onDelete: 'cascade' }),
  },
  (t) => [
    uniqueIndex('group_member_once').on(t.groupId, sql`coalesce(${t.personId}, ${t.memberId})`),
    check('group_member_one', sql`num_nonnulls(${t.personId}, ${t.memberId}) = 1`),
    check('group_member_other', sql`${t.memberId} IS DISTINCT FROM ${t.groupId}`),
  ],
);

export const session = slate.table('session', {
  id: uuid('id').primaryKey(),
  token: text('token').notNull().unique(),
  userId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  expiresAt: at('expires_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  ...made,
});

export const account = slate.table('account', {
  id: uuid('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: uuid('person_id')
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: at('access_token_expires_at'),
  refreshTokenExpiresAt: at('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  ...made,
});

export const verification = slate.table('verification', {
  id: uuid('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: at('expires_at').notNull(),
  ...made,
});

/** What holds for all of it: one row. Part of the catalogue. */
export const workspace = slate.table('workspace', {
  onlyOne: boolean('only_one').primaryKey().default(true),
  name: text('name').notNull().default(''),
  /** IANA name. */
  zone: text('zone').notNull().default('Europe/London'),
  /** ISO 4217, or empty. */
  currency: text('currency').notNull().default(''),
  /** BCP 47. */
  locale: text('locale').notNull().default('en-GB'),
  /** ISO 8601 numbers, 1 for Monday. */
  workdays: smallint('workdays').array().notNull().default([1, 2, 3, 4, 5]),
  holidays: date('holidays').array().notNull().default([]),
});

export const designedTable = slate.table('designed_table', {
  id: uuid('id').primaryKey(),
  key: text('key').notNull().unique(),
  label: text('label').notNull(),
  prefix: text('prefix').notNull(),
  parentId: uuid('parent_id'),
  title: text('title')
    .array()
    .notNull()
    .default(sql`'{}'::text[]`),
  numbering: text('numbering').$type<Numbering>().notNull().default('yearly'),
  /** Sets of columns, by id, that no two records may share. */
  together: jsonb('together').$type<readonly (readonly string[])[]>().notNull().default([]),
  /** Grows with every change; a change names the version it began from. */
  version: integer('version').notNull().default(1),
  createdAt: at('created_at').notNull().defaultNow(),
});

/** Choices that columns and questions share. */
export const choiceList = slate.table('choice_list', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull().unique(),
  description: text('description').notNull().default(''),
  choices: jsonb('choices').$type<readonly ColumnChoice[]>().notNull(),
  version: integer('version').notNull().default(1),
  ...made,
});

/** The trail of a choice list: what it was from each change on. */
export const choiceListVersion = slate.table(
  'choice_list_version',
  {
    /** Stays when the list goes. */
    listId: uuid('list_id').notNull(),
    version: integer('version').notNull(),
    label: text('label').notNull(),
    description: text('description').notNull(),
    choices: jsonb('choices').$type<readonly ColumnChoice[]>().notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.listId, t.version] })],
);

export const designedColumn = slate.table(
  'designed_column',
  {
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    id: text('id').notNull(),
    key: text('key').notNull(),
    label: text('label').notNull(),
    kind: text('kind').notNull(),
    required: boolean('required').notNull(),
    unique: boolean('is_unique').notNull(),
    decimals: integer('decimals'),
    unit: text('unit').notNull().default(''),
    /** Its own; empty where it takes them from a list. */
    choices: jsonb('choices').notNull().default([]),
    listId: uuid('list_id').references(() => choiceList.id),
    targetId: uuid('target_id').references(() => designedTable.id),
    description: text('description').notNull().default(''),
    personal: text('personal'),
    example: text('example').notNull().default(''),
    /** FEEL. */
    default: text('default_value').notNull().default(''),
    retired: boolean('retired').notNull().default(false),
    position: integer('position').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.tableId, t.id] }),
    uniqueIndex('designed_column_key').on(t.tableId, t.key),
  ],
);

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
    byId: uuid('by_id').references(() => person.id),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.tableId, t.formId] }),
    check('table_form_state', sql`${t.state} IN ('asked', 'allowed')`),
  ],
);

/** The last number given, per table and year; a row lock makes the next one unique under any concurrency. */
export const numberCounter = slate.table(
  'number_counter',
  {
    tableId: uuid('table_id').notNull(),
    year: integer('year').notNull(),
    last: integer('last').notNull(),
  },
  (t) => [primaryKey({ columns: [t.tableId, t.year] })],
);

export const form = slate.table('form', {
  id: uuid('id').primaryKey(),
  key: text('key').notNull().unique(),
  ownerId: uuid('owner_id')
    .notNull()
    .references(() => person.id),
  design: jsonb('design').$type<FormDesign>().notNull(),
  /** Grows with every kept edit; an edit names the version it began from. */
  version: integer('version').notNull().default(1),
  editedBy: uuid('edited_by')
    .notNull()
    .references(() => person.id),
  ...made,
});

/**
 * Who may do what. Who: everybody where none of role, group and person is named. What: of a table see, add, change, remove, pick (offer its records in
 * lookups of forms they release, so that those who fill them see the columns shown) and design (change it and say which forms may write to it); of a
 * form fill, see-all and design. Where: FEEL over the columns of the table, or everywhere. Which columns: by id, or all.
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
      sql`coalesce(${t.where}, '')`,
    ),
    check('access_grant_on', sql`num_nonnulls(${t.tableId}, ${t.formId}) = 1`),
    check('access_grant_to', sql`num_nonnulls(${t.role}, ${t.groupId}, ${t.personId}) <= 1`),
    check(
      'access_grant_action',
      sql`CASE WHEN ${t.formId} IS NULL THEN ${t.action} IN ('see', 'add', 'change', 'remove', 'pick', 'design') ELSE ${t.action} IN ('fill', 'see-all', 'design') END`,
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
  },
  (t) => [uniqueIndex('form_release_number').on(t.formId, t.number)],
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
    use: text('use').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.releaseId, t.tableId, t.use] }),
    check('release_table_use', sql`${t.use} IN ('write', 'pick')`),
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
    senderId: uuid('sender_id')
      .notNull()
      .references(() => person.id),
    answers: jsonb('answers').$type<Answers>().notNull(),
    /** What the last sending held, so that a second sending shows what changed. */
    sentAnswers: jsonb('sent_answers').$type<Answers>(),
    /** The sending before that. */
    earlierAnswers: jsonb('earlier_answers').$type<Answers>(),
    version: integer('version').notNull().default(1),
    recordId: uuid('record_id'),
    sentAt: at('sent_at'),
    ...made,
  },
  (t) => [
    index('submission_sender').on(t.senderId, t.updatedAt),
    index('submission_state').on(t.state, t.updatedAt),
    index('submission_form').on(t.formId),
    index('submission_release').on(t.releaseId),
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
    word: text('word').notNull().default(''),
    /** The sheet's state after a sending. */
    answers: jsonb('answers').$type<Answers>(),
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
  ],
);

/** Tries to sign in that did not succeed, by account and by address; names are hashes, so that nothing typed is kept. */
export const signInTry = slate.table('sign_in_try', {
  name: text('name').primaryKey(),
  tries: integer('tries').notNull(),
  lastAt: at('last_at').notNull(),
});

/** A send or decision that was carried out, by the key its sender made up, so that a repeat answers the same and does nothing. */
export const requestKey = slate.table(
  'request_key',
  {
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    key: uuid('key').notNull(),
    /** What was asked under the key, and a hash of it: the same key with another request is refused. */
    operation: text('operation').notNull().default(''),
    bodyHash: text('body_hash').notNull().default(''),
    answer: jsonb('answer'),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('request_key_at').on(t.at)],
);

/** Changes of tables by their owners: what is wanted while it is a draft, and the trail when it is done. */
export const tableChange = slate.table(
  'table_change',
  {
    id: uuid('id').primaryKey(),
    /** The table may not be there yet. */
    tableId: uuid('table_id').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    state: text('state').$type<ChangeState>().notNull(),
    /** The table it began from; null for a new one. */
    base: jsonb('base').$type<Table | null>(),
    redesign: jsonb('redesign').$type<Redesign>().notNull(),
    progress: jsonb('progress').$type<ChangeProgress>(),
    /** Why it was refused. */
    issues: jsonb('issues').$type<readonly Issue[]>(),
    version: integer('version').notNull().default(1),
    ...made,
  },
  (t) => [
    index('table_change_table').on(t.tableId, t.updatedAt),
    uniqueIndex('table_change_open')
      .on(t.tableId, t.personId)
      .where(sql`${t.state} IN ('draft', 'refused', 'running')`),
    uniqueIndex('table_change_running')
      .on(t.tableId)
      .where(sql`${t.state} = 'running'`),
    check('table_change_state', sql`${t.state} IN ('draft', 'running', 'refused', 'done', 'dropped')`),
  ],
);

/** Records that were written while a change was filling their table: they are converted once more before it ends. */
export const changePending = slate.table(
  'change_pending',
  {
    changeId: uuid('change_id')
      .notNull()
      .references(() => tableChange.id, { onDelete: 'cascade' }),
    recordId: uuid('record_id').notNull(),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.recordId] })],
);

/** Sheets on their way into tables: what was brought, what was detected, what was decided, and what came of it. */
export const tableImport = slate.table(
  'table_import',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    state: text('state').$type<ImportState>().notNull(),
    files: jsonb('files').$type<readonly ImportFile[]>().notNull().default([]),
    detection: jsonb('detection').$type<Detection>(),
    samples: jsonb('samples').$type<Samples>(),
    decisions: jsonb('decisions').$type<Decisions>().notNull(),
    progress: jsonb('progress').$type<ImportProgress>(),
    fault: jsonb('fault').$type<ImportFault>(),
    result: jsonb('result').$type<ImportResult>(),
    trial: jsonb('trial').$type<Trial>(),
    /** By sheet: the rows that were refused last, as CSV, to be fixed and brought again. */
    refusedRows: jsonb('refused_rows').$type<Readonly<Record<string, string>>>(),
    version: integer('version').notNull().default(1),
    ...made,
  },
  (t) => [
    index('table_import_person').on(t.personId, t.updatedAt),
    check(
      'table_import_state',
      sql`${t.state} IN ('uploading', 'reading', 'proposed', 'trying', 'keeping', 'kept', 'refused', 'failed', 'cancelled')`,
    ),
  ],
);

/** The files of an import in pieces, so that any process can read them; dropped when it has ended. */
export const importPiece = slate.table(
  'import_piece',
  {
    importId: uuid('import_id')
      .notNull()
      .references(() => tableImport.id, { onDelete: 'cascade' }),
    file: integer('file').notNull(),
    piece: integer('piece').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.importId, t.file, t.piece] })],
);

/** Places outside whose records are linked. */
export const source = slate.table('source', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull(),
  address: jsonb('address').$type<SourceAddress>().notNull(),
  /** Encrypted with the key of the workspace, which is not in the database. */
  secret: bytea('secret'),
  version: integer('version').notNull().default(1),
  /** Times in a row it did not answer, and until when nobody waits for it any more. */
  failures: integer('failures').notNull().default(0),
  silentUntil: at('silent_until'),
  ...made,
});

/** Tables whose records come from a source, and how fresh they are. */
export const link = slate.table(
  'link',
  {
    tableId: uuid('table_id')
      .primaryKey()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    sourceId: uuid('source_id')
      .notNull()
      .references(() => source.id),
    mapping: jsonb('mapping').$type<LinkMapping>().notNull(),
    /** Minutes. */
    every: integer('every').$type<RefreshEvery>().notNull(),
    refreshedAt: at('refreshed_at'),
    triedAt: at('tried_at'),
    fault: jsonb('fault').$type<SourceFault | null>(),
    refreshed: jsonb('refreshed').$type<Refreshed | null>(),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [index('link_source').on(t.sourceId)],
);

/** Every change of every designed row, written by a trigger; nothing else may write here. */
export const history = slate.table(
  'history',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    tableId: uuid('table_id').notNull(),
    recordId: uuid('record_id').notNull(),
    /** Of records that were imported together, whose ids follow one another, one line tells of all: from the record above to this one. */
    lastId: uuid('last_id'),
    version: integer('version').notNull(),
    change: text('change').notNull(),
    before: jsonb('before'),
    after: jsonb('after'),
    byId: uuid('by_id'),
    submissionId: uuid('submission_id'),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    index('history_record').on(t.recordId, t.version),
    index('history_together')
      .on(t.tableId)
      .where(sql`${t.lastId} IS NOT NULL`),
  ],
);

/** What changed, for those who watch; told over NOTIFY when the transaction ends. */
export const outbox = slate.table('outbox', {
  id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
  topic: text('topic').notNull(),
  at: at('at').notNull().defaultNow(),
});

/** How one person looks at a table when the address says nothing else. */
export const tableLook = slate.table(
  'table_look',
  {
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    look: jsonb('look').$type<Look>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.tableId] })],
);

/** Ways to look at a table that are kept under a name, for one person or for others as well. */
export const tableView = slate.table(
  'table_view',
  {
    id: uuid('id').primaryKey(),
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    label: text('label').notNull(),
    ownerId: uuid('owner_id')
      .notNull()
      .references(() => person.id),
    /** For whom it is besides its owner. */
    everybody: boolean('everybody').notNull().default(false),
    groupIds: uuid('group_ids').array().notNull().default([]),
    personIds: uuid('person_ids').array().notNull().default([]),
    /** How the table is shown to those who say nothing else. */
    isFirst: boolean('is_first').notNull().default(false),
    design: jsonb('design').$type<ViewDesign>().notNull(),
    version: integer('version').notNull().default(1),
    ...made,
  },
  (t) => [
    index('table_view_table').on(t.tableId),
    uniqueIndex('table_view_first')
      .on(t.tableId)
      .where(sql`${t.isFirst}`),
  ],
);
