import type Big from 'big.js';
import { isBig } from './number';
import { Duration } from './duration';

/** A looked-up record as a form sees it: its title, and the columns that expressions read, by column id. */
export interface RecordValue {
  readonly id: string;
  readonly title: string;
  readonly values: Readonly<Record<string, Value>>;
}

/** Named values; for a row of a repeating group, by column id. */
export type ContextValue = ReadonlyMap<string, Value>;

/** From `low` to `high`; an end that is null is open without bound. */
export class Range {
  constructor(
    readonly low: Value,
    readonly high: Value,
    readonly lowIn: boolean,
    readonly highIn: boolean,
  ) {}
}

/**
 * What a name holds: numbers exact, dates as ISO text `YYYY-MM-DD`, times `HH:MM:SS` and date-times `YYYY-MM-DDTHH:MM:SS`
 * (with decimals of a second where there are any, never with a zone), null for empty.
 */
export type Value =
  Big | string | boolean | null | Duration | Range | RecordValue | ContextValue | readonly Value[];

export { isBig } from './number';
export const isList = (value: Value): value is readonly Value[] => Array.isArray(value);
export const isContext = (value: Value): value is ContextValue => value instanceof Map;
export const isRecord = (value: Value): value is RecordValue =>
  typeof value === 'object' && value !== null && 'values' in value && 'title' in value;

/** FEEL's `=`: two-valued, also with null; records are equal by id. */
export function same(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (isBig(a)) return isBig(b) && a.eq(b);
  if (a instanceof Duration) return b instanceof Duration && sameDuration(a, b);
  if (a instanceof Range) return b instanceof Range && sameRange(a, b);
  if (isList(a)) return isList(b) && a.length === b.length && a.every((one, i) => same(one, b[i] ?? null));
  if (isContext(a))
    return (
      isContext(b) &&
      a.size === b.size &&
      [...a].every(([key, one]) => b.has(key) && same(one, b.get(key) ?? null))
    );
  return isRecord(a) && isRecord(b) && a.id === b.id;
}

const sameDuration = (a: Duration, b: Duration): boolean => a.unit === b.unit && a.amount.eq(b.amount);
const sameRange = (a: Range, b: Range): boolean =>
  a.lowIn === b.lowIn && a.highIn === b.highIn && same(a.low, b.low) && same(a.high, b.high);

/** Order of two numbers, texts, dates, times or durations: below, at or above 0; null when either is empty. */
export function order(a: Value, b: Value): number | null {
  if (isBig(a)) return isBig(b) ? a.cmp(b) : null;
  if (typeof a === 'string') return typeof b === 'string' ? orderTexts(a, b) : null;
  if (a instanceof Duration && b instanceof Duration && a.unit === b.unit) return a.amount.cmp(b.amount);
  return null;
}

/** By code point, as PostgreSQL's collation "C" does; UTF-16 order parts from it only where surrogates meet U+E000 to U+FFFF. */
function orderTexts(a: string, b: string): number {
  if (a === b) return 0;
  const end = Math.min(a.length, b.length);
  for (let i = 0; i < end; i++) {
    const [x, y] = [a.charCodeAt(i), b.charCodeAt(i)];
    if (x !== y) return rank(x) - rank(y);
  }
  return a.length - b.length;
}

const rank = (unit: number): number =>
  unit >= 0xe000 ? unit - 0x2000 : unit >= 0xd800 ? unit + 0x2000 : unit;
