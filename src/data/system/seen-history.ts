import { bigint, integer, jsonb, pgSchema, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/** What changed in records, without what stands in restricted columns that whoever asks does not see; see migration 0074. */
export const seenHistory = pgSchema('shown')
  .view('history', {
    id: bigint('id', { mode: 'number' }).notNull(),
    tableId: uuid('table_id').notNull(),
    recordId: uuid('record_id').notNull(),
    lastId: uuid('last_id'),
    version: integer('version').notNull(),
    change: text('change').notNull(),
    before: jsonb('before'),
    after: jsonb('after'),
    byId: uuid('by_id'),
    submissionId: uuid('submission_id'),
    tokenId: uuid('token_id'),
    at: timestamp('at', { withTimezone: true }).notNull(),
  })
  .existing();
