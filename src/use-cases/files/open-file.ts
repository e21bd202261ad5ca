import type { FileFacts } from '../../core/form/file';
import { isPhoto } from '../../core/form/file';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { objectStore } from '../../outside/object-store';
import { factsOf, pieceOf, readFile, readThumb } from '../../data/system/files';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** A file on its way out. */
export interface OpenedFile {
  readonly name: string;
  readonly type: string;
  /** Whether a browser may show it in place; anything else it saves. */
  readonly inline: boolean;
  readonly size: number;
  readonly body: AsyncGenerator<Uint8Array>;
}

/** The bytes of a file that whoever asks may see; the database decides that. */
export async function openFile(context: Context, id: string): Promise<Result<OpenedFile, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const file = await readFile(tx, id);
    if (file === null || file.state !== 'whole') return fail(notFound('file'));
    const { name, type, size, outside } = file;
    const body = outside ? fromStore(id) : piecesOf(context, id);
    return ok({ name, type, size, inline: isPhoto(type), body });
  });
}

/** The rights were asked for when it was opened. */
async function* fromStore(id: string): AsyncGenerator<Uint8Array> {
  const bytes = await objectStore()?.get(id);
  if (bytes == null) throw new Error(`file ${id} is not in the store of files`);
  yield* bytes;
}

/** Piece by piece, each under the rights of its moment, so that no connection is held while somebody reads slowly. */
async function* piecesOf(context: Context, id: string): AsyncGenerator<Uint8Array> {
  for (let piece = 0; ; piece++) {
    const read = await asPerson({ person: context.person.id }, async (tx) =>
      ok(await pieceOf(tx, id, piece)),
    );
    if (!read.ok) throw new Error('a file could not be read to its end');
    if (read.value === null) return;
    yield read.value;
  }
}

export async function openThumb(context: Context, id: string): Promise<Result<OpenedFile, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const thumb = await readThumb(tx, id);
    if (thumb === null) return fail(notFound('file'));
    return ok({
      name: 'small.webp',
      type: 'image/webp',
      size: thumb.length,
      inline: true,
      body: whole(thumb),
    });
  });
}

export async function* whole(bytes: Buffer): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** What is known of some files, as far as whoever asks may see them. */
export async function describeFiles(
  context: Context,
  ids: readonly string[],
): Promise<Result<{ files: FileFacts[] }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => ok({ files: await factsOf(tx, ids) }));
}
