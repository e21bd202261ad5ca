import { asc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { ImportFile, ImportProgress } from '../../core/import/import';
import { isUuid } from '../../core/kernel/ids';
import type { Tx } from '../connect';
import { importPiece, tableImport } from './schema';

export type ImportRow = typeof tableImport.$inferSelect;
type Change = Partial<
  Pick<
    ImportRow,
    | 'state'
    | 'files'
    | 'detection'
    | 'samples'
    | 'decisions'
    | 'progress'
    | 'fault'
    | 'result'
    | 'trial'
    | 'refusedRows'
  >
>;

export async function insertImport(
  tx: Tx,
  row: Pick<ImportRow, 'id' | 'personId' | 'files' | 'decisions'>,
): Promise<void> {
  await tx
    .insert(tableImport)
    .values({ ...row, state: 'uploading' })
    .onConflictDoNothing();
}

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readImport(tx: Tx, id: string, lock = false): Promise<ImportRow | null> {
  const query = tx.select().from(tableImport).where(eq(tableImport.id, id));
  const rows = await (lock ? query.for('update') : query);
  return rows[0] ?? null;
}

export async function listImports(
  tx: Tx,
  person: string,
  most: number,
): Promise<Pick<ImportRow, 'id' | 'state' | 'files' | 'result' | 'updatedAt'>[]> {
  return tx
    .select({
      id: tableImport.id,
      state: tableImport.state,
      files: tableImport.files,
      result: tableImport.result,
      updatedAt: tableImport.updatedAt,
    })
    .from(tableImport)
    .where(eq(tableImport.personId, person))
    .orderBy(sql`${tableImport.updatedAt} DESC`)
    .limit(most);
}

export async function updateImport(tx: Tx, id: string, change: Change): Promise<void> {
  await tx
    .update(tableImport)
    .set({ ...change, updatedAt: sql`now()`, version: sql`${tableImport.version} + 1` })
    .where(eq(tableImport.id, id));
}

/** Told often, so it leaves the version alone. */
export async function noteProgress(tx: Tx, id: string, progress: ImportProgress): Promise<void> {
  await tx.update(tableImport).set({ progress }).where(eq(tableImport.id, id));
}

export async function addPiece(
  tx: Tx,
  importId: string,
  file: number,
  piece: number,
  bytes: Buffer,
): Promise<void> {
  await tx
    .insert(importPiece)
    .values({ importId, file, piece, bytes })
    .onConflictDoUpdate({
      target: [importPiece.importId, importPiece.file, importPiece.piece],
      set: { bytes },
    });
}

/** The pieces of one file in order, for COPY: a piece by itself would come as text, twice as long. */
export function piecesOf(importId: string, file: number): SQL {
  // COPY takes no parameters.
  if (!isUuid(importId) || !Number.isSafeInteger(file))
    throw new Error('a file of an import is named by a UUID and a number');
  return sql`COPY (SELECT bytes FROM slate.import_piece WHERE import_id = ${sql.raw(`'${importId}'`)}::uuid AND file = ${sql.raw(String(file))} ORDER BY piece) TO STDOUT (FORMAT binary)`;
}

/** What stands before the first row of a binary COPY, and before the value in a row of one column: how many columns, and how long it is. */
const [BEGINNING, BEFORE_VALUE] = [19, 6];

/** The values of the only column of a binary COPY, one after the other, wherever the pieces it comes in end. */
export async function* copiedBytes(copied: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let [skip, left] = [BEGINNING, 0];
  let rest: Buffer = Buffer.alloc(0);
  for await (const piece of copied) {
    rest = rest.length === 0 ? piece : Buffer.concat([rest, piece]);
    while (rest.length > 0) {
      if (left > 0) {
        yield rest.subarray(0, left);
        const taken = Math.min(left, rest.length);
        [left, rest] = [left - taken, rest.subarray(taken)];
        continue;
      }
      if (rest.length < skip + BEFORE_VALUE) break;
      [left, rest, skip] = [rest.readInt32BE(skip + 2), rest.subarray(skip + BEFORE_VALUE), 0];
    }
  }
}

export async function filesThere(tx: Tx, importId: string): Promise<{ file: number; bytes: number }[]> {
  return tx
    .select({ file: importPiece.file, bytes: sql<number>`sum(length(${importPiece.bytes}))::float8` })
    .from(importPiece)
    .where(eq(importPiece.importId, importId))
    .groupBy(importPiece.file)
    .orderBy(asc(importPiece.file));
}

export async function dropPieces(tx: Tx, importId: string): Promise<void> {
  await tx.delete(importPiece).where(eq(importPiece.importId, importId));
}

/** Of imports that have ended, whose process was killed before it could tidy up. */
export async function dropEndedPieces(tx: Tx): Promise<void> {
  await tx
    .delete(importPiece)
    .where(
      sql`${importPiece.importId} IN (SELECT id FROM ${tableImport} WHERE ${inArray(tableImport.state, ['kept', 'failed', 'cancelled'])})`,
    );
}

export async function askImportJob(
  tx: Tx,
  task: 'read-import' | 'try-import' | 'keep-import',
  id: string,
): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_import_job(${task}, ${id}::uuid)`);
}

/** Imports a job ought to be at work on. */
export async function workingImports(tx: Tx): Promise<Pick<ImportRow, 'id' | 'state'>[]> {
  return tx
    .select({ id: tableImport.id, state: tableImport.state })
    .from(tableImport)
    .where(inArray(tableImport.state, ['reading', 'trying', 'keeping']));
}

export const totalBytes = (files: readonly ImportFile[]): number =>
  files.reduce((sum, { bytes }) => sum + bytes, 0);

/** A job that is begun again while the first is still at it waits until that has ended. */
export async function oneImportAtATime(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtext('slate import'), hashtext(${id}))`);
}
