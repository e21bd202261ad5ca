import { customType, pgSchema, timestamp } from 'drizzle-orm/pg-core';

/** What Tidy Slate knows about itself. What owners design lives in schema `records`. */
export const slate = pgSchema('slate');

export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

export const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

export const made = {
  createdAt: at('created_at').notNull().defaultNow(),
  updatedAt: at('updated_at').notNull().defaultNow(),
};
