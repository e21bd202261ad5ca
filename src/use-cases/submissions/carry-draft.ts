import type { Catalogue } from '../../core/catalogue/catalogue';
import type { Answers } from '../../core/form/answers';
import { carriedOver, type LeftBehind, type ShowAnswer } from '../../core/form/carry-over';
import { emptyCells, readInto, shown } from '../../core/form/cells';
import { checksIn } from '../../core/form/checks-of-tables';
import type { FormDesign } from '../../core/form/design';
import { asRecords } from '../../core/form/picked-record';
import { notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import { liveRelease, readRelease, type ReleaseRow } from '../../data/system/forms';
import { carrySubmission, readSubmission, type SubmissionRow } from '../../data/system/submissions';
import { asPerson, nowAsking } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { compiled } from './compiled-release';
import { pickedRecords } from './pick-sources';

/** The release a draft may be carried over to, and what would have no place there. */
export interface Newer {
  readonly number: number;
  /** What its releaser says is new. */
  readonly note: string;
  readonly left: readonly LeftBehind[];
}

/** Null where the draft is under the live release already, or is no draft. */
export async function newerFor(
  tx: Tx,
  catalogue: Catalogue,
  submission: SubmissionRow,
  release: ReleaseRow,
): Promise<Newer | null> {
  const live = submission.state === 'draft' ? await liveRelease(tx, catalogue, submission.formId) : null;
  if (live === null || live.id === release.id) return null;
  const { left } = await carried(tx, catalogue, submission.answers, release, live.design);
  return { number: live.number, note: live.note, left };
}

/** Goes on with a draft under the live release of its form. Asked again, because the answer was lost, it changes nothing more. */
export async function carryDraft(
  context: Context,
  id: string,
  { version }: { version: number },
): Promise<Result<{ version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const known = await readSubmission(tx, id, true);
    const release = known === null ? null : await readRelease(tx, catalogue, known.releaseId);
    if (known === null || release === null || known.senderId !== context.person.id)
      return fail(notFound('submission'));
    if (known.state !== 'draft') return fail(stale('already-sent', { state: known.state }));
    const live = await liveRelease(tx, catalogue, known.formId);
    if (live === null) return fail(notFound('release'));
    if (live.id === release.id) return ok({ version: known.version });
    if (known.version !== version) return fail(stale('draft-changed', { version: known.version }));
    const { answers } = await carried(tx, catalogue, known.answers, release, live.design);
    await carrySubmission(tx, id, { release: live.id, answers, at: context.now });
    return ok({ version: known.version + 1 });
  });
}

/** Answers as another design asks for them, with what has no place there. */
export async function carried(
  tx: Tx,
  catalogue: Catalogue,
  answers: Answers,
  from: ReleaseRow,
  to: FormDesign,
) {
  await nowAsking(tx, { release: from.id });
  const { tables } = catalogue;
  const picked = await pickedRecords(tx, compiled(catalogue, from), tables, answers);
  const records = asRecords(picked, tables);
  const show: ShowAnswer = (question, raw) => {
    const cells = emptyCells();
    readInto(cells, question, raw, records);
    return shown(question, cells.values.get(question.id) ?? null) || String(raw ?? '');
  };
  return carriedOver(from.design, to, answers, show, checksIn(to, tables));
}
