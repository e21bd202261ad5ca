import { z } from 'zod';

import { answers } from './stored/answers';

/** An ISO date-time of the workspace's zone, to the minute or second. */
const moment = z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?$/);

/** A rehearsal as it begins: as whom, when, and with the answers of a submission that was sent, by its id, or with those it is gone on with. */
export const beginRehearsal = z
  .object({ as: z.uuid(), at: moment.nullable(), of: z.uuid().nullable(), answers: answers.nullable() })
  .strict();
export const rehearse = z.object({ as: z.uuid(), at: moment.nullable(), answers }).strict();

/** What sending these answers would come to. Nothing of it is kept. */
export interface Rehearsed {
  /** What the server would refuse, at its line. */
  readonly issues: readonly {
    readonly path: readonly (string | number)[];
    readonly code: string;
    readonly sentence: string;
  }[];
  /** Whether whoever it is rehearsed as may fill the form. */
  readonly mayFill: boolean;
  readonly steps: readonly {
    readonly id: string;
    readonly label: string;
    /** Names; none where nobody could be asked. */
    readonly asked: readonly string[];
  }[];
  readonly records: readonly WrittenRecord[];
  /** Whether tables were made or changed for it, and put back. */
  readonly changedTables: boolean;
}

/** A record as it would be written. */
export interface WrittenRecord {
  readonly table: string;
  readonly key: string;
  readonly what: 'new' | 'changed' | 'removed';
  /** Null where its number is given when it is kept. */
  readonly number: string | null;
  readonly cells: readonly {
    readonly key: string;
    readonly before: string | null;
    readonly after: string;
  }[];
}

/** Submissions whose answers can be rehearsed again. */
export interface PastSubmission {
  readonly id: string;
  readonly number: string;
  readonly sender: string;
  readonly state: string;
  readonly at: string;
}
