import type { PlayedExample } from '../../contract/rehearsals';
import type { Answers } from '../../core/form/answers';
import { isUuid } from '../../core/kernel/ids';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { rehearsalDifferences } from '../../core/wording/rehearsal-differences';
import {
  deleteExample,
  insertExample,
  readExamples,
  updateOutcome,
  type ExampleRow,
} from '../../data/system/examples';
import { asPerson } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';
import { rehearseAll } from './rehearse-form';

export interface KeptAnswers {
  readonly label: string;
  readonly as: string;
  readonly at: string | null;
  readonly answers: Answers;
}

/**
 * Keeps answers with what they come to now, to be rehearsed again before each release: under the id its maker
 * chose, so that a repeat keeps nothing twice.
 */
export async function keepExample(
  context: Context,
  form: string,
  id: string,
  { label, as, at, answers }: KeptAnswers,
): Promise<Result<{ id: string }, Refusal>> {
  if (!isUuid(id)) return fail(notFound('example'));
  const examples = await examplesOf(context, form);
  if (!examples.ok) return examples;
  const { rows, now } = examples.value;
  if (rows.some((one) => one.id === id)) return ok({ id });
  if (rows.length >= limits.examples)
    return fail(invalid(issue('too-many', ['label'], { what: 'examples', most: limits.examples })));
  // What depends on the day is to come out tomorrow as it does today.
  const moment = at ?? now;
  const told = await rehearseAll(context, form, [{ as, at: moment, answers }]);
  const outcome = told.ok ? told.value[0] : undefined;
  if (!told.ok) return told;
  if (outcome === undefined) return fail(notFound('form'));
  return asPerson({ person: context.person.id }, async (tx) => {
    await insertExample(tx, {
      id,
      formId: form,
      label,
      senderId: as,
      moment,
      answers,
      outcome,
      keptBy: context.person.id,
      createdAt: context.now,
      updatedAt: context.now,
    });
    return ok({ id });
  });
}

/** Every example as it comes out with the draft as it is. */
export async function playExamples(
  context: Context,
  form: string,
): Promise<Result<{ examples: readonly PlayedExample[] }, Refusal>> {
  const examples = await examplesOf(context, form);
  if (!examples.ok) return examples;
  const { rows } = examples.value;
  if (rows.length === 0) return ok({ examples: [] });
  const told = await rehearseAll(context, form, rows.map(asked));
  if (!told.ok) return told;
  return ok({
    examples: rows.flatMap((row, i): PlayedExample[] => {
      const now = told.value[i];
      if (now === undefined) return [];
      const { id, label, senderId, moment, answers, outcome } = row;
      const differs = rehearsalDifferences(outcome, now);
      return [{ id, label, as: senderId, at: moment, answers, differs, now }];
    }),
  });
}

/** How it comes out now is how it is meant to. */
export async function acceptExample(
  context: Context,
  form: string,
  id: string,
): Promise<Result<null, Refusal>> {
  const examples = await examplesOf(context, form);
  if (!examples.ok) return examples;
  const row = examples.value.rows.find((one) => one.id === id);
  if (row === undefined) return fail(notFound('example'));
  const told = await rehearseAll(context, form, [asked(row)]);
  if (!told.ok) return told;
  const [outcome] = told.value;
  return asPerson({ person: context.person.id }, async (tx) =>
    outcome !== undefined && (await updateOutcome(tx, form, id, outcome, context.now))
      ? ok(null)
      : fail(notFound('example')),
  );
}

export async function dropExample(
  context: Context,
  form: string,
  id: string,
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const designed = await designedForm(tx, catalogue, context, form);
    if (!designed.ok) return designed;
    return isUuid(id) && (await deleteExample(tx, form, id)) ? ok(null) : fail(notFound('example'));
  });
}

const asked = ({ senderId, moment, answers }: ExampleRow) => ({ as: senderId, at: moment, answers });

const examplesOf = (
  context: Context,
  form: string,
): Promise<Result<{ rows: ExampleRow[]; now: string }, Refusal>> =>
  asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const designed = await designedForm(tx, catalogue, context, form);
    if (!designed.ok) return designed;
    const now = localTime(catalogue.workspace, context.now);
    return ok({ rows: await readExamples(tx, form), now });
  });
