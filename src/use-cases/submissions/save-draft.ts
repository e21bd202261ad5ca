import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import { unknownAnswers, type Answers } from '../../core/form/answers';
import type { FormDesign } from '../../core/form/design';
import type { Issue } from '../../core/kernel/issue';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { sameJson } from '../../core/kernel/same-json';
import { deleteDraft, insertSubmission, readSubmission, updateDraft } from '../../data/system/submissions';
import { liveRelease, readRelease } from '../../data/system/forms';
import type { Tx } from '../../data/connect';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { mayChangeIt, recordFor } from './record-in-change';

export interface DraftInput {
  readonly form: string;
  readonly version: number;
  readonly answers: Answers;
  /** The record it changes, with how that was, as answers, when it was last looked at. */
  readonly of?: { readonly record: string; readonly base: Answers } | undefined;
}

/**
 * Keeps what has been typed, finished or not. The browser names the submission, so the first keeping makes it
 * and a repeat changes nothing; `version` 0 says it has not been kept before.
 */
export async function saveDraft(
  context: Context,
  id: string,
  input: DraftInput,
): Promise<Result<{ version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    draftSaved(tx, catalogue, context, id, input),
  );
}

/** The same within a transaction. */
export async function draftSaved(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
  input: DraftInput,
): Promise<Result<{ version: number }, Refusal>> {
  const known = await readSubmission(tx, id, true);
  if (known === null) return make();
  if (known.senderId !== context.person.id) return fail(forbidden('own-only'));
  if (known.state !== 'draft' && known.state !== 'sent-back')
    return fail(stale('already-sent', { state: known.state }));
  const release = await readRelease(tx, catalogue, known.releaseId);
  const unknown = release === null ? [] : unknownIn(release.design, input);
  if (unknown.length > 0) return fail(invalid(...unknown));
  if (known.version !== input.version) {
    // Sent again, because the answer to it was lost.
    const repeated = sameJson(known.answers, input.answers);
    return repeated
      ? ok({ version: known.version })
      : fail(stale('draft-changed', { version: known.version }));
  }
  const { answers, of } = input;
  const base = known.ofRecord !== null && of?.record === known.ofRecord ? { base: of.base } : {};
  await updateDraft(tx, id, context.now, { answers, version: known.version + 1, ...base });
  return ok({ version: known.version + 1 });

  async function make(): Promise<Result<{ version: number }, Refusal>> {
    const release = await liveRelease(tx, catalogue, input.form);
    if (release === null) return fail(notFound('form'));
    if (!mayForm(catalogue, context.person.id, 'fill', input.form)) return fail(forbidden('fill'));
    const { of } = input;
    if (of !== undefined) {
      const changed = { id: input.form, design: release.design, record: of.record };
      if (!(await mayChangeIt(tx, catalogue, context.person.id, changed)))
        return fail(forbidden('change-by-form'));
      const record = await recordFor(tx, catalogue, release.design, of.record);
      if (record === null || record.removed) return fail(notFound('record'));
    }
    const unknown = unknownIn(release.design, input);
    if (unknown.length > 0) return fail(invalid(...unknown));
    // An id that somebody else's submission has is not theirs to see, and not ours to take.
    const fresh = await insertSubmission(tx, {
      id,
      formId: input.form,
      releaseId: release.id,
      state: 'draft',
      senderId: context.person.id,
      answers: input.answers,
      ofRecord: of?.record ?? null,
      base: of?.base ?? null,
      createdAt: context.now,
      updatedAt: context.now,
    });
    return fresh ? ok({ version: 1 }) : fail(notFound('submission'));
  }
}

const unknownIn = (design: FormDesign, { answers, of }: DraftInput): Issue[] => [
  ...unknownAnswers(design, answers),
  ...(of === undefined ? [] : unknownAnswers(design, of.base)),
];

/** Throws a draft away; what has been sent stays. */
export async function dropDraft(context: Context, id: string): Promise<Result<{ dropped: true }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const known = await readSubmission(tx, id, true);
    if (known === null || known.senderId !== context.person.id) return fail(notFound('submission'));
    return (await deleteDraft(tx, id))
      ? ok({ dropped: true as const })
      : fail(stale('already-sent', { state: known.state }));
  });
}
