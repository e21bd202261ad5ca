import { z } from 'zod';
import type { Check, ExistingCheck, TableCheck } from '../../core/check/check';
import { limits } from '../../core/limits';

/** Checks of a form or a table, as they are stored and sent: the shape only. */
const id = z.string().regex(/^[a-z][a-z0-9]{1,39}$/);
const place = z.string().max(40);
const message = z.string().max(limits.word);

export const check = z
  .object({ id, on: place, must: z.string().max(4_000), message, otherwise: z.enum(['stop', 'ask']) })
  .strict() satisfies z.ZodType<Check>;

const existingRule = z.discriminatedUnion('t', [
  z.object({ t: z.literal('unique') }).strict(),
  z.object({ t: z.literal('no-overlap'), from: place, to: place }).strict(),
  z
    .object({
      t: z.literal('at-most'),
      most: z.number().int().min(0).max(1_000_000),
      per: z.enum(['day', 'week', 'month', 'year', 'ever']),
      date: place.nullable(),
    })
    .strict(),
]);
export const existingCheck = z
  .object({ id, on: place, message, same: z.array(place).max(10), rule: existingRule })
  .strict() satisfies z.ZodType<ExistingCheck>;

export const tableCheck = z.union([check, existingCheck]) satisfies z.ZodType<TableCheck>;
