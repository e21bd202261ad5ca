import Papa from 'papaparse';
import type { SheetRows } from '../core/import/cell';
import { TextRows } from '../core/import/text-rows';
import { decoded, encodingOf } from './decode';
import { fileLimits, RefusedFile } from './refused-file';
import { scan, ScanRoom, type Newline } from './scan';

const DELIMITERS = [',', ';', '\t', '|', ':', '^', '~', '\u001f'] as const;
const SNIFFED = 200_000;

/**
 * The sign between cells: the one that gives most rows the same number of cells, two or more. Text in quotes is left alone.
 * A file in which none does has one column.
 */
export function delimiterOf(text: string): string {
  const scored = DELIMITERS.map((delimiter) => ({ delimiter, score: evenness(text, delimiter) })).sort((a, b) => b.score - a.score);
  return scored[0] !== undefined && scored[0].score > 0 ? scored[0].delimiter : ',';
}

function evenness(text: string, delimiter: string): number {
  const { data } = Papa.parse<string[]>(text, { delimiter, preview: 200 });
  const rows = data.filter((row) => row.some((cell) => cell.trim() !== ''));
  const widths = new Map<number, number>();
  for (const row of rows) widths.set(row.length, (widths.get(row.length) ?? 0) + 1);
  const [width = 1, often = 0] = [...widths].sort(([, m], [, n]) => n - m)[0] ?? [];
  return width < 2 ? 0 : (often / rows.length) * 10 + Math.min(width, 50) / 50 - (delimiter === ':' ? 2 : 0);
}

/**
 * The rows of a CSV file as they are streamed; memory does not grow with the file. The sign between cells is found out, unless it is given.
 * What is written as CSV is, our own scan reads; from the first row that is not, the library does, which knows more ways. Rows hold until the
 * next are asked for.
 */
export async function* csvRows(path: string, signal?: AbortSignal, given?: string): AsyncGenerator<SheetRows> {
  const encoding = await encodingOf(path);
  const room = new ScanRoom();
  let [rest, number] = ['', 0];
  let how: { delimiter: string; newline: Newline; parser: Papa.Parser | null } | null = null;
  const take = function* (last: boolean): Generator<SheetRows> {
    how ??= { delimiter: given ?? delimiterOf(rest.slice(0, SNIFFED)), newline: newlineOf(rest.slice(0, SNIFFED)), parser: null };
    if (how.parser === null) {
      const { scanned, rest: from, stuck } = scan(rest, how.delimiter, how.newline, last, number, room);
      const some = new TextRows(scanned, number);
      if (some.count > 0) yield some;
      [rest, number] = [rest.slice(from), number + some.count];
      if (stuck) how.parser = new Papa.Parser({ quoteChar: '"', escapeChar: '"', delimiter: how.delimiter, newline: how.newline });
    }
    if (how.parser !== null) {
      const { data, meta } = how.parser.parse(rest, 0, !last) as Papa.ParseResult<string[]>;
      rest = rest.slice(meta.cursor);
      guard(data, number);
      if (data.length > 0) yield { numbers: data.map((_, i) => number + i + 1), rows: data };
      number += data.length;
    }
    if (rest.length > fileLimits.cell * 4) throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: number + 1 });
  };
  for await (const piece of decoded(path, encoding, signal)) {
    rest += piece;
    if (how !== null || rest.length >= SNIFFED) yield* take(false);
  }
  if (rest !== '') yield* take(true);
}

function guard(rows: readonly (readonly string[])[], before: number): void {
  rows.forEach((row, i) => {
    if (row.length > fileLimits.columns) throw new RefusedFile('too-many-columns', { most: fileLimits.columns, row: before + i + 1 });
    for (const cell of row) if (cell.length > fileLimits.cell) throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: before + i + 1 });
  });
}

/** Papa's own parser wants to know; lone returns end lines in files from old machines. */
function newlineOf(text: string): Newline {
  const unquoted = text.replace(/"(?:[^"]|"")*"/g, '');
  if (unquoted.includes('\r\n')) return '\r\n';
  return unquoted.includes('\n') || !unquoted.includes('\r') ? '\n' : '\r';
}
