import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { ImportFile, ImportProgress } from '../../core/import/import';
import type { Tx } from '../connect';
import { importPiece, tableImport } from './schema';

export type ImportRow = typeof tableImport.$inferSelect;
type Change = Partial<Pick<ImportRow, 'state' | 'files' | 'detection' | 'samples' | 'decisions' | 'progress' | 'fault' | 'result' | 'trial' | 'refusedRows'>>;

export async function insertImport(tx: Tx, row: Pick<ImportRow, 'id' | 'personId' | 'files' | 'decisions'>): Promise<void> {
  await tx.insert(tableImport).values({ ...row, state: 'uploading' }).onConflictDoNothing();
}

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readImport(tx: Tx, id: string, lock = false): Promise<ImportRow | null> {
  const query = tx.select().from(tableImport).where(eq(tableImport.id, id));
  const rows = await (lock ? query.for('update') : query);
  return rows[0] ?? null;
}

export async function listImports(tx: Tx, person: string, most: number): Promise<Pick<ImportRow, 'id' | 'state' | 'files' | 'result' | 'updatedAt'>[]> {
  return tx.select({ id: tableImport.id, state: tableImport.state, files: tableImport.files, result: tableImport.result, updatedAt: tableImport.updatedAt }).from(tableImport)
    .where(eq(tableImport.personId, person)).orderBy(sql`${tableImport.updatedAt} DESC`).limit(most);
}

export async function updateImport(tx: Tx, id: string, change: Change): Promise<void> {
  await tx.update(tableImport).set({ ...change, updatedAt: sql`now()`, version: sql`${tableImport.version} + 1` }).where(eq(tableImport.id, id));
}

/** Told often, so it leaves the version alone. */
export async function noteProgress(tx: Tx, id: string, progress: ImportProgress): Promise<void> {
  await tx.update(tableImport).set({ progress }).where(eq(tableImport.id, id));
}

export async function addPiece(tx: Tx, importId: string, file: number, piece: number, bytes: Buffer): Promise<void> {
  await tx.insert(importPiece).values({ importId, file, piece, bytes }).onConflictDoUpdate({ target: [importPiece.importId, importPiece.file, importPiece.piece], set: { bytes } });
}

/** The pieces of one file in order, one query each, so that memory holds one. */
export async function* piecesOf(tx: Tx, importId: string, file: number): AsyncGenerator<Buffer> {
  const which = and(eq(importPiece.importId, importId), eq(importPiece.file, file));
  const numbers = await tx.select({ piece: importPiece.piece }).from(importPiece).where(which).orderBy(asc(importPiece.piece));
  for (const { piece } of numbers) {
    const rows = await tx.select({ bytes: importPiece.bytes }).from(importPiece).where(and(which, eq(importPiece.piece, piece)));
    if (rows[0] !== undefined) yield rows[0].bytes;
  }
}

export async function filesThere(tx: Tx, importId: string): Promise<{ file: number; bytes: number }[]> {
  return tx.select({ file: importPiece.file, bytes: sql<number>`sum(length(${importPiece.bytes}))::float8` }).from(importPiece).where(eq(importPiece.importId, importId)).groupBy(importPiece.file).orderBy(asc(importPiece.file));
}

export async function dropPieces(tx: Tx, importId: string): Promise<void> {
  await tx.delete(importPiece).where(eq(importPiece.importId, importId));
}

/** Of imports that have ended, whose process was killed before it could tidy up. */
export async function dropEndedPieces(tx: Tx): Promise<void> {
  await tx.delete(importPiece).where(sql`${importPiece.importId} IN (SELECT id FROM ${tableImport} WHERE ${inArray(tableImport.state, ['kept', 'failed', 'cancelled'])})`);
}

export async function askImportJob(tx: Tx, task: 'read-import' | 'try-import' | 'keep-import', id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_import_job(${task}, ${id}::uuid)`);
}

/** Imports a job ought to be at work on. */
export async function workingImports(tx: Tx): Promise<Pick<ImportRow, 'id' | 'state'>[]> {
  return tx.select({ id: tableImport.id, state: tableImport.state }).from(tableImport).where(inArray(tableImport.state, ['reading', 'trying', 'keeping']));
}

export const totalBytes = (files: readonly ImportFile[]): number => files.reduce((sum, { bytes }) => sum + bytes, 0);

/** A job that is begun again while the first is still at it waits until that has ended. */
export async function oneImportAtATime(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(hashtext('slate import'), hashtext(${id}))`);
}
