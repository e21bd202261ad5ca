import { mayDesign } from '../../core/access/rules';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { noDecisions } from '../../core/import/decisions';
import type { ImportFile } from '../../core/import/import';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import type { Tx } from '../../data/connect';
import {
  addPiece,
  askImportJob,
  dropPieces,
  filesThere,
  insertImport,
  readImport,
  totalBytes,
  updateImport,
  type ImportRow,
} from '../../data/system/imports';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** Announces an import and its files; the browser names it, so that a repeat makes nothing twice. */
export async function beginImport(
  context: Context,
  { id, files }: { id: string; files: readonly ImportFile[] },
): Promise<Result<{ id: string }, Refusal>> {
  if (!mayDesign(context.person)) return fail(forbidden('design'));
  if (totalBytes(files) > limits.importBytes)
    return fail({ kind: 'too-large', limitBytes: limits.importBytes });
  return asPerson({ person: context.person.id }, async (tx) => {
    await insertImport(tx, { id, personId: context.person.id, files, decisions: noDecisions });
    const row = await readImport(tx, id);
    return row === null ? fail(notFound('import')) : ok({ id });
  });
}

/** Keeps one piece of a file; a piece brought again replaces itself. */
export async function bringPiece(
  context: Context,
  id: string,
  { file, piece, bytes }: { file: number; piece: number; bytes: Buffer },
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const row = await readImport(tx, id);
    const announced = row?.files[file];
    if (row === null || announced === undefined) return fail(notFound('import'));
    if (row.state !== 'uploading') return fail(stale('import-moved'));
    if (piece * limits.pieceBytes + bytes.length > announced.bytes)
      return fail(invalid(issue('malformed', ['piece'], { detail: 'more bytes than announced' })));
    await addPiece(tx, id, file, piece, bytes);
    return ok(null);
  });
}

/** All files are there: a job reads them. */
export async function readBrought(context: Context, id: string): Promise<Result<null, Refusal>> {
  return move(context, id, ['uploading'], async (tx, row) => {
    const there = await filesThere(tx, id);
    const missing = row.files.findIndex(
      ({ bytes }, i) => (there.find(({ file }) => file === i)?.bytes ?? 0) !== bytes,
    );
    if (missing >= 0)
      return fail(
        invalid(issue('malformed', ['files', missing], { detail: 'not all of this file has arrived' })),
      );
    await updateImport(tx, id, { state: 'reading', progress: { rows: 0, table: null } });
    await askImportJob(tx, 'read-import', id);
    return ok(null);
  });
}

/** Ends an import that has made nothing yet. A job at work on it notices and undoes what it has done. */
export async function cancelImport(context: Context, id: string): Promise<Result<null, Refusal>> {
  return move(
    context,
    id,
    ['uploading', 'reading', 'proposed', 'refused', 'trying', 'keeping', 'failed'],
    async (tx) => {
      await updateImport(tx, id, { state: 'cancelled', progress: null });
      await dropPieces(tx, id);
      return ok(null);
    },
  );
}

/** Moves an import of one's own on, while nobody else does. */
export async function move<T>(
  context: Context,
  id: string,
  from: readonly ImportRow['state'][],
  work: (tx: Tx, row: ImportRow, catalogue: Catalogue) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readImport(tx, id, true);
    if (row === null) return fail(notFound('import'));
    return from.includes(row.state) ? work(tx, row, catalogue) : fail(stale('import-moved'));
  });
}
