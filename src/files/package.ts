import { createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import type { PackagedTable } from '../core/import/detection';
import { packageDescriptor } from '../contract/data-package';
import { csvRows } from './csv';
import { RefusedFile } from './refused-file';
import type { GivenFile } from './sheets';
import { DESCRIPTOR, fused } from './take-out';
import { unpackedSafely } from './xlsx';

/** The tables of a Data Package of ours, if that is what was brought; null for anything else. */
export async function packagedIn(files: readonly GivenFile[], signal?: AbortSignal): Promise<PackagedTable[] | null> {
  for (const file of files) {
    if (!(await isArchive(file)) || !(await unpackedSafely(file.path, signal)).has(DESCRIPTOR)) continue;
    if (files.length > 1) throw new RefusedFile('package-alone');
    const text = (await textsIn(file.path, [DESCRIPTOR])).get(DESCRIPTOR) ?? '';
    const read = packageDescriptor.safeParse(jsonOf(text));
    if (!read.success) throw new RefusedFile('broken-package');
    return read.data.resources.map(({ slateTable, path }) => ({ table: slateTable, path }));
  }
  return null;
}

async function isArchive({ path }: GivenFile): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer } = await file.read(Buffer.alloc(4), 0, 4, 0);
    return buffer.equals(Buffer.from('PK\u0003\u0004'));
  } finally {
    await file.close();
  }
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

async function textsIn(path: string, wanted: readonly string[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const zip = await yauzl.openPromise(path, { autoClose: false });
  try {
    for await (const entry of zip.eachEntry()) {
      if (!wanted.includes(entry.fileName)) continue;
      const pieces: Buffer[] = [];
      for await (const piece of await zip.openReadStreamPromise(entry)) pieces.push(piece as Buffer);
      found.set(entry.fileName, Buffer.concat(pieces).toString('utf8'));
    }
  } finally {
    zip.close();
  }
  return found;
}

/** Rows of one resource: its headings first, then cells, null where nothing stands. */
export type ResourceRows = (path: string) => AsyncGenerator<(string | null)[][]>;

/** Lays the resources down in `folder`, and gives their rows as often as they are wanted. */
export async function unpacked([file]: readonly GivenFile[], paths: readonly string[], folder: string): Promise<ResourceRows> {
  const places = new Map<string, string>();
  const zip = await yauzl.openPromise(file?.path ?? '', { autoClose: false });
  try {
    for await (const entry of zip.eachEntry()) {
      if (!paths.includes(entry.fileName)) continue;
      const place = join(folder, `resource-${places.size}`);
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(place));
      places.set(entry.fileName, place);
    }
  } finally {
    zip.close();
  }
  return (path) => rowsIn(places.get(path));
}

async function* rowsIn(place: string | undefined): AsyncGenerator<(string | null)[][]> {
  if (place === undefined) throw new RefusedFile('broken-package');
  for await (const { rows } of csvRows(place, undefined, ',')) yield rows.filter((row) => row.length > 1 || row[0] !== '').map((row) => row.map((cell) => (cell === '' ? null : fused(String(cell)))));
}
