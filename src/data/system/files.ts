import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { FileFacts } from '../../core/form/file';
import type { Tx } from '../connect';
import { fileGone, filePiece, storedFile } from './schema';

export type FileRow = Omit<typeof storedFile.$inferSelect, 'thumb' | 'visit'>;
const { thumb, ...columns } = {
  id: storedFile.id,
  name: storedFile.name,
  type: storedFile.type,
  size: storedFile.size,
  width: storedFile.width,
  height: storedFile.height,
  outside: storedFile.outside,
  state: storedFile.state,
  byId: storedFile.byId,
  submissionId: storedFile.submissionId,
  tableId: storedFile.tableId,
  recordId: storedFile.recordId,
  createdAt: storedFile.createdAt,
  updatedAt: storedFile.updatedAt,
  thumb: storedFile.thumb,
};

/** A file that whoever asks may see; with `lock`, nobody else finishes it meanwhile. */
export async function readFile(tx: Tx, id: string, lock = false): Promise<FileRow | null> {
  const query = tx.select(columns).from(storedFile).where(eq(storedFile.id, id));
  const rows = await (lock ? query.for('update') : query);
  return rows[0] ?? null;
}

export async function readThumb(tx: Tx, id: string): Promise<Buffer | null> {
  const rows = await tx.select({ thumb }).from(storedFile).where(eq(storedFile.id, id));
  return rows[0]?.thumb ?? null;
}

/** What is known of those of these files that are there as a whole and may be seen. */
export const factsOf = (tx: Tx, ids: readonly string[]): Promise<FileFacts[]> =>
  tx
    .select({
      id: storedFile.id,
      name: storedFile.name,
      type: storedFile.type,
      size: storedFile.size,
      hasThumb: sql<boolean>`${storedFile.thumb} IS NOT NULL`,
    })
    .from(storedFile)
    .where(and(inArray(storedFile.id, [...ids]), eq(storedFile.state, 'whole')));

/** How much somebody has brought that belongs to nothing yet. */
export async function waitingFiles(tx: Tx, person: string): Promise<{ files: number; bytes: number }> {
  const rows = await tx
    .select({
      files: sql<number>`count(*)::int`,
      bytes: sql<number>`coalesce(sum(${storedFile.size}), 0)::float8`,
    })
    .from(storedFile)
    .where(and(eq(storedFile.byId, person), isNull(storedFile.recordId), isNull(storedFile.submissionId)));
  return rows[0] ?? { files: 0, bytes: 0 };
}

/** Announces a file; one that is announced again is left as it is. */
export async function insertFile(
  tx: Tx,
  file: { id: string; name: string; size: number; byId: string },
): Promise<void> {
  await tx.insert(storedFile).values(file).onConflictDoNothing();
}

/** The pieces of a file that have come, by their places from 0. */
export async function piecesCome(tx: Tx, fileId: string): Promise<number[]> {
  const rows = await tx
    .select({ piece: filePiece.piece })
    .from(filePiece)
    .where(eq(filePiece.fileId, fileId))
    .orderBy(asc(filePiece.piece));
  return rows.map(({ piece }) => piece);
}

/** A piece that comes again replaces itself. */
export async function addPiece(tx: Tx, fileId: string, piece: number, bytes: Buffer): Promise<void> {
  await tx
    .insert(filePiece)
    .values({ fileId, piece, bytes })
    .onConflictDoUpdate({ target: [filePiece.fileId, filePiece.piece], set: { bytes } });
}

/** The bytes of a file as far as they have come. */
export async function bytesOf(tx: Tx, fileId: string): Promise<Buffer> {
  const rows = await tx
    .select({ bytes: filePiece.bytes })
    .from(filePiece)
    .where(eq(filePiece.fileId, fileId))
    .orderBy(asc(filePiece.piece));
  return Buffer.concat(rows.map(({ bytes }) => bytes));
}

export async function pieceOf(tx: Tx, fileId: string, piece: number): Promise<Buffer | null> {
  const rows = await tx
    .select({ bytes: filePiece.bytes })
    .from(filePiece)
    .where(and(eq(filePiece.fileId, fileId), eq(filePiece.piece, piece)));
  return rows[0]?.bytes ?? null;
}

interface Finished {
  readonly type: string;
  readonly bytes: Buffer;
  readonly width: number | null;
  readonly height: number | null;
  readonly thumb: Buffer | null;
}

/** Names of objects that are to be taken out of the store beside the database, some at a time. */
export async function filesGone(tx: Tx, most: number): Promise<string[]> {
  const rows = await tx.select({ id: fileGone.id }).from(fileGone).orderBy(asc(fileGone.at)).limit(most);
  return rows.map(({ id }) => id);
}

export async function forgetGone(tx: Tx, ids: readonly string[]): Promise<void> {
  await tx.delete(fileGone).where(inArray(fileGone.id, [...ids]));
}

/** Keeps a file as it was made of what came, in place of that; `outside`: its bytes are in the store beside the database already. */
export async function finish(
  tx: Tx,
  id: string,
  made: Finished,
  { pieceBytes, outside }: { readonly pieceBytes: number; readonly outside: boolean },
): Promise<void> {
  await tx.delete(filePiece).where(eq(filePiece.fileId, id));
  for (let piece = 0; !outside && piece * pieceBytes < made.bytes.length; piece++)
    await addPiece(tx, id, piece, made.bytes.subarray(piece * pieceBytes, (piece + 1) * pieceBytes));
  const { type, width, height, thumb: small } = made;
  await tx
    .update(storedFile)
    .set({
      type,
      size: made.bytes.length,
      width,
      height,
      thumb: small,
      outside,
      state: 'whole',
      updatedAt: new Date(),
    })
    .where(eq(storedFile.id, id));
}

/** Lets files go with a submission; gives those that could not. */
export async function sendFiles(tx: Tx, submission: string, ids: readonly string[]): Promise<string[]> {
  const { rows } = await tx.execute<{ lost: string[] }>(
    sql`SELECT slate.send_files(${submission}::uuid, ${sql.param([...ids])}::uuid[]) AS lost`,
  );
  return rows[0]?.lost ?? [];
}

/** Keeps files in a record; gives those that could not. */
export async function keepFiles(
  tx: Tx,
  table: string,
  record: string,
  ids: readonly string[],
): Promise<string[]> {
  const { rows } = await tx.execute<{ lost: string[] }>(
    sql`SELECT slate.keep_files(${table}::uuid, ${record}::uuid, ${sql.param([...ids])}::uuid[]) AS lost`,
  );
  return rows[0]?.lost ?? [];
}
