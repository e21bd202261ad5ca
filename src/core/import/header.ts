import { tidy, textOf, type Cell } from './cell';

/** Where the headings stand among the first rows of a sheet, and what they are. */
export interface Header {
  /** How many of the given rows come before the first row of values. */
  readonly skip: number;
  /** Which of them holds the headings; null when there are none. */
  readonly at: number | null;
  /** By place in the row; unique, never blank. */
  readonly names: readonly string[];
}

/**
 * The headings are the first row that is mostly filled, all of it words, and unlike what follows: titles
 * above it have one or two cells, and rows of values have numbers, days or the same words again. `said`:
 * which of them it is, where somebody said so; -1 for none.
 */
export function headerOf(rows: readonly (readonly Cell[])[], said?: number): Header {
  const width = Math.max(0, ...rows.map(lastFilled));
  const typical = median(rows.map(filledIn).filter((n) => n > 0));
  const at = said ?? rows.findIndex((row, i) => isHeading(row, rows.slice(i + 1), typical));
  if (at < 0) return { skip: 0, at: null, names: Array.from({ length: width }, (_, i) => `Column ${i + 1}`) };
  return { skip: at + 1, at, names: named(rows[at] ?? [], width) };
}

function isHeading(row: readonly Cell[], below: readonly (readonly Cell[])[], typical: number): boolean {
  const filled = row
    .map((cell, i) => [tidy(textOf(cell)), i, typeof cell === 'string'] as const)
    .filter(([text]) => text !== '');
  if (filled.length === 0 || filled.length < typical * 0.6 || (filled.length === 1 && typical > 1))
    return false;
  if (!filled.every(([text, , isText]) => isText && text.length <= 120 && !VALUE.test(text))) return false;
  if (new Set(filled.map(([text]) => text.toLowerCase())).size < filled.length * 0.8) return false;
  // A heading is not itself one of the values beneath it.
  const repeated = filled.filter(([text, i]) => below.some((other) => tidy(textOf(other[i])) === text));
  return repeated.length <= filled.length * 0.34;
}

/** Numbers, days, addresses: never a heading, save a year. */
const VALUE = /^(?!(?:19|20)\d\d$)[-+]?[\d.,/:\s€$£%-]+$|@|^https?:/;

function named(row: readonly Cell[], width: number): string[] {
  const taken = new Set<string>();
  return Array.from({ length: width }, (_, i) => {
    const base = tidy(textOf(row[i])) || `Column ${i + 1}`;
    let name = base;
    for (let n = 2; taken.has(name); n++) name = `${base} (${n})`;
    taken.add(name);
    return name;
  });
}

const filledIn = (row: readonly Cell[]): number => row.filter((cell) => tidy(textOf(cell)) !== '').length;
const lastFilled = (row: readonly Cell[]): number =>
  row.findLastIndex((cell) => tidy(textOf(cell)) !== '') + 1;

function median(list: readonly number[]): number {
  return [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
}
