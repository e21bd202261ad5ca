import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  index,
  integer,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import type { FileState } from '../../../core/form/file';
import { bytea, made, slate } from './base';
import { submission } from './forms';
import { person } from './people';

/**
 * A photo or file somebody brought: first its maker's alone, then of the submission it was sent with, then of
 * the record it was kept in.
 */
export const storedFile = slate.table(
  'file',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    /** What its content says it is; empty until it is there as a whole. */
    type: text('type').notNull().default(''),
    size: bigint('size', { mode: 'number' }).notNull(),
    width: integer('width'),
    height: integer('height'),
    /** A small picture of it, as WebP; null where there is none. */
    thumb: bytea('thumb'),
    /** Whether its bytes lie in the store beside the database, under its id; otherwise in pieces here. */
    outside: boolean('outside').notNull().default(false),
    state: text('state').$type<FileState>().notNull().default('coming'),
    byId: uuid('by_id')
      .notNull()
      .references(() => person.id),
    submissionId: uuid('submission_id').references(() => submission.id, { onDelete: 'set null' }),
    tableId: uuid('table_id'),
    recordId: uuid('record_id'),
    /** Of a file from outside, the submission it was brought for: all who come by a link are one person. */
    visit: uuid('visit').default(sql`nullif(current_setting('slate.visit', true), '')::uuid`),
    ...made,
  },
  (t) => [
    index('file_maker')
      .on(t.byId)
      .where(sql`record_id IS NULL`),
    index('file_submission').on(t.submissionId),
    index('file_record').on(t.recordId),
    check('file_state', sql`${t.state} IN ('coming', 'whole')`),
  ],
);

/** Its bytes, in pieces: as they come, and then as they are kept. */
export const filePiece = slate.table(
  'file_piece',
  {
    fileId: uuid('file_id')
      .notNull()
      .references(() => storedFile.id, { onDelete: 'cascade' }),
    piece: integer('piece').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.fileId, t.piece] })],
);

/** Files that are gone here, whose bytes are still to be taken out of the store beside the database. */
export const fileGone = slate.table('file_gone', {
  id: uuid('id').primaryKey(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});
