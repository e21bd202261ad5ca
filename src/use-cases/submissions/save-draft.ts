import { mayForm } from '../../core/catalogue/catalogue';
import { unknownAnswers, type Answers } from '../../core/form/answers';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { sameJson } from '../../core/kernel/same-json';
import { deleteDraft, insertSubmission, readSubmission, updateDraft } from '../../data/system/submissions';
import { liveRelease, readRelease } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/**
 * Keeps what has been typed, finished or not. The browser names the submission, so the first keeping makes it
 * and a repeat changes nothing; `version` 0 says it has not been kept before.
 */
export async function saveDraft(
  context: Context,
  id: string,
  input: { form: string; version: number; answers: Answers },
): Promise<Result<{ version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const known = await readSubmission(tx, id, true);
    if (known === null) return make();
    if (known.senderId !== context.person.id) return fail(forbidden('own-only'));
    if (known.state !== 'draft' && known.state !== 'sent-back')
      return fail(stale('already-sent', { state: known.state }));
    const release = await readRelease(tx, catalogue, known.releaseId);
    const unknown = release === null ? [] : unknownAnswers(release.design, input.answers);
    if (unknown.length > 0) return fail(invalid(...unknown));
    if (known.version !== input.version) {
      // Sent again, because the answer to it was lost.
      const repeated = sameJson(known.answers, input.answers);
      return repeated
        ? ok({ version: known.version })
        : fail(stale('draft-changed', { version: known.version }));
    }
    await updateDraft(tx, id, context.now, { answers: input.answers, version: known.version + 1 });
    return ok({ version: known.version + 1 });

    async function make(): Promise<Result<{ version: number }, Refusal>> {
      const release = await liveRelease(tx, catalogue, input.form);
      if (release === null) return fail(notFound('form'));
      if (!mayForm(catalogue, context.person.id, 'fill', input.form)) return fail(forbidden('fill'));
      const unknown = unknownAnswers(release.design, input.answers);
      if (unknown.length > 0) return fail(invalid(...unknown));
      // An id that somebody else's submission has is not theirs to see, and not ours to take.
      const fresh = await insertSubmission(tx, {
        id,
        formId: input.form,
        releaseId: release.id,
        state: 'draft',
        senderId: context.person.id,
        answers: input.answers,
        createdAt: context.now,
        updatedAt: context.now,
      });
      return fresh ? ok({ version: 1 }) : fail(notFound('submission'));
    }
  });
}

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
