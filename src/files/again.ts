import { createReadStream, createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Cell, SheetRows } from '../core/import/cell';
import { csvRows } from './csv';
import { freeName, sheetsOf, type GivenFile } from './sheets';

/** Gives the rows of a sheet from the beginning, as often as they are wanted. */
export type Reopen = (sheet: string, signal?: AbortSignal) => AsyncGenerator<SheetRows>;

const BATCH = 1_000;

/**
 * Sheets by the names `profiled` gives them. CSV is streamed anew each time; the sheets of a workbook are
 * laid down once in `folder`, a row to a line.
 */
export async function reopened(
  files: readonly GivenFile[],
  folder: string,
  signal?: AbortSignal,
): Promise<Reopen> {
  const known = new Map<string, (signal?: AbortSignal) => AsyncGenerator<SheetRows>>();
  for (const file of files)
    for await (const sheet of sheetsOf(file, signal)) {
      const name = freeName(sheet.name, [...known.keys()]);
      if (sheet.from === 'csv') {
        known.set(name, (stop) => csvRows(file.path, stop));
        continue;
      }
      const path = join(folder, `sheet-${known.size}`);
      await laidDown(sheet.rows, path);
      known.set(name, () => taken(path));
    }
  return (name, stop) => known.get(name)?.(stop) ?? nothing();
}

async function* nothing(): AsyncGenerator<SheetRows> {
  // A sheet that is not there has no rows.
}

async function laidDown(rows: AsyncGenerator<SheetRows>, path: string): Promise<void> {
  const out = createWriteStream(path);
  for await (const some of rows) {
    const text = some.rows.map((row, i) => `${JSON.stringify([some.numbers[i], row])}\n`).join('');
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
}

async function* taken(path: string): AsyncGenerator<SheetRows> {
  let [numbers, rows]: [number[], (readonly Cell[])[]] = [[], []];
  for await (const line of createInterface({ input: createReadStream(path), crlfDelay: Infinity })) {
    const [number, row] = JSON.parse(line) as [number, readonly Cell[]];
    numbers.push(number);
    rows.push(row);
    if (rows.length < BATCH) continue;
    yield { numbers, rows };
    [numbers, rows] = [[], []];
  }
  if (rows.length > 0) yield { numbers, rows };
}
