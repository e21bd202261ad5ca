/** A cell whose kind the file itself knows, as workbooks do; `text` is ISO for days and times, plain digits for numbers, `true` or `false`. */
export interface NativeCell {
  readonly kind: 'number' | 'date' | 'date-time' | 'time' | 'yes-no';
  readonly text: string;
}

/** One cell as a file gives it. CSV has nothing but text. */
export type Cell = string | NativeCell;

/** Some rows of a sheet with the numbers they have in the file, counted from 1. */
export interface SheetRows {
  readonly numbers: readonly number[];
  readonly rows: readonly (readonly Cell[])[];
}

export const textOf = (cell: Cell | undefined): string => (cell === undefined ? '' : typeof cell === 'string' ? cell : cell.text);

/**
 * A text of its own, to be kept for long: engines make a cell of thirteen letters or more a view on the megabyte it was read from, and a
 * few thousand such views hold gigabytes.
 */
export const owned = (text: string): string => (text.length < 13 ? text : ` ${text}`.slice(1));

/** Without spaces around it, and with single ones inside. */
export function tidy(text: string): string {
  const trimmed = text.trim();
  return UNTIDY.test(trimmed) ? trimmed.replace(/\s+/g, ' ') : trimmed;
}
const UNTIDY = /\s\s|[^\S ]/;

/** What two spellings of the same thing have in common: no case, no spaces, no accents. */
export function fold(text: string): string {
  const plain = PLAIN.test(text) ? text : text.normalize('NFKD').replace(/\p{M}/gu, '');
  const lower = plain.toLowerCase();
  return SPACED.test(lower) ? lower.replace(/\s+/g, '') : lower;
}
const PLAIN = /^[\x20-\x7e]*$/;
const SPACED = /\s/;

/**
 * 53 bits of a text, never 0. Two multiplicative hashes side by side; among a million values the chance of any two meeting by accident is
 * about 1 in 20 000, and what is proposed is held against the values themselves before a table is made.
 */
export function hashOf(text: string): number {
  let [a, b] = [0x9e3779b1, 0x85ebca6b];
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    a = Math.imul(a ^ unit, 0x5bd1e995);
    b = Math.imul(b ^ unit, 0x1b873593);
  }
  a = Math.imul(a ^ (a >>> 15), 0x2c1b3c6d) ^ Math.imul(b ^ (b >>> 13), 0x297a2d39);
  b = Math.imul(b ^ (b >>> 16), 0x846ca68b) ^ Math.imul(a ^ (a >>> 13), 0x9e3779b1);
  return (b & 0x1fffff) * 0x100000000 + (a >>> 0) + 1;
}
