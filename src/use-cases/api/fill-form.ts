import { formByKey, mayForm } from '../../core/catalogue/catalogue';
import { allQuestions, type FormDesign } from '../../core/form/design';
import { answersFromJson, placeByKeys } from '../../core/form/answers-json';
import type { Answers } from '../../core/form/answers';
import type { Issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { liveRelease } from '../../data/system/forms';
import { readEvents, readSubmission } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import { dropDraft, saveDraft } from '../submissions/save-draft';
import { sendSubmission } from '../submissions/send-submission';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { requestKey } from './request-key';

/** How a submission stands, to a program. */
export interface SubmissionState {
  readonly id: string;
  readonly number: string | null;
  readonly state: string;
  readonly version: number;
  /** The record it became, by its id, once it is kept. */
  readonly record: string | null;
  readonly last_word: string | null;
}

interface Filling {
  /** Names the request; the submission is named by it too, so that a repeat makes nothing twice. */
  readonly key: string;
  readonly answers: Readonly<Record<string, unknown>>;
  readonly reasons: Readonly<Record<string, string>>;
  readonly draft: boolean;
}

/**
 * Fills a form: sends it, or sets it aside as a draft. Where it cannot be sent, the draft goes too: nothing
 * is left behind that a program does not know of.
 */
export async function fillForm(
  context: Context,
  formKey: string,
  filling: Filling,
): Promise<Result<SubmissionState, Refusal>> {
  const read = await readAnswers(context, formKey, filling);
  if (!read.ok) return read;
  const { form, design, answers } = read.value;
  const id = requestKey(filling.key, 'submission');
  const known = await submissionState(context, id);
  if (known.ok && known.value.state !== 'draft') return known;
  const kept = await saveDraft(context, id, { form, version: known.ok ? known.value.version : 0, answers });
  if (!kept.ok) return fail(placed(kept.error, design, answers));
  if (!filling.draft) {
    const sent = await sendSubmission(context, id, { key: id, version: kept.value.version });
    if (!sent.ok) {
      if (!known.ok) await dropDraft(context, id);
      return fail(placed(sent.error, design, answers));
    }
  }
  return submissionState(context, id);
}

function readAnswers(
  context: Context,
  formKey: string,
  { key, answers, reasons }: Filling,
): Promise<Result<{ form: string; design: FormDesign; answers: Answers }, Refusal>> {
  const { person } = context;
  return asPerson({ person: person.id }, async (tx, catalogue) => {
    const form = formByKey(catalogue, formKey);
    const release =
      form !== undefined && mayForm(catalogue, person.id, 'fill', form.id)
        ? await liveRelease(tx, catalogue, form.id)
        : null;
    if (form === undefined || release === null) return fail(notFound('form'));
    // Rows have the same ids each time, so that the same request is the same answers.
    let rows = 0;
    const read = answersFromJson(release.design, answers, reasons, () => `r${rows++}`);
    if (!read.ok)
      return fail(invalid(...read.error.map((one): Issue => ({ ...one, path: ['answers', ...one.path] }))));
    const said = { operation: 'api-fill', of: formKey, said: { answers, reasons } };
    const claimed = await once(tx, context, requestKey(key, 'fill'), said, async () => ok(null));
    return claimed.ok ? ok({ form: form.id, design: release.design, answers: read.value }) : claimed;
  });
}

/** What is wrong with an answer, at the place it was sent at; what is about the path of it all stays as it is. */
function placed(refusal: Refusal, design: FormDesign, answers: Answers): Refusal {
  if (refusal.kind !== 'invalid') return refusal;
  const asked = new Set<string | number>(allQuestions(design).map(({ id }) => id));
  return invalid(
    ...refusal.issues.map((one): Issue =>
      asked.has(one.path[0] ?? '')
        ? { ...one, path: ['answers', ...placeByKeys(design, answers, one.path)] }
        : one,
    ),
  );
}

/** How a submission stands; to its sender, within the forms of the token. */
export function submissionState({ person }: Context, id: string): Promise<Result<SubmissionState, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    const row = await readSubmission(tx, id);
    if (row === null) return fail(notFound('submission'));
    const said = (await readEvents(tx, id)).filter(({ word }) => word !== '').at(-1);
    return ok({
      id,
      number: row.number,
      state: row.state,
      version: row.version,
      record: row.recordId,
      last_word: said?.word ?? null,
    });
  });
}
