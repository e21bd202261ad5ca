import type { PastSubmission } from '../../contract/rehearsals';
import type { SheetData } from '../../contract/sheet-from-server';
import { noAnswers, type Answers } from '../../core/form/answers';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Catalogue } from '../../core/catalogue/catalogue';
import type { FormDesign } from '../../core/form/design';
import type { Tx } from '../../data/connect';
import { readRelease } from '../../data/system/forms';
import { readSubmission } from '../../data/system/submissions';
import { sentOf } from '../../data/system/submission-lists';
import { asPerson } from '../../data/transaction';
import { carried } from '../submissions/carry-draft';
import { sheetData } from '../submissions/open-sheet';
import type { Context } from '../workspace/asking';
import { draftRelease, rehearsing } from './draft-release';
import { designedForm } from './edit-form';

export interface Beginning {
  readonly as: string;
  readonly at: string | null;
  /** A submission whose answers are taken. */
  readonly of: string | null;
  /** Those it is gone on with, after the design was edited. */
  readonly answers: Answers | null;
}

/** The draft of a form as a colleague would fill it, at a moment, to be filled without anything being kept. */
export async function openRehearsal(
  context: Context,
  id: string,
  { as, at, of, answers: typed }: Beginning,
): Promise<Result<SheetData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const draft = await draftRelease(tx, catalogue, context, id);
    if (!draft.ok) return draft;
    const { form, release } = draft.value;
    const asked = rehearsing(catalogue, context, { as, at });
    if (!asked.ok) return asked;
    const answers =
      of === null
        ? ok(typed ?? noAnswers)
        : await answersOf(tx, catalogue, { submission: of, form: id }, form.design);
    if (!answers.ok) return answers;
    const opened = {
      formKey: form.key,
      release,
      answers: answers.value,
      submission: null,
      record: null,
    };
    return ok({ ...(await sheetData(tx, catalogue, asked.value, opened)), rehearsal: true });
  });
}

/** What was sent, as the draft asks for it. */
async function answersOf(
  tx: Tx,
  catalogue: Catalogue,
  { submission, form }: { submission: string; form: string },
  to: FormDesign,
): Promise<Result<Answers, Refusal>> {
  const row = await readSubmission(tx, submission);
  const from = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
  if (row === null || from === null || row.formId !== form) return fail(notFound('submission'));
  return ok((await carried(tx, catalogue, row.sentAnswers ?? row.answers, from, to)).answers);
}

/** Submissions that can be rehearsed again: those sent lately, as far as whoever asks may see them. */
const MOST_PAST = 40;

export async function pastSubmissions(
  context: Context,
  id: string,
): Promise<Result<{ submissions: readonly PastSubmission[] }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const rows = await sentOf(tx, id, MOST_PAST);
    return ok({
      submissions: rows.map(({ id: submission, number, senderName, state, sentAt }) => ({
        id: submission,
        number: number ?? '',
        sender: senderName,
        state,
        at: sentAt?.toISOString() ?? '',
      })),
    });
  });
}
