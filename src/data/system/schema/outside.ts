import { bigserial, check, index, integer, text, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import type { Language } from '../../../core/formats/formats';
import { at, slate } from './base';
import { form, submission } from './forms';
import { person } from './people';

/**
 * How a form meets people without an account: what it says to them, and what they may look up. A form without
 * a line is opened to nobody outside.
 */
export const formOutside = slate.table('form_outside', {
  formId: uuid('form_id')
    .primaryKey()
    .references(() => form.id, { onDelete: 'cascade' }),
  welcome: text('welcome').notNull().default(''),
  thanks: text('thanks').notNull().default(''),
  /** In which language they meet it; null for that of the workspace. */
  language: text('language').$type<Language>(),
  /** Questions, by id, that show records of a table to whoever has a link. */
  lookups: text('lookups')
    .array()
    .notNull()
    .default(sql`'{}'`),
  /** Sites whose pages may show it within them: scheme, host and port. */
  origins: text('origins')
    .array()
    .notNull()
    .default(sql`'{}'`),
  /** The question, by id, whose answer is the e-mail address of whoever sends: there they are told what becomes of it. */
  mailTo: text('mail_to'),
  version: integer('version').notNull().default(1),
  saidById: uuid('said_by_id')
    .notNull()
    .references(() => person.id),
  saidAt: at('said_at').notNull().defaultNow(),
});

/** An address at which anybody fills a form. What comes by it is sent by a person of its own, who is nobody and may nothing else. */
export const formLink = slate.table(
  'form_link',
  {
    id: uuid('id').primaryKey(),
    formId: uuid('form_id')
      .notNull()
      .references(() => form.id, { onDelete: 'cascade' }),
    personId: uuid('person_id')
      .notNull()
      .unique()
      .references(() => person.id),
    label: text('label').notNull(),
    /** In the address. Whoever has it may fill the form, as whoever made it meant, and nothing else. */
    secret: text('secret').notNull().unique(),
    madeById: uuid('made_by_id')
      .notNull()
      .references(() => person.id),
    madeAt: at('made_at').notNull().defaultNow(),
    endsAt: at('ends_at'),
    /** How many may be sent by it, and how many were. */
    most: integer('most'),
    sent: integer('sent').notNull().default(0),
    stoppedAt: at('stopped_at'),
    stoppedById: uuid('stopped_by_id').references(() => person.id),
  },
  (t) => [index('form_link_form').on(t.formId), check('form_link_most', sql`${t.most} > 0`)],
);

/** What is still to be mailed to somebody outside about what they sent. It goes once it is mailed. */
export const outsideMail = slate.table(
  'outside_mail',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submission.id, { onDelete: 'cascade' }),
    kind: text('kind').notNull(),
    address: text('address').notNull(),
    word: text('word').notNull().default(''),
    at: at('at').notNull(),
    claimedAt: at('claimed_at'),
  },
  (t) => [check('outside_mail_kind', sql`${t.kind} IN ('sent', 'sent-back', 'kept', 'declined')`)],
);
