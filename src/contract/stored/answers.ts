import { z } from 'zod';
import type { Answers } from '../../core/form/answers';
import { limits } from '../../core/limits';

/** Answers as typed. Text may be longer than its question allows, so that it is kept and reported, not lost. */
const raw = z.union([z.string().max(limits.longText * 2), z.boolean(), z.null()]);
const id = z.string().regex(/^[\w-]{1,60}$/);

export const answers = z
  .object({
    values: z.record(id, raw),
    rows: z.record(
      id,
      z
        .array(z.object({ id, of: id.optional(), cells: z.record(id, raw) }).strict())
        .max(limits.innerRows * 2),
    ),
    reasons: z.record(id, z.string().max(limits.word)),
  })
  .strict() satisfies z.ZodType<Answers>;
