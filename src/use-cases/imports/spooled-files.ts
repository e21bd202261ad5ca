import { createWriteStream, rmSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { copiedBytes, piecesOf, type ImportRow } from '../../data/system/imports';
import { asOwnerCopyingOut } from '../../data/transaction';
import type { GivenFile } from '../../files/sheets';

/** Folders of processes are named like this; one that was last written to so long ago was left by a process that was killed. */
const [PREFIX, ABANDONED] = ['slate-imports-', 24 * 3_600_000];
/** For how long the files of an import are kept after they were wanted, and of how many imports at once. */
const [KEPT, MOST] = [10 * 60_000, 2];

/** The files of one import as they were laid down, and how many are at work with them. */
interface Laid {
  readonly files: Promise<readonly GivenFile[]>;
  readonly folder: string;
  users: number;
  forget: NodeJS.Timeout | null;
}

const laid = new Map<string, Laid>();
let folder: Promise<string> | null = null;

/**
 * Lays the files of an import down where they can be read, for as long as `work` takes; it gets a folder of
 * its own for what it lays beside them. They are kept for a while, for what was read is most often tried or
 * kept soon after. The database stays where they belong: another process, or this one after a while, takes
 * them from there again.
 */
export async function withFiles<T>(
  row: ImportRow,
  work: (files: readonly GivenFile[], folder: string) => Promise<T>,
): Promise<T> {
  const one = laid.get(row.id) ?? (await lay(row));
  if (one.forget !== null) clearTimeout(one.forget);
  one.users++;
  const own = await mkdtemp(join(one.folder, 'work-'));
  try {
    return await work(await one.files, own);
  } catch (error) {
    // Whatever went wrong, the next attempt begins with what the database holds.
    laid.delete(row.id);
    throw error;
  } finally {
    await rm(own, { recursive: true, force: true });
    one.users--;
    await leave(row.id, one);
  }
}

/** The import has ended. */
export async function forgetFiles(id: string): Promise<void> {
  const one = laid.get(id);
  laid.delete(id);
  if (one !== undefined && one.users === 0) await removed(one);
}

async function lay(row: ImportRow): Promise<Laid> {
  folder ??= ownFolder();
  // Another process may have taken it for one that was left behind.
  await mkdir(await folder, { recursive: true, mode: 0o700 });
  const one = await mkdtemp(join(await folder, 'import-'));
  const now: Laid = { folder: one, files: filesIn(row, one), users: 0, forget: null };
  laid.set(row.id, now);
  const [oldest] = [...laid].filter(([, { users }]) => users === 0);
  if (laid.size > MOST && oldest !== undefined && oldest[1] !== now) await forgetFiles(oldest[0]);
  return now;
}

async function filesIn({ id, personId, files }: ImportRow, into: string): Promise<readonly GivenFile[]> {
  const given = files.map(({ name }, i) => ({ name, path: join(into, String(i)) }));
  for (const [i, { path }] of given.entries())
    await asOwnerCopyingOut({ person: personId }, piecesOf(id, i), (copied) =>
      pipeline(copied, copiedBytes, createWriteStream(path)),
    );
  return given;
}

async function leave(id: string, one: Laid): Promise<void> {
  if (one.users > 0) return;
  if (laid.get(id) !== one) return removed(one);
  one.forget = setTimeout(() => void forgetFiles(id), KEPT).unref();
}

const removed = ({ folder: path }: Laid): Promise<void> => rm(path, { recursive: true, force: true });

/** The folder of this process, which goes with it; those of processes that were killed are cleared away. */
async function ownFolder(): Promise<string> {
  const path = await mkdtemp(join(tmpdir(), PREFIX));
  process.on('exit', () => rmSync(path, { recursive: true, force: true }));
  for (const name of await readdir(tmpdir())) {
    const other = join(tmpdir(), name);
    if (!name.startsWith(PREFIX) || other === path) continue;
    const there = await stat(other).catch(() => null);
    if (there !== null && there.uid === process.getuid?.() && Date.now() - there.mtimeMs > ABANDONED)
      await rm(other, { recursive: true, force: true });
  }
  return path;
}
