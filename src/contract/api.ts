import { z } from 'zod';
import { limits } from '../core/limits';

/** What programs send. */
const json = z.record(z.string().max(100), z.json());
const version = z.number().int().min(1).max(2_000_000_000);

export const listQuery = z
  .object({
    where: z.string().max(4_000).default(''),
    find: z.string().max(limits.label).default(''),
    sort: z.string().max(1_000).default(''),
    columns: z.string().max(4_000).default(''),
    limit: z.coerce.number().int().min(1).max(limits.pageSize).default(50),
    after: z.uuid().optional(),
    count: z
      .enum(['true', 'false'])
      .default('false')
      .transform((text) => text === 'true'),
  })
  .strict();

export const recordBody = json;

export const batchBody = z
  .object({
    edits: z
      .array(
        z.discriminatedUnion('op', [
          z.object({ op: z.literal('add'), values: json }).strict(),
          z.object({ op: z.literal('change'), id: z.uuid(), version, values: json }).strict(),
          z.object({ op: z.literal('remove'), id: z.uuid(), version }).strict(),
        ]),
      )
      .min(1)
      .max(limits.batchEdits),
  })
  .strict();

export const fillBody = z
  .object({
    answers: json,
    reasons: z.record(z.string().max(40), z.string().trim().max(limits.word)).default({}),
    draft: z.boolean().default(false),
  })
  .strict();
