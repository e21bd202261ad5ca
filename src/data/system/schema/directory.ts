import { boolean, integer, jsonb, text, uuid } from 'drizzle-orm/pg-core';
import type { DirectoryOutcome, FollowEvery } from '../../../core/directory/following';
import { at, slate } from './base';
import { source } from './imports';
import { person } from './people';

/** The list of people outside that those here are kept in step with: one row at most. */
export const directory = slate.table('directory', {
  onlyOne: boolean('only_one').primaryKey().default(true),
  sourceId: uuid('source_id')
    .notNull()
    .references(() => source.id),
  /** Minutes. */
  every: integer('every').$type<FollowEvery>().notNull(),
  /** Whether the access of those who came by it and are not in it any more ends. */
  endsAccess: boolean('ends_access').notNull(),
  /** The administrator as whom it is followed. */
  namedById: uuid('named_by_id')
    .notNull()
    .references(() => person.id),
  version: integer('version').notNull().default(1),
  dueAt: at('due_at').notNull(),
  triedAt: at('tried_at').notNull(),
  followedAt: at('followed_at').notNull(),
  outcome: jsonb('outcome').$type<DirectoryOutcome>().notNull(),
  /** When administrators were told that it is not followed; null while it is. */
  toldAt: at('told_at'),
});

/** Who is known from that list. */
export const directoryMember = slate.table('directory_member', {
  personId: uuid('person_id')
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  /** What the list knows them by; empty where it does not say. */
  entry: text('entry').notNull().default(''),
  /** It ended their access, and may let them in again; somebody whose access was ended by hand stays out. */
  ended: boolean('ended').notNull().default(false),
});
