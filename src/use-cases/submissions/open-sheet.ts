import { rulesFor, stepsFor } from '../../core/approval/whom';
import { formByKey, may, mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import type { KnownPerson } from '../../core/expression/person';
import type { SheetData } from '../../contract/sheet-from-server';
import { noAnswers, type Answers } from '../../core/form/answers';
import { defaultAnswers, type KnownBefore } from '../../core/form/defaults';
import { worldAt } from '../../core/workspace';
import { carriedOver } from '../../core/form/carry-over';
import { allQuestions, fieldsOfForm, isTyped, type FormDesign } from '../../core/form/design';
import { isUuid } from '../../core/kernel/ids';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { tablesOf } from '../../core/storage/tables-of';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { deviceKey } from '../../data/secret';
import { liveRelease, readRelease, type ReleaseRow } from '../../data/system/forms';
import { linksAmong } from '../../data/system/links';
import { readSubmission, type SubmissionRow } from '../../data/system/submissions';
import { latestAnswers, ownChangeOf } from '../../data/system/submission-lists';
import { submissionData } from './submission-data';
import { recordOfNumber } from '../../data/runtime/records/records';
import { asPerson, nowAsking } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { shutForms } from '../forms/opening';
import { newerFor } from './carry-draft';
import { compiled } from './compiled-release';
import { pickedRecords } from './pick-sources';
import {
  mayChangeBy,
  mayChangeIt,
  mayViewBy,
  mayWithIt,
  meetRecord,
  recordFor,
  recordOf,
  type RecordNow,
} from './record-in-change';

interface NewSheet {
  readonly after?: string | null;
  /** Something of one's own that it is to be like. */
  readonly like?: string | null;
  /** What the address says besides, by the keys of questions. */
  readonly address?: Readonly<Record<string, string>>;
}

const beginsWithLast = (design: FormDesign): boolean =>
  fieldsOfForm(design).some((one) => one.begins?.t === 'last');

/** The live release of a form, ready to be filled for the first time; `after` is the submission that whoever fills it has just sent. */
export async function openNewSheet(
  context: Context,
  formKey: string,
  { after = null, like = null, address = {} }: NewSheet = {},
): Promise<Result<SheetData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = formByKey(catalogue, formKey);
    const release = form === undefined ? null : await liveRelease(tx, catalogue, form.id);
    if (release === null || !mayForm(catalogue, context.person.id, 'fill', release.formId))
      return fail(notFound('form'));
    const shut = (await shutForms(tx, catalogue, context, [release.formId])).get(release.formId);
    if (shut !== undefined) return fail(forbidden(shut));
    const sent = after === null ? null : await readSubmission(tx, after);
    const before = sent?.senderId === context.person.id && sent.formId === release.formId ? sent : null;
    const model = like === null ? null : await readSubmission(tx, like);
    const from = model === null ? null : await readRelease(tx, catalogue, model.releaseId);
    const copied =
      from !== null && model?.senderId === context.person.id && from.formId === release.formId
        ? answersLike(from.design, release.design, model.answers)
        : noAnswers;
    const answers = before === null ? copied : answersAgain(release.design, before.answers);
    const last = beginsWithLast(release.design)
      ? ((await latestAnswers(tx, context.person.id, release.formId, 1))[0] ?? null)
      : null;
    const opened = { formKey, release, answers, submission: null, record: null, known: { address, last } };
    const data = await sheetData(tx, catalogue, context, opened);
    return ok({ ...data, after: before?.number ?? null });
  });
}

/**
 * A record, by its number or id, as the live release of a form shows it: to be looked at, or to be changed. A
 * change that whoever asks has begun and not finished goes on.
 */
export async function openRecordSheet(
  context: Context,
  formKey: string,
  name: string,
  as: 'change' | 'view',
): Promise<Result<SheetData, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const form = formByKey(catalogue, formKey);
    const release = form === undefined ? null : await liveRelease(tx, catalogue, form.id);
    const table = catalogue.tables.get(release?.design.table.id ?? '');
    if (release === null || table === undefined || !may(catalogue, person, 'see', table.id))
      return fail(notFound('form'));
    const { formId, design } = release;
    if (as === 'change' && !mayChangeBy(catalogue, person, formId, design))
      return fail(forbidden('change-by-form'));
    if (!mayViewBy(catalogue, person, formId, design)) return fail(notFound('form'));
    const id = isUuid(name) ? name : await recordOfNumber(tx, table, name);
    const record = id === null ? null : await recordFor(tx, catalogue, design, id);
    if (record === null || record.removed) return fail(notFound('record'));
    const changed = { id: formId, design, record: record.id };
    if (as === 'change' && !(await mayChangeIt(tx, catalogue, person, changed)))
      return fail(forbidden('change-by-form'));
    const begun =
      as === 'view' ? null : await ownChangeOf(tx, { sender: person, form: formId, record: record.id });
    const under = begun === null ? null : await readRelease(tx, catalogue, begun.releaseId);
    const opened =
      begun !== null && under !== null
        ? { release: under, answers: begun.answers, submission: begun }
        : { release, answers: record.answers, submission: null };
    return ok(await sheetData(tx, catalogue, context, { formKey, ...opened, record }));
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

/**
 * What somebody answered before, as a new sheet asks for it now. Reasons belong to what was sent then, and
 * files to the sheet they were brought to.
 */
function answersLike(from: FormDesign, to: FormDesign, answers: Answers): Answers {
  const { values, rows } = carriedOver(from, to, answers, () => '', new Set()).answers;
  const files = new Set(allQuestions(to).flatMap(({ id, kind }) => (kind === 'files' ? [id] : [])));
  const without = (cells: Answers['values']): Answers['values'] =>
    Object.fromEntries(Object.entries(cells).filter(([id]) => !files.has(id)));
  return {
    ...noAnswers,
    values: without(values),
    rows: Object.fromEntries(
      Object.entries(rows).map(([id, list]) => [
        id,
        list.map((row) => ({ ...row, cells: without(row.cells) })),
      ]),
    ),
  };
}

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
        record: await recordShown(tx, catalogue, release.design, submission),
      }),
    );
  });
}

/** The record that a submission changes, while that is still to come. */
const recordShown = (
  tx: Tx,
  catalogue: Catalogue,
  design: FormDesign,
  { id, ofRecord }: SubmissionRow,
): Promise<RecordNow | null> =>
  ofRecord === null ? Promise.resolve(null) : recordOf(tx, catalogue, design, { id, ofRecord });

interface Opened {
  readonly formKey: string;
  readonly release: ReleaseRow;
  readonly answers: Answers;
  readonly submission: SubmissionRow | null;
  readonly record: RecordNow | null;
  /** Of a new sheet, what is known before anything is typed. */
  readonly known?: KnownBefore;
}

/** All that a page needs of a release and what was answered in it. */
export async function sheetData(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { formKey, release, answers: given, submission, record, known }: Opened,
): Promise<SheetData> {
  await nowAsking(tx, { release: release.id });
  const { tables, workspace } = catalogue;
  const now = localTime(workspace, context.now);
  const use = submission?.ofRecord != null || record !== null ? 'change' : 'new';
  const form = compiled(catalogue, release, use);
  const { design } = form;
  const mayWith =
    record === null
      ? { change: false, remove: false }
      : await mayWithIt(tx, catalogue, context.person.id, {
          id: release.formId,
          design: release.design,
          record: record.id,
        });
  const {
    shown: answers,
    inSheet,
    earlier,
  } = whatIsShown(catalogue, context, { release, answers: given, submission, record }, mayWith);
  const everybody = [...catalogue.people.values()];
  const sender = knownPerson(catalogue.people.get(submission?.senderId ?? '') ?? context.person);
  const defaults = defaultAnswers(release.design, tables, worldAt(workspace, now, sender), known);
  const people = everybody.map(({ id, name, place }) => ({ id, name, place }));
  const steps = stepsFor(design, sender.id, catalogue, submission ?? undefined);
  const rules = rulesFor(design, sender.id, catalogue);
  const named = new Set([
    ...steps.flatMap((step) => [...step.people, ...(step.fallback === undefined ? [] : [step.fallback])]),
    ...rules.flatMap(({ rows }) => rows.flatMap(({ gives }) => gives.flatMap((one) => one.people))),
    context.person.id,
    submission?.senderId ?? context.person.id,
  ]);
  const begun =
    use === 'new' && submission === null
      ? {
          values: { ...defaults.answers.values, ...answers.values },
          rows: { ...defaults.answers.rows, ...answers.rows },
          reasons: answers.reasons,
        }
      : answers;
  return {
    formId: release.formId,
    formKey,
    // With those who are asked about something of this sender.
    design: { ...design, steps, ...(rules.length > 0 && { rules }) },
    answers: begun,
    rowDefaults: defaults.rows,
    now,
    workspace,
    tables: [...tables.values()].filter(({ id }) => form.columnsRead.has(id) || isPicked(release.design, id)),
    picked: await pickedRecords(
      tx,
      form,
      tables,
      begun,
      earlier,
      inSheet?.now ?? null,
      inSheet?.base ?? null,
    ),
    people: people.filter(({ id }) => named.has(id)),
    sender,
    asking: { id: context.person.id, name: context.person.name, place: context.person.place },
    deviceKey: deviceKey(context.person.id),
    silent: await silentSources(tx, release.design, tables),
    submission:
      submission === null
        ? null
        : await submissionData(tx, catalogue, context, { ...submission, earlierAnswers: earlier }, design),
    record: inSheet,
    after: null,
    newer:
      submission?.senderId === context.person.id ? await newerFor(tx, catalogue, submission, release) : null,
  };
}

/** The answers to show, what they are compared with, and the record they change. */
function whatIsShown(
  catalogue: Catalogue,
  context: Context,
  { release, answers, submission, record }: Omit<Opened, 'formKey'>,
  mayWith: Awaited<ReturnType<typeof mayWithIt>>,
): { shown: Answers; earlier: Answers | null; inSheet: SheetData['record'] } {
  const shown = submission === null ? answers : answersFor(context, submission);
  const { design } = release;
  const change = submission?.ofRecord != null ? { base: submission.base ?? noAnswers, answers: shown } : null;
  const isOpen = submission !== null && ['draft', 'sent-back', 'waiting'].includes(submission.state);
  // What came of it stays as it was, whatever has become of the record since.
  const met = change !== null && isOpen && record !== null ? meetRecord(design, change, record) : null;
  const earlier =
    change === null ? earlierOf(submission) : met !== null && record !== null ? record.answers : change.base;
  if (record === null) return { shown, earlier, inSheet: null };
  return {
    shown: met?.answers ?? shown,
    earlier,
    inSheet: {
      id: record.id,
      number: record.number,
      tableKey: catalogue.tables.get(design.table.id)?.key ?? '',
      now: record.answers,
      base: met?.base ?? record.answers,
      clashes: met?.clashes ?? [],
      draft: change,
      mayRemove: mayWith.remove ? record.stored.version : null,
      mayChange: mayWith.change,
    },
  };
}

const earlierOf = (row: SubmissionRow | null): Answers | null =>
  row === null
    ? null
    : row.state === 'sent-back' || row.state === 'draft'
      ? row.sentAnswers
      : row.earlierAnswers;

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

const isPicked = (design: FormDesign, table: string): boolean =>
  JSON.stringify(design.sections).includes(`"table":"${table}"`);
