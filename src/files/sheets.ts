import { open } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import type { Detection } from '../core/import/detection';
import { SheetProfile } from '../core/import/sheet-profile';
import { textOf, type Cell, type SheetRows } from '../core/import/cell';
import { countOf, TextRows } from '../core/import/text-rows';
import { csvRows } from './csv';
import { RefusedFile } from './refused-file';
import { xlsxSheets } from './xlsx';

/** A file that is to be read, and the name people know it by. */
export interface GivenFile {
  readonly path: string;
  readonly name: string;
}

type Format = 'csv' | 'xlsx';

/** A sheet, whose rows are to be read before the next sheet of its file is. */
export interface OpenSheet {
  readonly name: string;
  readonly from: Format;
  readonly rows: AsyncGenerator<SheetRows>;
}

/** Judged by content: a workbook is a zip archive, everything that is text may be CSV. */
async function formatOf({ path }: GivenFile): Promise<Format> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(4_096), 0, 4_096, 0);
    const head = buffer.subarray(0, bytesRead);
    if (bytesRead === 0) throw new RefusedFile('empty');
    if (head.subarray(0, 4).equals(Buffer.from('PK\u0003\u0004'))) return 'xlsx';
    if (head.subarray(0, 4).equals(Buffer.from([0xd0, 0xcf, 0x11, 0xe0])))
      throw new RefusedFile('protected-workbook');
    const control = head.filter((byte) => byte < 9 || (byte > 13 && byte < 28)).length;
    const marked = (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff);
    if (!marked && control > head.length * 0.6) throw new RefusedFile('unknown-format');
    if (!marked && control > 0 && !emptyHalf(head)) throw new RefusedFile('unknown-format');
    return 'csv';
  } finally {
    await file.close();
  }
}

/** UTF-16 without a mark: every other byte of plain text is empty, always on the same side. */
function emptyHalf(head: Buffer): boolean {
  const [even, odd] = [0, 1].map((start) => head.filter((byte, i) => i % 2 === start && byte === 0).length);
  return ((even ?? 0) === 0) !== ((odd ?? 0) === 0) && (even ?? 0) + (odd ?? 0) > head.length / 4;
}

/** The sheets of a file, one after the other. */
export async function* sheetsOf(file: GivenFile, signal?: AbortSignal): AsyncGenerator<OpenSheet> {
  if ((await formatOf(file)) === 'csv')
    yield { name: basename(file.name, extname(file.name)), from: 'csv', rows: csvRows(file.path, signal) };
  else for await (const sheet of xlsxSheets(file.path, signal)) yield { ...sheet, from: 'xlsx' };
}

/** What is told while reading: how many rows so far. */
export type Progress = (rows: number) => void;

/**
 * Reads every sheet once; `headings` are the rows somebody said they stand in, by sheet. Sheets without any
 * rows are left out; of two with the same name the later gets a number.
 */
export async function profiled(
  files: readonly GivenFile[],
  told: Progress = () => undefined,
  signal?: AbortSignal,
  headings: Readonly<Record<string, number>> = {},
): Promise<SheetProfile[]> {
  const profiles: SheetProfile[] = [];
  let rows = 0;
  for (const file of files)
    for await (const sheet of sheetsOf(file, signal)) {
      const name = freeName(
        sheet.name,
        profiles.map((one) => one.name),
      );
      const profile = new SheetProfile(name, headings[name]);
      for await (const some of sheet.rows) {
        profile.add(some);
        told((rows += countOf(some)));
      }
      profile.end();
      profiles.push(profile);
    }
  return profiles.filter((one) => one.rows > 0);
}

export function freeName(name: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const one = n === 1 ? name : `${name} ${n}`;
    if (!taken.includes(one)) return one;
  }
}

/**
 * Relations know the rows of values that were not found; here the file is read again, as far as the last of
 * them, for what stands there.
 */
export async function withMisses(detection: Detection, files: readonly GivenFile[]): Promise<Detection> {
  const wanted = detection.relations.filter(({ misses }) => misses.length > 0);
  if (wanted.length === 0) return detection;
  const texts = new Map<string, string>();
  const columns = new Map(
    detection.sheets.map((sheet) => [sheet.name, new Map(sheet.columns.map(({ name, at }) => [name, at]))]),
  );
  const seen: string[] = [];
  for (const file of files)
    for await (const sheet of sheetsOf(file)) {
      const name = freeName(sheet.name, seen);
      seen.push(name);
      const of = wanted
        .filter(({ from }) => from.sheet === name)
        .flatMap(({ from, misses }) =>
          misses.map(({ row }) => ({
            row,
            column: from.column,
            at: columns.get(name)?.get(from.column) ?? 0,
          })),
        );
      const last = of.reduce((most, { row }) => Math.max(most, row), 0);
      for await (const some of sheet.rows) {
        for (const { row, column, at } of of) {
          const cells = rowAt(some, row);
          if (cells !== undefined) texts.set(`${name}\n${column}\n${row}`, textOf(cells[at]));
        }
        // A workbook must be read to its end before its next sheet is.
        if (sheet.from === 'csv' && lastOf(some) >= last) break;
      }
    }
  return {
    ...detection,
    relations: detection.relations.map((one) => ({
      ...one,
      misses: one.misses.map(({ row }) => ({
        row,
        text: texts.get(`${one.from.sheet}\n${one.from.column}\n${row}`) ?? '',
      })),
    })),
  };
}

const lastOf = (some: SheetRows): number =>
  some instanceof TextRows ? some.numberOf(some.count - 1) : (some.numbers.at(-1) ?? 0);

function rowAt(some: SheetRows, row: number): readonly Cell[] | undefined {
  if (some instanceof TextRows) {
    const index = row - some.numberOf(0);
    return index < 0 || index >= some.count ? undefined : some.rowAt(index);
  }
  const at = some.numbers.indexOf(row);
  return at < 0 ? undefined : some.rows[at];
}
