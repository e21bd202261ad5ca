import { createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import { csvRows } from './csv';
import { RefusedFile } from './refused-file';
import type { GivenFile } from './sheets';
import { DESCRIPTOR, fused } from './take-out';
import { unpackedSafely } from './xlsx';

/** The descriptor of a Data Package, if that is what was brought: whatever stands in it. Undefined for anything else. */
export async function descriptorIn(files: readonly GivenFile[], signal?: AbortSignal): Promise<unknown> {
  for (const file of files) {
    if (!(await isArchive(file)) || !(await unpackedSafely(file.path, signal)).has(DESCRIPTOR)) continue;
    if (files.length > 1) throw new RefusedFile('package-alone');
    return jsonOf(await textIn(file.path, DESCRIPTOR));
  }
  return undefined;
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

async function textIn(path: string, wanted: string): Promise<string> {
  const pieces: Buffer[] = [];
  const zip = await yauzl.openPromise(path, { autoClose: false });
  try {
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName === wanted)
        for await (const piece of await zip.openReadStreamPromise(entry)) pieces.push(piece as Buffer);
    }
  } finally {
    zip.close();
  }
  return Buffer.concat(pieces).toString('utf8');
}

/** Rows of one resource: its headings first, then cells, null where nothing stands. */
export type ResourceRows = (path: string) => AsyncGenerator<(string | null)[][]>;

/** Lays the resources down in `folder`, and gives their rows as often as they are wanted. */
export async function unpacked(
  [file]: readonly GivenFile[],
  paths: readonly string[],
  folder: string,
): Promise<ResourceRows> {
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
  for await (const { rows } of csvRows(place, undefined, ','))
    yield rows
      .filter((row) => row.length > 1 || row[0] !== '')
      .map((row) => row.map((cell) => (cell === '' ? null : fused(String(cell)))));
}
