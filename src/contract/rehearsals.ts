import { z } from 'zod';
import type { Answers } from '../core/form/answers';
import type { Rehearsed } from '../core/form/rehearsed';

import { answers } from './stored/answers';

/** An ISO date-time of the workspace's zone, to the minute or second. */
const moment = z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?$/);

/**
 * A rehearsal as it begins: as whom, when, and with the answers of a submission that was sent, by its id, or
 * with those it is gone on with.
 */
export const beginRehearsal = z
  .object({ as: z.uuid(), at: moment.nullable(), of: z.uuid().nullable(), answers: answers.nullable() })
  .strict();
export const rehearse = z.object({ as: z.uuid(), at: moment.nullable(), answers }).strict();

/** Submissions whose answers can be rehearsed again. */
export interface PastSubmission {
  readonly id: string;
  readonly number: string;
  readonly sender: string;
  readonly state: string;
  readonly at: string;
}

/** What was sent lately, held against the draft. */
export interface PastPaths {
  readonly looked: number;
  /** How often each step would be asked. */
  readonly steps: readonly { readonly id: string; readonly count: number }[];
  /** How often each row of each table of rules counts, nothing fits, and more than may. */
  readonly rules: readonly {
    readonly id: string;
    readonly rows: readonly { readonly id: string; readonly count: number }[];
    readonly nothing: number;
    readonly several: number;
  }[];
  /** How many would go another way than they did, and some of them. */
  readonly others: number;
  readonly other: readonly {
    readonly id: string;
    readonly number: string;
    readonly was: string;
    readonly now: string;
  }[];
}

export const keepExample = z
  .object({ label: z.string().trim().min(1).max(200), as: z.uuid(), at: moment.nullable(), answers })
  .strict();

/** An example as it was kept, and how it comes out now: what is different, in sentences. */
export interface PlayedExample {
  readonly id: string;
  readonly label: string;
  readonly as: string;
  readonly at: string;
  readonly answers: Answers;
  readonly differs: readonly string[];
  readonly now: Rehearsed;
}
