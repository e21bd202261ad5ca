import type { Rehearsed, WrittenRecord } from '../../core/form/rehearsed';
import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import { advance, draftState, openSteps, type OpenStep } from '../../core/approval/path';
import type { Due } from '../../core/approval/due';
import { stepsAsTold, stepsFor } from '../../core/approval/whom';
import { toldOf, type Told } from '../../core/approval/told';
import { checkOutcomes } from '../../core/check/outcomes';
import { sheetIssues } from '../../core/check/sheet-issues';
import { valuedText } from '../../core/check/valued-text';
import { rulesIn, type ApprovalStep, type FormDesign } from '../../core/form/design';
import { askedId } from '../../core/form/written-expressions';
import { besideUses } from '../../core/form/further-writes';
import type { Answers } from '../../core/form/answers';
import type { Sheet } from '../../core/form/sheet';
import type { Issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { cellText } from '../../core/record/cell-text';
import type { RecordEdit } from '../../core/record/edit';
import type { Column } from '../../core/table/model';
import { rulesFor, ruledSteps } from '../../core/rules/ruled-steps';
import { tablesOf } from '../../core/storage/tables-of';
import { issueSentence } from '../../core/wording/issue-sentence';
import { rulesWords } from '../../core/wording/step-sentence';
import type { Tx } from '../../data/connect';
import { catalogueNow } from '../../data/catalogue';
import { oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { insertSubmission } from '../../data/system/submissions';
import { asOwner, asPerson, impatient, undone } from '../../data/transaction';
import { tryWriting, type Written } from '../submissions/keep-rows';
import { sheetOf } from '../submissions/sheet-of';
import { dueFor } from '../submissions/submission-data';
import { whyWords } from '../submissions/why-asked';
import type { Context } from '../workspace/asking';
import { draftRelease, rehearsing, type DraftRelease } from './draft-release';
import { makeRelease } from './release-form';

export interface Rehearsing {
  readonly as: string;
  readonly at: string | null;
  readonly answers: Answers;
}

/**
 * What sending these answers by the draft would come to: who would be asked, and the rows that would be
 * written. They are written by the door that keeps submissions, in a transaction that is undone; tables that
 * are not there yet are made in it as well. No number is taken, and nobody is told.
 */
export async function rehearseForm(
  context: Context,
  id: string,
  input: Rehearsing,
): Promise<Result<Rehearsed, Refusal>> {
  const all = await rehearseAll(context, id, [input]);
  if (!all.ok) return all;
  const [one] = all.value;
  return one === undefined ? fail(notFound('form')) : ok(one);
}

/** Several at once, each by itself: nothing that one writes is there for the next. */
export async function rehearseAll(
  context: Context,
  id: string,
  inputs: readonly Rehearsing[],
): Promise<Result<Rehearsed[], Refusal>> {
  const looked = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const draft = await draftRelease(tx, catalogue, context, id);
    if (!draft.ok) return draft;
    if (needsTables(draft.value)) return ok(null);
    const told: Rehearsed[] = [];
    for (const input of inputs) {
      const one = await rehearseOne(tx, catalogue, context, draft.value, input);
      if (!one.ok) return one;
      told.push(one.value);
    }
    return ok(told);
  });
  if (!looked.ok) return looked;
  return looked.value === null ? rehearseWithTables(context, id, inputs) : ok(looked.value);
}

/** Whether what it writes to is not there yet as it is meant to be, or not open to it. */
function needsTables({ live, plan, form }: DraftRelease): boolean {
  // What the live release may not do, the draft does under a release made for the rehearsal.
  const covered = new Set(live === null ? [] : writesIn(live.design));
  return plan.length > 0 || !writesIn(form.design).every((write) => covered.has(write));
}

const writesIn = (design: FormDesign): string[] => [
  ...tablesOf(design).map(({ id }) => id),
  ...besideUses(design).flatMap(({ table, use, columns }) =>
    use === 'add' ? [`${use} ${table}`] : columns.map((column) => `${use} ${table} ${column}`),
  ),
];

/** In tables that the draft would make or change: they are made, written to, and put back. */
async function rehearseWithTables(
  context: Context,
  id: string,
  inputs: readonly Rehearsing[],
): Promise<Result<Rehearsed[], Refusal>> {
  return asOwner<Rehearsed[]>({ person: context.person.id }, async (tx) => {
    // What others do in these tables must not wait for a rehearsal.
    await impatient(tx);
    return undone(tx, async (inner) => {
      const there = await oneTableChangeAtATime(inner);
      const draft = await draftRelease(inner, there, context, id);
      if (!draft.ok) return draft;
      const { form, plan, live, release } = draft.value;
      const number = (live?.number ?? 0) + 1;
      const releaseId = await makeRelease(inner, there, context, { form, plan, number, note: '' });
      const catalogue = await catalogueNow(inner);
      const made = { ...draft.value, release: { ...release, id: releaseId } };
      const told: Rehearsed[] = [];
      for (const input of inputs) {
        const one = await rehearseOne(inner, catalogue, context, made, input);
        if (!one.ok) return one;
        told.push({ ...one.value, changedTables: true });
      }
      return ok(told);
    });
  });
}

async function rehearseOne(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  draft: DraftRelease,
  input: Rehearsing,
): Promise<Result<Rehearsed, Refusal>> {
  const filled = await filledDraft(tx, catalogue, context, draft, input);
  if (!filled.ok) return filled;
  const { issues } = filled.value;
  const written = issues.length > 0 ? null : await tryAs(tx, catalogue, context, filled.value);
  return ok(rehearsed(catalogue, draft, input, filled.value, written));
}

interface Filled {
  readonly draft: DraftRelease;
  readonly sheet: Sheet;
  readonly as: Context;
  readonly issues: readonly Issue[];
  /** The steps that would be asked, and whom as they are begun. */
  readonly path: readonly OpenStep[];
}

/** The draft with the answers in it, worked out by what whoever rehearses may read. */
async function filledDraft(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  draft: DraftRelease,
  { as, at, answers }: Rehearsing,
): Promise<Result<Filled, Refusal>> {
  const sender = rehearsing(catalogue, context, { as, at });
  if (!sender.ok) return sender;
  const { release } = draft;
  const filled = {
    id: newUuid(),
    release,
    answers,
    senderId: as,
    use: 'new' as const,
    asSeen: true as const,
  };
  const sheet = await sheetOf(tx, catalogue, sender.value, filled);
  const walked = pathOf(catalogue, sheet, as);
  return ok({
    draft,
    sheet,
    as: sender.value,
    issues: [...sheetIssues(sheet), ...walked.issues],
    path: walked.begun,
  });
}

/** Approved by as many as must, step by step, to its end: each step as it is begun. */
function pathOf(
  catalogue: Catalogue,
  sheet: Sheet,
  sender: string,
): { begun: OpenStep[]; issues: readonly Issue[] } {
  const told = toldOf(sheet, catalogue);
  const steps = stepsFor(sheet.form.design, sender, catalogue, told);
  const approvedBefore = new Set<string>();
  const setting = { steps, sender, skipped: new Set(told.skipped), approvedBefore };
  const begun: OpenStep[] = [];
  let now = draftState;
  let next = advance(now, { t: 'send' }, sender, setting);
  while (next.ok) {
    now = next.value.state;
    if (now.state !== 'waiting') return { begun, issues: [] };
    // Of a step in which several approve, how it is begun.
    for (const one of openSteps(now)) if (!begun.some(({ step }) => step === one.step)) begun.push(one);
    const by = now.asked[0] ?? '';
    next = advance(now, { t: 'approve', word: '' }, by, setting);
    approvedBefore.add(by);
  }
  return { begun, issues: next.error.kind === 'invalid' ? next.error.issues : [] };
}

/** As a draft of whoever rehearses, under a release that may write: its rows, taken away again. */
async function tryAs(
  tx: Tx,
  catalogue: Catalogue,
  { person, now }: Context,
  { sheet, as, draft: { form, release } }: Filled,
): Promise<Written> {
  const id = newUuid(now.getTime());
  const answers = sheet.answers();
  return undone(tx, async (inner) => {
    await insertSubmission(inner, {
      id,
      formId: form.id,
      releaseId: release.id,
      state: 'draft',
      senderId: person.id,
      answers,
      createdAt: now,
      updatedAt: now,
    });
    const submission = { id, release, answers, senderId: as.person.id, of: null, number: NO_NUMBER };
    return tryWriting(inner, catalogue, as, { sheet, changing: null }, submission);
  });
}

const NO_NUMBER = '…';

function rehearsed(
  catalogue: Catalogue,
  { form, live, release }: DraftRelease,
  { as }: Rehearsing,
  { sheet, issues, path, as: begun }: Filled,
  written: Written | null,
): Rehearsed {
  const dueAt = (step: ApprovalStep | undefined): { due?: Due } => {
    const due = dueFor(catalogue, begun, step, begun.now);
    return due === null ? {} : { due };
  };
  const name = (person: string): string => catalogue.people.get(person)?.name ?? 'Somebody no longer here';
  const told = toldOf(sheet, catalogue);
  const skipped = new Set(told.skipped);
  const timed = ruledSteps(release.design.steps, rulesIn(release.design), told.ruled);
  const byWhom = stepsAsTold(release.design, told);
  const why = (i: number, who: string): string | null =>
    whyWords(release.design, byWhom[i], who, { ...told, senderId: as }, catalogue);
  return {
    issues: [...issues, ...(written?.issues ?? [])].map((one) => ({
      path: one.path,
      code: one.code,
      sentence: issueSentence(one),
    })),
    mayFill: live === null ? null : mayForm(catalogue, as, 'fill', form.id),
    steps: release.design.steps.map((step, i) => {
      const asked = path.find((one) => one.step === i)?.asked ?? [];
      return {
        id: step.id,
        label: step.label,
        asked: asked.map(name),
        reasons: asked.map((who) => why(i, who)),
        ...(skipped.has(step.id)
          ? { skipped: true, because: notAskedWords(step, sheet, told) }
          : dueAt(timed[i])),
      };
    }),
    checks: checkOutcomes(sheet).map(({ check, row, came }) => ({ id: check.id, row, came })),
    records: written === null || written.issues.length > 0 ? [] : recordsOf(sheet, written.edits),
    changedTables: false,
  };
}

/** Why a step is not asked: its condition with the values in it, where that is not true, or else the rules. */
const notAskedWords = (step: ApprovalStep, sheet: Sheet, { ruled }: Told): string =>
  step.when !== undefined && sheet.value([askedId(step.id)]) === false
    ? valuedText(sheet, step.when)
    : rulesFor(rulesIn(sheet.form.design), step.id)
        .map((table) => rulesWords(table, ruled))
        .join('; ');

/** The edits as records with their columns, in words. */
function recordsOf(sheet: Sheet, edits: readonly RecordEdit[]): WrittenRecord[] {
  const tables = new Map([
    ...tablesOf(sheet.form.design).map((table) => [table.id, table] as const),
    ...sheet.form.tables,
  ]);
  return edits.flatMap((edit): WrittenRecord[] => {
    const table = tables.get(edit.table);
    if (table === undefined) return [];
    const text = (column: Column, value: string | boolean | null): string =>
      column.kind === 'reference' && typeof value === 'string'
        ? (sheet.record(column.target ?? '', value)?.title ?? 'a record')
        : cellText(column, value);
    const cells =
      'values' in edit
        ? table.columns
            .filter(({ id }) => id in edit.values)
            .map((column) => ({
              key: column.key,
              before: edit.t === 'change' ? text(column, edit.before[column.id] ?? null) : null,
              after: text(column, edit.values[column.id] ?? null),
            }))
        : [];
    const what =
      edit.t === 'add' || edit.t === 'restore' ? 'new' : edit.t === 'change' ? 'changed' : 'removed';
    return [{ table: table.label, key: table.key, what, number: null, cells }];
  });
}
