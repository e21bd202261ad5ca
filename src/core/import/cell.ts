/**
 * A cell whose kind the file itself knows, as workbooks do; `text` is ISO for days and times, plain digits
 * for numbers, `true` or `false`.
 */
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

/** One row of a sheet with its number in the file. */
export interface Numbered {
  readonly number: number;
  readonly row: readonly Cell[];
}

export const textOf = (cell: Cell | undefined): string =>
  cell === undefined ? '' : typeof cell === 'string' ? cell : cell.text;

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
 * The apostrophe by which an export kept a spreadsheet from taking a text for a formula, also in the
 * full-width signs that some take for the same.
 */
const DEFUSED = /^'(?='*[=+\-@\t\r\n\uff1d\uff0b\uff0d\uff20])/;
export const undefused = (text: string): string => (text.startsWith("'") ? text.replace(DEFUSED, '') : text);

/** What a cell names a record by. */
export const nameIn = (text: string): string => undefused(tidy(text));

/** As much of a row as it takes to know it again. */
export function beginning(row: readonly Cell[]): string {
  const text = row
    .map((cell) => tidy(textOf(cell)))
    .filter((cell) => cell !== '')
    .join(' · ');
  return owned(text.length > 60 ? `${text.slice(0, 60)}…` : text);
}
