import { z } from 'zod';
import type { BulkProgress, BulkState, BulkWhat } from '../core/record/bulk-change';
import { limits } from '../core/limits';

/** One column of all records that are found, set to a value. `id` is given by who asks, so that asking twice begins it once. */
export const beginBulk = z
  .object({
    id: z.uuid(),
    find: z.string().max(limits.label).default(''),
    where: z.string().max(4_000).default(''),
    column: z.string().max(40),
    value: z.union([z.string().max(limits.longText), z.boolean(), z.null()]),
    title: z.string().max(limits.shortText).default(''),
  })
  .strict();
export const steerBulk = z.object({ do: z.enum(['stop', 'take-back']), id: z.uuid().optional() }).strict();

export interface BulkChangeData {
  readonly id: string;
  readonly what: BulkWhat;
  readonly state: BulkState;
  readonly progress: BulkProgress;
  /** Whether what it changed can still be taken back by one word. */
  readonly canTakeBack: boolean;
}
