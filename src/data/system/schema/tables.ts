import { sql } from 'drizzle-orm';
import {
  bigint,
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
import type { Issue } from '../../../core/kernel/issue';
import type { ColumnChoice, Numbering, Table } from '../../../core/table/model';
import type { Look, ViewDesign } from '../../../core/record/view';
import type { BulkBack, BulkProgress, BulkState, BulkWhat } from '../../../core/record/bulk-change';
import type { Redesign } from '../../../core/table/redesign';
import type { ChangeProgress, ChangeState } from '../../../core/table/table-change';

import { slate, at, made } from './base';
import { person } from './people';

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
  checks: jsonb('checks').$type<Table['checks']>().notNull().default([]),
  matches: jsonb('matches').$type<Table['matches']>().notNull().default([]),
  duty: jsonb('duty').$type<Table['duty']>(),
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
    /** FEEL by ids, of a column that is calculated. */
    formula: text('formula').notNull().default(''),
    locked: boolean('locked').notNull().default(false),
    retired: boolean('retired').notNull().default(false),
    /** Seen by those alone of whom it is said. */
    restricted: boolean('restricted').notNull().default(false),
    position: integer('position').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.tableId, t.id] }),
    uniqueIndex('designed_column_key').on(t.tableId, t.key),
  ],
);

/** The tables that the checks of a table look into, itself among them. */
export const checkRead = slate.table(
  'check_read',
  {
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    readsId: uuid('reads_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.tableId, t.readsId] })],
);

/** Why somebody did what a check of a table asks about; at the moment of the change in the trail that it is about. */
export const recordReason = slate.table(
  'record_reason',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    tableId: uuid('table_id').notNull(),
    recordId: uuid('record_id').notNull(),
    checkId: text('check_id').notNull(),
    /** What the check said then. */
    message: text('message').notNull(),
    reason: text('reason').notNull(),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [index('record_reason_record').on(t.recordId)],
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

/** One column of all records that are found is set by a job: who asked, how far it is, and what would not be changed. */
export const bulkChange = slate.table(
  'bulk_change',
  {
    id: uuid('id').primaryKey(),
    tableId: uuid('table_id')
      .notNull()
      .references(() => designedTable.id, { onDelete: 'cascade' }),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    what: jsonb('what').$type<BulkWhat>().notNull(),
    state: text('state').$type<BulkState>().notNull().default('running'),
    progress: jsonb('progress').$type<BulkProgress>().notNull(),
    /** The record it went up to, by id; null at first. */
    upTo: uuid('up_to'),
    ...made,
  },
  (t) => [
    index('bulk_change_last').on(t.tableId, t.personId, t.createdAt),
    uniqueIndex('bulk_change_running')
      .on(t.tableId, t.personId)
      .where(sql`${t.state} = 'running'`),
    check('bulk_change_state', sql`${t.state} IN ('running', 'done', 'stopped')`),
  ],
);

/** Of what a job changed, the edit that takes it back. */
export const bulkChanged = slate.table(
  'bulk_changed',
  {
    bulkId: uuid('bulk_id')
      .notNull()
      .references(() => bulkChange.id, { onDelete: 'cascade' }),
    recordId: uuid('record_id').notNull(),
    back: jsonb('back').$type<BulkBack>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.bulkId, t.recordId] })],
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
    /** The token by which a program did it for them. */
    tokenId: uuid('token_id').default(sql`slate.token()`),
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
