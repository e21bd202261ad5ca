import {
  hiddenColumns,
  may,
  mayForm,
  mayWrite,
  rowRulesFor,
  type Catalogue,
  type TableAction,
} from '../../core/catalogue/catalogue';
import { isFixedOnChange } from '../../core/form/use';
import type { Answers } from '../../core/form/answers';
import { groupsOf, outerOf, questionsOf, type FormDesign } from '../../core/form/design';
import { lineNumbers } from '../../core/form/numbered-lines';
import { labelOf } from '../../core/form/line';
import { issue, type Issue } from '../../core/kernel/issue';
import { readLoosely } from '../../core/record/edit';
import { answersOf } from '../../core/storage/answers-of';
import { baseAfter, mergedAnswers, withPlaceOf, type AnswerPlace } from '../../core/storage/merged-answers';
import type { StoredWhole } from '../../core/storage/rows-to-edits';
import { tablesOf } from '../../core/storage/tables-of';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { idsWithin } from '../../data/runtime/records/within-rules';
import {
  lockRecord,
  recordOfSubmission,
  storedRecord,
  type RecordTexts,
} from '../../data/runtime/records/stored-record';

/** A record that a sheet changes or shows, as it is now. */
export interface RecordNow {
  readonly id: string;
  readonly number: string;
  readonly removed: boolean;
  readonly stored: StoredWhole;
  /** What would be answered for it to become what it is. */
  readonly answers: Answers;
}

/** Whether a person may change records by this form: they fill it, it writes to its tables, and they may change what those hold. */
export const mayChangeBy = (
  catalogue: Catalogue,
  person: string,
  form: string,
  design: FormDesign,
): boolean =>
  mayForm(catalogue, person, 'fill', form) &&
  may(catalogue, person, 'see', design.table.id) &&
  seesAnswers(catalogue, person, design) &&
  tablesOf(design).every(
    ({ id }) =>
      mayWrite(catalogue, form, id) &&
      may(catalogue, person, 'change', id) &&
      catalogue.tables.get(id)?.linked?.changes !== false,
  );

/** The same of one record, where they may change some of its table only. */
export async function mayChangeIt(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  { id: form, design, record }: { readonly id: string; readonly design: FormDesign; readonly record: string },
): Promise<boolean> {
  if (!mayChangeBy(catalogue, person, form, design)) return false;
  const table = catalogue.tables.get(design.table.id);
  return (
    table !== undefined && (await mayWithRecord(tx, catalogue, person, { action: 'change', table, record }))
  );
}

/** What a person may do with the record that a sheet shows. */
export async function mayWithIt(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  of: Parameters<typeof mayChangeIt>[3],
): Promise<{ readonly change: boolean; readonly remove: boolean }> {
  const table = catalogue.tables.get(of.design.table.id);
  return {
    change: await mayChangeIt(tx, catalogue, person, of),
    remove:
      table !== undefined &&
      (await mayWithRecord(tx, catalogue, person, { action: 'remove', table, record: of.record })),
  };
}

async function mayWithRecord(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  { action, table, record }: { readonly action: TableAction; readonly table: Table; readonly record: string },
): Promise<boolean> {
  const rules = rowRulesFor(catalogue, person, action, table.id);
  return rules === null || (rules.length > 0 && (await idsWithin(tx, table, action, [record])).has(record));
}

/** Whether a person may look at records by this form: they fill it or see what it brings, and see what its tables hold. */
export const mayViewBy = (catalogue: Catalogue, person: string, form: string, design: FormDesign): boolean =>
  (['fill', 'see-all', 'design'] as const).some((action) => mayForm(catalogue, person, action, form)) &&
  tablesOf(design).every(({ id }) => may(catalogue, person, 'see', id)) &&
  seesAnswers(catalogue, person, design);

/** Whether none of what a form asks is kept from somebody: else it would show as empty what is not. */
function seesAnswers(catalogue: Catalogue, person: string, design: FormDesign): boolean {
  const asked = new Set(
    [...questionsOf(design), ...groupsOf(design).flatMap(({ columns }) => columns)].map(({ id }) => id),
  );
  return tablesOf(design).every(({ id }) => {
    const table = catalogue.tables.get(id);
    return (
      table === undefined || hiddenColumns(catalogue, person, table).every((column) => !asked.has(column.id))
    );
  });
}

/** Null where it is not there for whoever asks. */
export async function recordFor(
  tx: Tx,
  catalogue: Catalogue,
  design: FormDesign,
  id: string,
): Promise<RecordNow | null> {
  return read(catalogue, design, id, await storedRecord(tx, design.table.id, id));
}

/** The record of a submission, to those who see it. */
export async function recordOf(
  tx: Tx,
  catalogue: Catalogue,
  design: FormDesign,
  submission: { readonly id: string; readonly ofRecord: string },
): Promise<RecordNow | null> {
  return read(catalogue, design, submission.ofRecord, await recordOfSubmission(tx, submission.id));
}

/** The same, when the submission is kept: nobody changes it until the transaction ends. */
export async function recordHeld(
  tx: Tx,
  catalogue: Catalogue,
  design: FormDesign,
  id: string,
): Promise<RecordNow | null> {
  const table = catalogue.tables.get(design.table.id);
  if (table === undefined) return null;
  await lockRecord(tx, table, id);
  return recordFor(tx, catalogue, design, id);
}

function read(
  { tables }: Catalogue,
  design: FormDesign,
  id: string,
  texts: RecordTexts | null,
): RecordNow | null {
  const table = tables.get(design.table.id);
  if (texts === null || table === undefined) return null;
  const rows = groupsOf(design).map(({ table: { id: of } }) => {
    const inner = tables.get(of);
    return [
      of,
      (texts.rows[of] ?? []).map((row) => ({
        ...row,
        values: inner === undefined ? row.values : readLoosely(inner, row.values),
      })),
    ] as const;
  });
  const stored = {
    version: texts.version,
    values: readLoosely(table, texts.values),
    rows: new Map(rows),
  };
  return {
    id,
    number: texts.number,
    removed: texts.removed,
    stored,
    answers: answersOf(design, stored),
  };
}

/** A change as it stands against its record now. */
export interface Met {
  /** The sender's answers with what others made of the record since. */
  readonly answers: Answers;
  /** What the change goes on from: the record as it is now, but as it was where that is still to be asked. */
  readonly base: Answers;
  readonly clashes: readonly AnswerPlace[];
}

export function meetRecord(
  design: FormDesign,
  { base, answers }: { readonly base: Answers; readonly answers: Answers },
  { answers: theirs }: RecordNow,
): Met {
  const mine = withFixed(design, answers, theirs);
  const met = mergedAnswers(design, base, mine, theirs);
  return { ...met, base: baseAfter(design, base, theirs, met.clashes) };
}

/** What is shown and not to be changed is as the record has it, whatever was sent. */
function withFixed(design: FormDesign, mine: Answers, theirs: Answers): Answers {
  const fixed = questionsOf(design)
    .filter((one) => isFixedOnChange(one) || isFixedOnChange(outerOf(design, one) ?? one))
    .map(({ id }) => id);
  const fields = fixed.reduce(
    (now, id) =>
      id in theirs.rows
        ? { ...now, rows: { ...now.rows, [id]: theirs.rows[id] ?? [] } }
        : withPlaceOf(design, now, theirs, [id]),
    mine,
  );
  return groupsOf(design).reduce(
    (now, group) =>
      withFixedCells(
        now,
        theirs,
        group.id,
        group.columns.filter(isFixedOnChange).map(({ id }) => id),
      ),
    fields,
  );
}

function withFixedCells(mine: Answers, theirs: Answers, group: string, columns: readonly string[]): Answers {
  if (columns.length === 0) return mine;
  const known = new Map((theirs.rows[group] ?? []).map((row) => [row.id, row.cells]));
  const rows = (mine.rows[group] ?? []).map((row) => ({
    ...row,
    cells: {
      ...row.cells,
      ...Object.fromEntries(columns.map((id) => [id, known.get(row.id)?.[id] ?? null])),
    },
  }));
  return { ...mine, rows: { ...mine.rows, [group]: rows } };
}

/** Each thing that both changed, at its line. */
export const clashIssues = (design: FormDesign, clashes: readonly AnswerPlace[]): Issue[] =>
  clashes.map((place) => {
    const question = place[2] ?? (place.length === 1 ? place[0] : undefined);
    return question === undefined
      ? issue('row-changed', [...place], { line: lineNumbers(design).get(place[0] ?? '') ?? '' })
      : issue('value-changed', [...place], { label: labelOf(design, question) });
  });
