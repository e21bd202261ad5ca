import { z } from 'zod';

/** Days are ISO 8601, of the workspace, both included. */
export const sayAway = z
  .object({ person: z.uuid(), from: z.iso.date(), until: z.iso.date(), standIn: z.uuid() })
  .strict();
export type AbsenceInput = z.infer<typeof sayAway>;

export interface AbsenceData extends AbsenceInput {
  readonly id: string;
  readonly name: string;
  readonly standInName: string;
  /** Whether it has begun; what is over is not told. */
  readonly now: boolean;
}
