import { check, index, integer, text, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { at, slate } from './base';
import { form } from './forms';
import { person } from './people';
import { designedTable } from './tables';

/** By which a program acts for somebody, within what it names. What it may never changes; another token is made instead. */
export const apiToken = slate.table('api_token', {
  id: uuid('id').primaryKey(),
  label: text('label').notNull(),
  /** For whom it acts: it may nothing that they may not. */
  personId: uuid('person_id')
    .notNull()
    .references(() => person.id),
  /** Of the secret, which is nowhere else; and its last letters, by which people know it. */
  hash: text('hash').notNull().unique(),
  hint: text('hint').notNull(),
  madeById: uuid('made_by_id')
    .notNull()
    .references(() => person.id),
  madeAt: at('made_at').notNull().defaultNow(),
  expiresAt: at('expires_at').notNull(),
  endedAt: at('ended_at'),
  endedById: uuid('ended_by_id').references(() => person.id),
  lastUsedAt: at('last_used_at'),
  /** The minute it was used last, and how often in that. */
  minute: at('minute'),
  used: integer('used').notNull().default(0),
});

export const apiTokenGrant = slate.table(
  'api_token_grant',
  {
    tokenId: uuid('token_id')
      .notNull()
      .references(() => apiToken.id, { onDelete: 'cascade' }),
    tableId: uuid('table_id').references(() => designedTable.id, { onDelete: 'cascade' }),
    formId: uuid('form_id').references(() => form.id, { onDelete: 'cascade' }),
    action: text('action').notNull(),
  },
  (t) => [
    index('api_token_grant_token').on(t.tokenId),
    check('api_token_grant_one', sql`num_nonnulls(${t.tableId}, ${t.formId}) = 1`),
  ],
);
