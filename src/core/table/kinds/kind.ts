import type { Issue } from '../../kernel/issue';
import type { Result } from '../../kernel/result';
import type { Type } from '../../expression/type';
import type { Value } from '../../expression/value';
import type { Raw } from '../../form/answers';
import type { ColumnChoice } from '../model';

/** What a kind needs to know of its question or column. */
export interface KindFacts {
  readonly kind?: string;
  readonly long?: boolean;
  readonly decimals?: number | null;
  readonly unit?: string;
  readonly choices?: readonly ColumnChoice[];
  /** Of files, how many there may be. */
  readonly most?: number;
}

/** One kind of answer, from typed text to column type, in one place. Lookups are read by the sheet, which knows the records. */
export interface Kind {
  readonly type: Type;
  /** The type of its column in PostgreSQL. */
  readonly columnType: (facts: KindFacts) => string;
  /** What was typed, never blank, as a value; the issue's path is left for the caller to set. */
  readonly read: (raw: Raw, facts: KindFacts) => Result<Value, Issue>;
  /** A value as people read it. */
  readonly show: (value: Value, facts: KindFacts) => string;
  /** A value as it would be typed again: reading it gives the same value. */
  readonly write: (value: Value, facts: KindFacts) => Raw;
}

/** Of kinds whose values are what is typed. */
export const asItIs = (value: Value): Raw =>
  typeof value === 'string' || typeof value === 'boolean' ? value : null;
