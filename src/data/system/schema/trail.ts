import { bigint, boolean, index, jsonb, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import type { Changed, TrailSubject, TrailVerb } from '../../../core/trail/line';
import { at, slate } from './base';

/**
 * Who did what to how all of it works: rights, designs, people, tokens, sources, settings, and signing in.
 * Written by triggers in the transaction of what it tells of, and never changed or taken away. Each line is
 * sealed afterwards (`slate.seal_trail`) with the one before it, so that a gap shows.
 */
export const trail = slate.table(
  'trail',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    position: bigint('position', { mode: 'number' }),
    /** SHA-256 of the seal before and of this line, in hexadecimal digits. */
    seal: text('seal'),
    at: at('at').notNull().defaultNow(),
    /** Null for what nobody asked for, and for whoever was not let in. */
    byId: uuid('by_id'),
    tokenId: uuid('token_id'),
    /** The address a request came from; null for jobs. */
    address: text('address'),
    subject: text('subject').$type<TrailSubject>().notNull(),
    verb: text('verb').$type<TrailVerb>().notNull(),
    subjectId: uuid('subject_id'),
    /** What it was called. */
    label: text('label').notNull().default(''),
    changed: jsonb('changed').$type<Changed>().notNull().default({}),
  },
  (t) => [
    uniqueIndex('trail_position').on(t.position),
    index('trail_unsealed')
      .on(t.id)
      .where(sql`${t.position} IS NULL`),
    index('trail_by').on(t.byId, t.id),
  ],
);

/** The last seal that was given: one row, held by whoever seals. */
export const trailHead = slate.table('trail_head', {
  one: boolean('one').primaryKey().default(true),
  last: bigint('last', { mode: 'number' }).notNull().default(0),
  seal: text('seal').notNull().default(''),
});
