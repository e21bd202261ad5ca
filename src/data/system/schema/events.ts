import {
  bigint,
  bigserial,
  boolean,
  check,
  customType,
  index,
  integer,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import type { EventKind } from '../../../core/event/event';
import type { DeliveryFault } from '../../../core/event/delivery';
import { at, slate } from './base';
import { person } from './people';

const bytes = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

/**
 * What happened to records and submissions, for programs: noted by triggers in the transaction of what it
 * tells of. Its place in the order is given afterwards, when it can be seen (`slate.put_in_order`): whoever
 * has read up to a place has missed nothing before it, and of one record each comes after what was before it.
 */
export const event = slate.table(
  'event',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    position: bigint('position', { mode: 'number' }),
    kind: text('kind').$type<EventKind>().notNull(),
    tableId: uuid('table_id'),
    recordId: uuid('record_id'),
    /** Of records that were imported together, the last; the first stands above. */
    lastId: uuid('last_id'),
    version: integer('version'),
    historyId: bigint('history_id', { mode: 'number' }),
    formId: uuid('form_id'),
    submissionId: uuid('submission_id'),
    /** The event of its path. */
    place: integer('place'),
    byId: uuid('by_id'),
    at: at('at').notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex('event_position').on(t.position),
    index('event_unplaced')
      .on(t.id)
      .where(sql`${t.position} IS NULL`),
    check('event_about_one', sql`num_nonnulls(${t.tableId}, ${t.formId}) = 1`),
  ],
);

/** The last place that was given: one row. Whoever gives places holds it, so that they are seen in their order. */
export const eventCounter = slate.table('event_counter', {
  one: boolean('one').primaryKey().default(true),
  last: bigint('last', { mode: 'number' }).notNull().default(0),
  /** Up to here they are gone by now. */
  gone: bigint('gone', { mode: 'number' }).notNull().default(0),
});

/** An address outside that is told what happens, as one person sees it. */
export const eventAddress = slate.table(
  'event_address',
  {
    id: uuid('id').primaryKey(),
    label: text('label').notNull(),
    url: text('url').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    tableIds: uuid('table_ids').array().notNull(),
    formIds: uuid('form_ids').array().notNull(),
    kinds: text('kinds').array().$type<EventKind[]>().notNull(),
    /** By which what is told is signed, sealed. */
    secret: bytes('secret').notNull(),
    version: integer('version').notNull().default(1),
    madeById: uuid('made_by_id')
      .notNull()
      .references(() => person.id),
    madeAt: at('made_at').notNull().defaultNow(),
    /** Told up to here. */
    position: bigint('position', { mode: 'number' }).notNull(),
    /** How often the next was tried without success, since when, and when again. */
    tries: integer('tries').notNull().default(0),
    failingSince: at('failing_since'),
    nextAt: at('next_at'),
    /** Until when a worker has it. */
    claimedUntil: at('claimed_until'),
    stoppedAt: at('stopped_at'),
    /** Null where somebody stopped it. */
    stoppedBecause: text('stopped_because').$type<'gone' | 'failing' | 'left' | 'secret'>(),
  },
  (t) => [
    check('event_address_url', sql`${t.url} ~ '^https?://'`),
    check('event_address_label', sql`${t.label} ~ '\\S' AND length(${t.label}) <= 200`),
  ],
);

/** What became of telling it, for a while. */
export const eventDelivery = slate.table(
  'event_delivery',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    addressId: uuid('address_id')
      .notNull()
      .references(() => eventAddress.id, { onDelete: 'cascade' }),
    /** The event; null for one that was only tried. */
    position: bigint('position', { mode: 'number' }),
    kind: text('kind').notNull(),
    /** The number of the record or submission, where it has one. */
    subject: text('subject').notNull().default(''),
    /** What was answered; null where nothing was. */
    status: integer('status'),
    fault: text('fault').$type<DeliveryFault>(),
    ms: integer('ms').notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('event_delivery_address').on(t.addressId, t.id)],
);
