import type { Rehearsed, WrittenRecord } from '../../contract/rehearsals';
import { mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import { advance, type PathState } from '../../core/approval/path';
import { sheetIssues } from '../../core/check/sheet-issues';
import type { Answers } from '../../core/form/answers';
import type { Sheet } from '../../core/form/sheet';
import type { Issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { cellText } from '../../core/record/cell-text';
import type { RecordEdit } from '../../core/record/edit';
import type { Column } from '../../core/table/model';
import { tablesOf } from '../../core/storage/tables-of';
import { issueSentence } from '../../core/wording/issue-sentence';
import type { Tx } from '../../data/connect';
import { catalogueNow } from '../../data/catalogue';
import { oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { insertSubmission } from '../../data/system/submissions';
import { asOwner, asPerson, impatient, undone } from '../../data/transaction';
import { tryWriting, type Written } from '../submissions/keep-rows';
import { sheetOf } from '../submissions/sheet-of';
import type { Context } from '../workspace/asking';
import { draftRelease, rehearsing, type DraftRelease } from './draft-release';
import { makeRelease } from './release-form';

export interface Rehearsing {
  readonly as: string;
  readonly at: string | null;
  readonly answers: Answers;
}

/**
 * What sending these answers by the draft would come to: who would be asked, and the rows that would be written. They are written by the door that keeps
 * submissions, in a transaction that is undone; tables that are not there yet are made in it as well. No number is taken, and nobody is told.
 */
export async function rehearseForm(
  context: Context,
  id: string,
  input: Rehearsing,
): Promise<Result<Rehearsed, Refusal>> {
  const looked = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const filled = await filledDraft(tx, catalogue, context, id, input);
    if (!filled.ok) return filled;
    const { draft, needsTables } = filled.value;
    const tried =
      filled.value.issues.length > 0 || needsTables
        ? null
        : await tryAs(tx, catalogue, context, filled.value, draft.release.id);
    return ok({ ...filled.value, catalogue, tried });
  });
  if (!looked.ok) return looked;
  const { issues, needsTables, catalogue } = looked.value;
  const made =
    issues.length > 0 || !needsTables ? ok(looked.value.tried) : await tryWithTables(context, id, input);
  return made.ok ? ok(rehearsed(catalogue, id, input, looked.value, made.value)) : made;
}

interface Filled {
  readonly draft: DraftRelease;
  readonly sheet: Sheet;
  readonly as: Context;
  readonly issues: readonly Issue[];
  readonly path: readonly PathState[];
  /** Whether what it writes to is not there yet, or not open to it. */
  readonly needsTables: boolean;
}

/** The draft with the answers in it, worked out by what whoever rehearses may read. */
async function filledDraft(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
  { as, at, answers }: Rehearsing,
): Promise<Result<Filled, Refusal>> {
  const draft = await draftRelease(tx, catalogue, context, id);
  if (!draft.ok) return draft;
  const sender = rehearsing(catalogue, context, { as, at });
  if (!sender.ok) return sender;
  const { live, plan, release } = draft.value;
  const sheet = await sheetOf(tx, catalogue, sender.value, {
    id: newUuid(),
    release,
    answers,
    senderId: as,
    use: 'new',
  });
  const walked = pathOf(release.design.steps, as);
  const open = new Set(live === null ? [] : tablesOf(live.design).map((table) => table.id));
  return ok({
    draft: draft.value,
    sheet,
    as: sender.value,
    issues: [...sheetIssues(sheet), ...walked.issues],
    path: walked.states,
    needsTables: plan.length > 0 || !tablesOf(release.design).every((table) => open.has(table.id)),
  });
}

/** Approved by the first of those who are asked, step by step, to its end. */
function pathOf(
  steps: DraftRelease['release']['design']['steps'],
  sender: string,
): { states: PathState[]; issues: readonly Issue[] } {
  const states: PathState[] = [];
  let now: PathState = { state: 'draft', step: null, asked: [] };
  let next = advance(now, { t: 'send' }, sender, { steps, sender });
  while (next.ok) {
    now = next.value.state;
    if (now.state !== 'waiting') return { states, issues: [] };
    states.push(now);
    next = advance(now, { t: 'approve', word: '' }, now.asked[0] ?? '', { steps, sender });
  }
  return { states, issues: next.error.kind === 'invalid' ? next.error.issues : [] };
}

/** As a draft of whoever rehearses, under a release that may write: its rows, taken away again. */
async function tryAs(
  tx: Tx,
  catalogue: Catalogue,
  { person, now }: Context,
  { sheet, as, draft }: Filled,
  releaseId: string,
): Promise<Written> {
  const id = newUuid(now.getTime());
  const answers = sheet.answers();
  return undone(tx, async (inner) => {
    await insertSubmission(inner, {
      id,
      formId: draft.form.id,
      releaseId,
      state: 'draft',
      senderId: person.id,
      answers,
      createdAt: now,
      updatedAt: now,
    });
    const release = { ...draft.release, id: releaseId };
    const submission = { id, release, answers, senderId: as.person.id, of: null, number: NO_NUMBER };
    return tryWriting(inner, catalogue, as, { sheet, changing: null }, submission);
  });
}

const NO_NUMBER = '…';

/** In tables that the draft would make or change: they are made, written to, and put back. */
async function tryWithTables(
  context: Context,
  id: string,
  input: Rehearsing,
): Promise<Result<Written, Refusal>> {
  return asOwner<Written>({ person: context.person.id }, async (tx) => {
    // What others do in these tables must not wait for a rehearsal.
    await impatient(tx);
    return undone(tx, async (inner) => {
      const there = await oneTableChangeAtATime(inner);
      const draft = await draftRelease(inner, there, context, id);
      if (!draft.ok) return draft;
      const { form, plan, live } = draft.value;
      const releaseId = await makeRelease(inner, there, context, {
        form,
        plan,
        number: (live?.number ?? 0) + 1,
      });
      const catalogue = await catalogueNow(inner);
      const filled = await filledDraft(inner, catalogue, context, id, input);
      return filled.ok ? ok(await tryAs(inner, catalogue, context, filled.value, releaseId)) : filled;
    });
  });
}

function rehearsed(
  catalogue: Catalogue,
  form: string,
  { as }: Rehearsing,
  { draft, sheet, issues, path, needsTables }: Filled,
  written: Written | null,
): Rehearsed {
  const name = (person: string): string => catalogue.people.get(person)?.name ?? 'Somebody no longer here';
  return {
    issues: [...issues, ...(written?.issues ?? [])].map((one) => ({
      path: one.path,
      code: one.code,
      sentence: issueSentence(one),
    })),
    mayFill: mayForm(catalogue, as, 'fill', form),
    steps: draft.release.design.steps.map(({ id, label }, i) => ({
      id,
      label,
      asked: (path[i]?.asked ?? []).map(name),
    })),
    records: written === null || written.issues.length > 0 ? [] : recordsOf(sheet, written.edits),
    changedTables: needsTables,
  };
}

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
