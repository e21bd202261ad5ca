import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import { allowedType, fileName, type FileFacts } from '../../core/form/file';
import { allQuestions, type FilesQuestion } from '../../core/form/design';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import type { Tx } from '../../data/connect';
import {
  addPiece,
  bytesOf,
  factsOf,
  finish,
  insertFile,
  piecesCome,
  readFile,
  waitingFiles,
} from '../../data/system/files';
import { liveRelease, readRelease } from '../../data/system/forms';
import { readSubmission } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import { objectStore } from '../../outside/object-store';
import { madeReady, typeOf } from '../../files/photos';
import type { Context } from '../workspace/asking';

/** Which question a file answers: in the release that is live, or that the submission began with. */
export interface Answering {
  readonly form: string;
  readonly question: string;
  readonly submission: string | null;
}

/** Announces a file, under an id of its maker's making; announced again it is the same. Says which of its pieces have come already. */
export async function announceFile(
  context: Context,
  id: string,
  { name, size, ...answering }: Answering & { readonly name: string; readonly size: number },
): Promise<Result<{ come: readonly number[] }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    if ((await questionFor(tx, catalogue, context, answering)) === null) return fail(notFound('question'));
    if (size > limits.fileBytes) return fail({ kind: 'too-large', limitBytes: limits.fileBytes });
    const known = await readFile(tx, id);
    if (known !== null)
      return known.byId === context.person.id && (known.state === 'whole' || known.size === size)
        ? ok({ come: await piecesCome(tx, id) })
        : fail(notFound('file'));
    const waiting = await waitingFiles(tx, context.person.id);
    if (waiting.files >= limits.filesWaiting || waiting.bytes + size > limits.filesWaitingBytes)
      return fail(invalid(issue('files-waiting', [])));
    await insertFile(tx, { id, name: fileName(name), size, byId: context.person.id });
    return (await readFile(tx, id)) === null ? fail(notFound('file')) : ok({ come: [] });
  });
}

/** Keeps one piece of a file; a piece brought again replaces itself. */
export async function bringFilePiece(
  context: Context,
  id: string,
  piece: number,
  bytes: Buffer,
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const file = await readFile(tx, id);
    if (file === null || piece < 0) return fail(notFound('file'));
    // An answer that was lost on its way is asked for again when all is done already.
    if (file.state === 'whole') return ok(null);
    if (file.byId !== context.person.id) return fail(notFound('file'));
    if (piece * limits.pieceBytes + bytes.length > file.size)
      return fail(invalid(issue('malformed', ['piece'], { detail: 'more bytes than announced' })));
    await addPiece(tx, id, piece, bytes);
    return ok(null);
  });
}

/**
 * All pieces are there: what they are is told by their content, and a photo is made ready. That is done
 * between two transactions, for it takes a second, and no connection waits for it.
 */
export async function finishFile(
  context: Context,
  id: string,
  answering: Answering,
): Promise<Result<FileFacts, Refusal>> {
  const person = context.person.id;
  const come = await asPerson({ person }, async (tx, catalogue) => {
    const question = await questionFor(tx, catalogue, context, answering);
    const file = await readFile(tx, id);
    if (question === null || file === null || file.byId !== person) return fail(notFound('file'));
    if (file.state === 'whole') return ok(null);
    const bytes = await bytesOf(tx, id);
    return bytes.length === file.size
      ? ok({ bytes, what: question.what })
      : fail(invalid(issue('malformed', ['pieces'], { detail: 'not all of this file has arrived' })));
  });
  if (!come.ok) return come;
  if (come.value === null) return factsFor(context, id);
  const type = await typeOf(come.value.bytes);
  const allowed = allowedType(type, come.value.what);
  if (!allowed.ok) return fail(invalid(allowed.error));
  const ready = await madeReady(type, come.value.bytes);
  if (ready === null) return fail(invalid(issue('file-broken', [])));
  // Before anything names it, so that what is named is there; brought again it is written over.
  const store = objectStore();
  await store?.put(id, ready.bytes);
  const finished = await asPerson({ person }, async (tx) => {
    const file = await readFile(tx, id, true);
    if (file === null) return fail(notFound('file'));
    if (file.state === 'coming')
      await finish(tx, id, ready, { pieceBytes: limits.pieceBytes, outside: store !== null });
    return ok(null);
  });
  return finished.ok ? factsFor(context, id) : finished;
}

async function factsFor(context: Context, id: string): Promise<Result<FileFacts, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const [facts] = await factsOf(tx, [id]);
    return facts === undefined ? fail(notFound('file')) : ok(facts);
  });
}

/** The question, where whoever asks may answer it. */
async function questionFor(
  tx: Tx,
  catalogue: Catalogue,
  { person }: Context,
  { form, question, submission }: Answering,
): Promise<FilesQuestion | null> {
  const draft = submission === null ? null : await readSubmission(tx, submission);
  const own = draft !== null && draft.senderId === person.id;
  if (!own && !mayForm(catalogue, person.id, 'fill', form)) return null;
  const release = own
    ? await readRelease(tx, catalogue, draft.releaseId)
    : await liveRelease(tx, catalogue, form);
  if (release === null || release.formId !== form) return null;
  return (
    allQuestions(release.design).find(
      (one): one is FilesQuestion => one.id === question && one.kind === 'files',
    ) ?? null
  );
}
