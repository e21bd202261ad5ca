import { formByKey, mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import type { KnownPerson } from '../../core/expression/person';
import type { SheetData, SubmissionData } from '../../contract/answers-from-server';
import { noAnswers, type Answers } from '../../core/form/answers';
import { defaultAnswers } from '../../core/form/defaults';
import { worldAt } from '../../core/workspace';
import { fieldsOfForm, isTyped, type FormDesign } from '../../core/form/design';
import { fail, ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { tablesOf } from '../../core/storage/tables-of';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { deviceKey } from '../../data/secret';
import { liveRelease, readRelease, type ReleaseRow } from '../../data/system/forms';
import { linksAmong } from '../../data/system/links';
import { openAsks, readEvents, readSubmission, type SubmissionRow } from '../../data/system/submissions';
import { asPerson, nowAsking } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { newerFor } from './carry-draft';
import { compiled } from './compiled-release';
import { pickedRecords } from './pick-sources';

/** The live release of a form, ready to be filled for the first time; `after` is the submission that whoever fills it has just sent. */
export async function openNewSheet(
  context: Context,
  formKey: string,
  after: string | null = null,
): Promise<Result<SheetData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = formByKey(catalogue, formKey);
    const release = form === undefined ? null : await liveRelease(tx, catalogue, form.id);
    if (release === null || !mayForm(catalogue, context.person.id, 'fill', release.formId))
      return fail(notFound('form'));
    const sent = after === null ? null : await readSubmission(tx, after);
    const before = sent?.senderId === context.person.id && sent.formId === release.formId ? sent : null;
    const answers = before === null ? noAnswers : answersAgain(release.design, before.answers);
    const data = await sheetData(tx, catalogue, context, { formKey, release, answers, submission: null });
    return ok({ ...data, after: before?.number ?? null });
  });
}

/** What stays for the next sheet. A file belongs to the one it was brought to. */
const answersAgain = (design: FormDesign, { values }: Answers): Answers => ({
  ...noAnswers,
  values: Object.fromEntries(
    fieldsOfForm(design)
      .filter((one) => one.again === true && one.kind !== 'files' && isTyped(one))
      .flatMap(({ id }) => (values[id] === undefined ? [] : [[id, values[id]]])),
  ),
});

/** A submission, to its sender, to those asked about it, and to the owner of its form; to nobody else. */
export async function openSubmission(context: Context, id: string): Promise<Result<SheetData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const submission = await readSubmission(tx, id);
    const release = submission === null ? null : await readRelease(tx, catalogue, submission.releaseId);
    const form = catalogue.forms.get(release?.formId ?? '');
    if (submission === null || release === null || form === undefined) return fail(notFound('submission'));
    return ok(
      await sheetData(tx, catalogue, context, {
        formKey: form.key,
        release,
        answers: submission.answers,
        submission,
      }),
    );
  });
}

interface Opened {
  readonly formKey: string;
  readonly release: ReleaseRow;
  readonly answers: Answers;
  readonly submission: SubmissionRow | null;
}

async function sheetData(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { formKey, release, answers, submission }: Opened,
): Promise<SheetData> {
  await nowAsking(tx, { release: release.id });
  const { tables, workspace } = catalogue;
  const now = localTime(workspace, context.now);
  const form = compiled(catalogue, release);
  const everybody = [...catalogue.people.values()];
  const sender = knownPerson(catalogue.people.get(submission?.senderId ?? '') ?? context.person);
  const defaults = defaultAnswers(release.design, tables, worldAt(workspace, now, sender));
  const people = everybody.map(({ id, name, place }) => ({ id, name, place }));
  const named = new Set([
    ...release.design.steps.flatMap((step) => step.people),
    context.person.id,
    submission?.senderId ?? context.person.id,
  ]);
  const shown = submission === null ? answers : answersFor(context, submission);
  return {
    formId: release.formId,
    formKey,
    design: release.design,
    answers:
      submission === null
        ? { ...defaults.answers, values: { ...defaults.answers.values, ...answers.values } }
        : shown,
    rowDefaults: defaults.rows,
    now,
    workspace,
    tables: [...tables.values()].filter(({ id }) => form.columnsRead.has(id) || isPicked(release.design, id)),
    picked: await pickedRecords(tx, form, tables, shown, submission?.earlierAnswers ?? null),
    people: people.filter(({ id }) => named.has(id)),
    sender,
    asking: { id: context.person.id, name: context.person.name, place: context.person.place },
    deviceKey: deviceKey(context.person.id),
    silent: await silentSources(tx, release.design, tables),
    submission: submission === null ? null : await submissionData(tx, context, submission, people),
    after: null,
    newer:
      submission?.senderId === context.person.id ? await newerFor(tx, catalogue, submission, release) : null,
  };
}

/** What has not been sent is its sender's alone: others see what was sent last. */
const answersFor = (context: Context, { senderId, state, answers, sentAnswers }: SubmissionRow): Answers =>
  senderId !== context.person.id && state === 'sent-back' && sentAnswers !== null ? sentAnswers : answers;

async function silentSources(
  tx: Tx,
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
): Promise<string[]> {
  const outside = tablesOf(design).filter(({ id }) => tables.get(id)?.linked != null);
  if (outside.length === 0) return [];
  const linked = await linksAmong(
    tx,
    outside.map(({ id }) => id),
  );
  const silent = linked.filter(({ source }) => (source.silentUntil?.getTime() ?? 0) > Date.now());
  return [...new Set(silent.map(({ source }) => source.label))];
}

const knownPerson = ({ id, name, place, email }: KnownPerson): KnownPerson => ({ id, name, place, email });

async function submissionData(
  tx: Tx,
  context: Context,
  row: SubmissionRow,
  people: SheetData['people'],
): Promise<SubmissionData> {
  const asked = await openAsks(tx, row.id);
  const name = (id: string) =>
    people.find((one) => one.id === id) ?? { id, name: 'Somebody no longer here', place: '' };
  const events = await readEvents(tx, row.id);
  return {
    id: row.id,
    number: row.number,
    state: row.state,
    step: row.step,
    version: row.version,
    sender: name(row.senderId),
    asked: asked.map(name),
    mayDecide: asked.includes(context.person.id),
    updatedAt: row.updatedAt.toISOString(),
    sentAt: row.sentAt?.toISOString() ?? null,
    recordId: row.recordId,
    earlierAnswers: row.state === 'sent-back' || row.state === 'draft' ? row.sentAnswers : row.earlierAnswers,
    events: events.map(({ kind, step, byName, word, at }) => ({
      kind,
      step,
      by: byName,
      word,
      at: at.toISOString(),
    })),
  };
}

const isPicked = (design: FormDesign, table: string): boolean =>
  JSON.stringify(design.sections).includes(`"table":"${table}"`);
