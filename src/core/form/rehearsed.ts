import type { Due } from '../approval/due';
import type { Outcome } from '../check/outcomes';

/** What sending these answers would come to. Nothing of it is kept. */
export interface Rehearsed {
  /** What the server would refuse, at its line. */
  readonly issues: readonly {
    readonly path: readonly (string | number)[];
    readonly code: string;
    readonly sentence: string;
  }[];
  /** Whether whoever it is rehearsed as may fill the form; null where nobody can yet, because it is not released. */
  readonly mayFill: boolean | null;
  readonly steps: readonly {
    readonly id: string;
    readonly label: string;
    /** Names; none where nobody could be asked. */
    readonly asked: readonly string[];
    /** Why each of them is asked, in their order; null of whom the step names. Left out of examples kept before this was told. */
    readonly reasons?: readonly (string | null)[];
    /** It is not asked about these answers. */
    readonly skipped?: boolean;
    /** Of one that is not asked, why: its condition with the values in it, or the rows of rules that say so. */
    readonly because?: string;
    /** By when, were it asked at the moment of the rehearsal; left out where it has no time. */
    readonly due?: Due;
  }[];
  /** How each check came out, in the order of the checks and rows. */
  readonly checks: readonly {
    readonly id: string;
    readonly row: string | null;
    readonly came: Outcome['came'];
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
