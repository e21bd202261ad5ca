import Big from 'big.js';

// 34 significant digits are what FEEL's standard asks of a number; a quotient keeps that many decimals here.
Big.DP = 34;
Big.RM = Big.roundHalfEven;

/** A looked-up record as a form sees it: its title, and the columns that expressions read, by column id. */
export interface RecordValue {
  readonly id: string;
  readonly title: string;
  readonly values: Readonly<Record<string, Value>>;
}

/** What a name holds while a form is filled: numbers exact, dates as ISO text `YYYY-MM-DD`, null for empty. */
export type Value = Big | string | boolean | null | RecordValue | readonly Value[];

export const isBig = (value: Value): value is Big => value instanceof Big;
export const isRecord = (value: Value): value is RecordValue =>
  typeof value === 'object' && value !== null && 'values' in value && 'title' in value;

/** FEEL's `=`: two-valued, also with null; records are equal by id. */
export function same(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (a === null || b === null) return false;
  if (isBig(a) && isBig(b)) return a.eq(b);
  if (isRecord(a) && isRecord(b)) return a.id === b.id;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, i) => same(one as Value, b[i] as Value));
  return false;
}

/** Order of two numbers, texts (by code unit) or dates: -1, 0, 1; null when either is empty. */
export function order(a: Value, b: Value): number | null {
  if (isBig(a) && isBig(b)) return a.cmp(b);
  if (typeof a === 'string' && typeof b === 'string') return a < b ? -1 : a > b ? 1 : 0;
  return null;
}
