import { z } from 'zod';
import { trailSubjects } from '../core/trail/line';
import { limits } from '../core/limits';

const day = z.union([z.literal(''), z.iso.date()]).default('');

/** Which lines of the trail are meant; `before` is the id of the last that is shown. */
export const trailQuery = z
  .object({
    before: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER).optional(),
    by: z.union([z.literal(''), z.uuid()]).default(''),
    about: z.union([z.literal(''), z.enum(trailSubjects)]).default(''),
    from: day,
    until: day,
    find: z.string().max(limits.label).default(''),
  })
  .strict();
export type TrailAsked = z.infer<typeof trailQuery>;
export const trailFile = trailQuery.extend({ format: z.enum(['csv', 'xlsx', 'json']) });

export interface TrailLineData {
  readonly id: number;
  /** Its place once it is sealed. */
  readonly position: number | null;
  readonly at: string;
  /** Who did it; empty for nobody. */
  readonly by: string;
  /** By which token; empty for none. */
  readonly token: string;
  readonly address: string;
  readonly sentence: string;
  readonly changed: readonly string[];
}

export interface TrailLinesData {
  /** The newest first. */
  readonly lines: readonly TrailLineData[];
  readonly more: boolean;
}

export interface TrailData extends TrailLinesData {
  readonly people: readonly { readonly id: string; readonly name: string; readonly place: string }[];
  /** How many lines are sealed, the last seal, and the first place that is not whole; null where all is. */
  readonly sealed: number;
  readonly seal: string;
  readonly broken: number | null;
}
