import Papa from 'papaparse';
import type { SheetRows } from '../core/import/cell';
import { TextRows } from '../core/import/text-rows';
import { encodingOf, utf8Pieces } from './decode';
import { fileLimits, RefusedFile } from './refused-file';
import { scan, ScanRoom, type Newline, type Written } from './scan';

const DELIMITERS = [',', ';', '\t', '|', ':', '^', '~', '\u001f'] as const;
const SNIFFED = 200_000;

/**
 * The sign between cells: the one that gives most rows the same number of cells, two or more. Text in quotes is left alone.
 * A file in which none does has one column.
 */
export function delimiterOf(text: string): string {
  const scored = DELIMITERS.map((delimiter) => ({ delimiter, score: evenness(text, delimiter) })).sort(
    (a, b) => b.score - a.score,
  );
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
 * What is written as CSV is, our own scan reads; from the first row that is not, the library does, which
 * knows more ways. Rows hold until the next are asked for.
 */
export async function* csvRows(
  path: string,
  signal?: AbortSignal,
  given?: string,
): AsyncGenerator<SheetRows> {
  const rows = new CsvRows(given);
  for await (const piece of utf8Pieces(path, await encodingOf(path), () => rows.rest, signal))
    yield* rows.of(piece);
  yield* rows.end();
}

class CsvRows {
  private readonly room = new ScanRoom();
  /** What has not become rows yet; the next piece begins with it. */
  rest: Buffer = Buffer.alloc(0);
  private written: Written | null = null;
  private library: LibraryRows | null = null;
  private number = 0;

  constructor(private readonly given: string | undefined) {}

  *of(piece: Buffer): Generator<SheetRows> {
    this.rest = piece;
    if (this.written !== null || this.rest.length >= SNIFFED) yield* this.take(false);
  }

  *end(): Generator<SheetRows> {
    if (this.rest.length > 0 || this.library !== null) yield* this.take(true);
  }

  private *take(last: boolean): Generator<SheetRows> {
    const written = (this.written ??= this.sniffed());
    if (this.library === null) {
      const { scanned, rest, stuck } = scan(this.rest, written, last, this.number, this.room);
      const some = new TextRows(scanned, this.number);
      if (some.count > 0) yield some;
      [this.rest, this.number] = [this.rest.subarray(rest), this.number + some.count];
      if (stuck) this.library = new LibraryRows(written, this.number);
    }
    if (this.library !== null) {
      yield* this.library.of(this.rest, last);
      this.rest = Buffer.alloc(0);
    }
    if (this.rest.length > fileLimits.cell * 4)
      throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: this.number + 1 });
  }

  private sniffed(): Written {
    const head = this.rest.toString('utf8', 0, SNIFFED);
    return { delimiter: this.given ?? delimiterOf(head), newline: newlineOf(head) };
  }
}

/** Rows as the library reads them, whatever way they are written. */
class LibraryRows {
  private readonly parser: Papa.Parser;
  private readonly decoder = new TextDecoder();
  private rest = '';

  constructor(
    written: Written,
    private number: number,
  ) {
    this.parser = new Papa.Parser({ quoteChar: '"', escapeChar: '"', ...written });
  }

  *of(bytes: Buffer, last: boolean): Generator<SheetRows> {
    this.rest += this.decoder.decode(bytes, { stream: !last });
    if (this.rest === '') return;
    const { data, meta } = this.parser.parse(this.rest, 0, !last) as Papa.ParseResult<string[]>;
    this.rest = this.rest.slice(meta.cursor);
    guard(data, this.number);
    if (data.length > 0) yield { numbers: data.map((_, i) => this.number + i + 1), rows: data };
    this.number += data.length;
    if (this.rest.length > fileLimits.cell * 4)
      throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: this.number + 1 });
  }
}

function guard(rows: readonly (readonly string[])[], before: number): void {
  rows.forEach((row, i) => {
    if (row.length > fileLimits.columns)
      throw new RefusedFile('too-many-columns', { most: fileLimits.columns, row: before + i + 1 });
    for (const cell of row)
      if (cell.length > fileLimits.cell)
        throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: before + i + 1 });
  });
}

/** Papa's own parser wants to know; lone returns end lines in files from old machines. */
function newlineOf(text: string): Newline {
  const unquoted = text.replace(/"(?:[^"]|"")*"/g, '');
  if (unquoted.includes('\r\n')) return '\r\n';
  return unquoted.includes('\n') || !unquoted.includes('\r') ? '\n' : '\r';
}
