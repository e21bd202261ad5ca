import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { copiedBytes, piecesOf, type ImportRow } from '../data/system/imports';
import { asOwnerCopyingOut } from '../data/transaction';
import type { GivenFile } from '../files/sheets';

/** Lays the files of an import down where they can be read, for as long as `work` takes. */
export async function withFiles<T>({ id, personId, files }: ImportRow, work: (files: readonly GivenFile[], folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'slate-import-'));
  try {
    const given = files.map(({ name }, i) => ({ name, path: join(folder, String(i)) }));
    for (const [i, { path }] of given.entries()) await asOwnerCopyingOut({ person: personId }, piecesOf(id, i), (copied) => pipeline(copied, copiedBytes, createWriteStream(path)));
    return await work(given, folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
