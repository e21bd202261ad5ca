import { pipeline, Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import yauzl from 'yauzl';
import type { Cell, NativeCell, SheetRows } from '../core/import/cell';
import { fileLimits, RefusedFile } from './refused-file';
import { WholeCharacters } from './whole-characters';

/** The rows of one sheet of a workbook, some at a time. */
export interface WorkbookSheet {
  readonly name: string;
  readonly rows: AsyncGenerator<SheetRows>;
}

const BATCH = 1_000;

/** What the reader takes its parts from; its types do not say. */
interface Parts {
  _parseWorkbook(entry: Readable): Promise<void>;
  _parseSharedStrings(entry: Readable): AsyncGenerator<unknown>;
  _parseWorksheet(pieces: AsyncIterable<Buffer>, sheet: string): Generator<unknown>;
}

const Reader = ExcelJS.stream.xlsx.WorkbookReader as unknown as new (
  ...of: ConstructorParameters<typeof ExcelJS.stream.xlsx.WorkbookReader>
) => ExcelJS.stream.xlsx.WorkbookReader & Parts;

/** The library takes each piece of a file for a text by itself, and a character that two pieces share for none. */
class WholeTextReader extends Reader {
  override _parseWorkbook(entry: Readable): Promise<void> {
    return super._parseWorkbook(whole(entry));
  }

  override async *_parseSharedStrings(entry: Readable): AsyncGenerator<unknown> {
    yield* super._parseSharedStrings(whole(entry));
  }

  override *_parseWorksheet(pieces: AsyncIterable<Buffer>, sheet: string): Generator<unknown> {
    yield* super._parseWorksheet(whole(Readable.from(pieces)), sheet);
  }
}

/** A fault of what comes in is one of what goes out. */
const whole = (from: Readable): Readable => pipeline(from, new WholeCharacters(), () => undefined);

/** The sheets of an XLSX workbook, one after the other; each is to be read before the next. Of formulas the values, as they were saved. */
export async function* xlsxSheets(path: string, signal?: AbortSignal): AsyncGenerator<WorkbookSheet> {
  const names = await unpackedSafely(path, signal);
  if (!names.has('xl/workbook.xml'))
    throw new RefusedFile(names.has('EncryptedPackage') ? 'protected-workbook' : 'broken-workbook');
  const reader = new WholeTextReader(path, {
    worksheets: 'emit',
    sharedStrings: 'cache',
    hyperlinks: 'ignore',
    styles: 'cache',
    entries: 'emit',
  });
  for await (const sheet of understood(reader, signal)) {
    signal?.throwIfAborted();
    // The types leave out the name, which the reader knows from the workbook's list.
    const { name } = sheet as unknown as { name?: string };
    yield { name: name ?? 'Sheet', rows: rowsOf(understood(sheet, signal)) };
  }
}

/** What the reader cannot make sense of is the file's fault, and no other try will understand it; a disk that fails is another matter. */
async function* understood<T>(from: AsyncIterable<T>, signal?: AbortSignal): AsyncGenerator<T> {
  try {
    yield* from;
  } catch (error) {
    const system = error instanceof Error && 'syscall' in error;
    if (error instanceof RefusedFile || signal?.aborted || system) throw error;
    throw new RefusedFile('broken-workbook');
  }
}

/** The format itself has no further rows. */
const LAST_ROW = 1_048_576;

async function* rowsOf(sheet: AsyncIterable<ExcelJS.Row>): AsyncGenerator<SheetRows> {
  let [numbers, rows]: [number[], Cell[][]] = [[], []];
  for await (const row of sheet) {
    if (row.cellCount > fileLimits.columns)
      throw new RefusedFile('too-many-columns', { most: fileLimits.columns, row: row.number });
    if (!(row.number >= 1 && row.number <= LAST_ROW)) throw new RefusedFile('broken-workbook');
    numbers.push(row.number);
    rows.push(cellsOf(row));
    if (rows.length < BATCH) continue;
    yield { numbers, rows };
    [numbers, rows] = [[], []];
  }
  if (rows.length > 0) yield { numbers, rows };
}

function cellsOf(row: ExcelJS.Row): Cell[] {
  const cells: Cell[] = [];
  row.eachCell({ includeEmpty: true }, (cell, column) => {
    while (cells.length < column - 1) cells.push('');
    cells.push(cellOf(cell.value, cell.numFmt));
  });
  return cells;
}

function cellOf(value: ExcelJS.CellValue, format: string | undefined): Cell {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return numberCell(value, format ?? '');
  if (typeof value === 'boolean') return { kind: 'yes-no', text: String(value) };
  if (value instanceof Date) return dateCell(value, format ?? '');
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('result' in value) return cellOf((value.result ?? null) as ExcelJS.CellValue, format);
  if ('text' in value) return cellOf(value.text as ExcelJS.CellValue, format);
  // A formula that was never calculated, or came out as an error, has no value.
  return '';
}

/** Numbers as the file has them, in binary; fifteen digits are what was typed, the rest is noise of the conversion. */
function numberCell(value: number, format: string): Cell {
  const percent = format.includes('%');
  const text = plainDigits(percent ? value * 100 : value);
  if (text === null) return '';
  return percent ? `${text}%` : { kind: 'number', text };
}

function plainDigits(value: number): string | null {
  if (!Number.isFinite(value)) return null;
  const near = Number(value.toPrecision(15));
  return Number.isInteger(near) && Math.abs(near) < 1e15
    ? String(near)
    : near
        .toFixed(Math.min(12, Math.max(0, 15 - Math.ceil(Math.log10(Math.abs(near) || 1)))))
        .replace(/\.?0+$/, '');
}

/** Days and times are kept without a zone, so the parts are those of UTC. */
function dateCell(value: Date, format: string): NativeCell {
  if (Number.isNaN(value.getTime())) return { kind: 'number', text: '' };
  const rounded = new Date(Math.round(value.getTime() / 1_000) * 1_000).toISOString();
  const [day = '', time = ''] = rounded.slice(0, 19).split('T');
  if (
    day === '1899-12-30' ||
    day === '1899-12-31' ||
    (/^[^dy]*$/i.test(format.replace(/\[[^\]]*\]|"[^"]*"/g, '')) && format !== '')
  )
    return { kind: 'time', text: time };
  return time === '00:00:00' ? { kind: 'date', text: day } : { kind: 'date-time', text: `${day}T${time}` };
}

/**
 * Unpacks everything once, counting: what a workbook says of its own size cannot be believed. Gives the names of its parts.
 */
export async function unpackedSafely(path: string, signal?: AbortSignal): Promise<Set<string>> {
  const names = new Set<string>();
  const zip = await yauzl.openPromise(path, { autoClose: false }).catch(() => {
    throw new RefusedFile('broken-workbook');
  });
  try {
    let total = 0;
    for await (const entry of zip.eachEntry()) {
      signal?.throwIfAborted();
      if (names.add(entry.fileName).size > fileLimits.parts)
        throw new RefusedFile('too-many-parts', { most: fileLimits.parts });
      if (entry.fileName.endsWith('/')) continue;
      for await (const piece of await zip.openReadStreamPromise(entry)) {
        total += (piece as Buffer).length;
        if (total > fileLimits.unpacked || (total > 50_000_000 && total > zip.fileSize * fileLimits.ratio))
          throw new RefusedFile('unpacks-too-large', { most: fileLimits.unpacked });
      }
    }
    return names;
  } catch (error) {
    if (error instanceof RefusedFile || signal?.aborted) throw error;
    throw new RefusedFile('broken-workbook');
  } finally {
    zip.close();
  }
}
