import { may, mayWrite, type Catalogue } from '../../core/catalogue/catalogue';
import { comparedBy } from '../../core/check/existing';
import { groupsOf, type FormDesign } from '../../core/form/design';
import { writesOf } from '../../core/form/further-writes';
import { labelOf } from '../../core/form/line';
import type { Sheet } from '../../core/form/sheet';
import { issue, type Issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { fittedRow, type Unfitting } from '../../core/storage/fitted-rows';
import { changesOf, editsOf, type Origin, type SheetEdits } from '../../core/storage/rows-to-edits';
import type { RecordEdit, StoredRecord } from '../../core/record/edit';
import {
  furtherEdits,
  heldBy,
  joinedEdits,
  placeBeside,
  wantedWrites,
  type FurtherEdits,
} from '../../core/storage/further-edits';
import { rowsToWrite, type RowToWrite } from '../../core/storage/rows-to-write';
import { tablesOf } from '../../core/storage/tables-of';
import { worldAt } from '../../core/workspace';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { withAllInHand } from '../../data/runtime/records/in-hand';
import { brokenExisting } from '../../data/runtime/records/existing-checks';
import { recordHolding } from '../../data/runtime/records/records-holding';
import { lockRecords } from '../../data/runtime/records/write-edits';
import { noteKept, rehearse } from '../../data/system/submissions';
import { undone } from '../../data/transaction';
import { applyEdits } from '../records/apply-edits';
import { localTime, type Context } from '../workspace/asking';
import { sheetToKeep, type SheetToKeep, type ToKeep } from './sheet-to-keep';

export interface Numbered extends ToKeep {
  readonly number: string;
  /** Where whoever sends it has just calculated it from what the database holds. */
  readonly sheet?: SheetToKeep;
}

/**
 * Parent and rows, together or not at all, as a new record or into the one they change. What the tables or
 * the records there are refuse comes back as issues at their lines.
 */
export async function keepRows(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  submission: Numbered,
): Promise<Result<null, Refusal>> {
  const closed = closedIssues(catalogue, submission.release);
  if (closed.length > 0) return fail(invalid(...closed));
  const kept =
    submission.sheet === undefined
      ? await sheetToKeep(tx, catalogue, context, submission)
      : ok(submission.sheet);
  if (!kept.ok) return fail(invalid(...kept.error));
  const recordId = submission.of?.record ?? newId(context);
  const { issues } = await written(tx, catalogue, context, kept.value, submission, recordId);
  if (issues.length > 0) return fail(invalid(...issues));
  const was = kept.value.changing?.now.answers ?? null;
  await noteKept(tx, submission.id, { record: recordId, was, at: context.now });
  return ok(null);
}

/** What the release writes to and may not any more. */
const closedIssues = (catalogue: Catalogue, { formId, design }: Numbered['release']): Issue[] =>
  [...writesOf(design).keys()]
    .filter((id) => !mayWrite(catalogue, formId, id))
    .map((id) => issue('table-closed', [], { table: catalogue.tables.get(id)?.label ?? '' }));

/**
 * Keeps the rows and takes them away again: what would be refused at the end of the path is told to the
 * sender at its beginning. What goes to a source outside is tried only where existing records are checked, so
 * that a source that is away keeps nobody from sending.
 */
export async function rehearseKeeping(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  sheet: SheetToKeep,
  submission: Numbered,
): Promise<readonly Issue[]> {
  const { design, tables } = sheet.sheet.form;
  const closed = closedIssues(catalogue, submission.release);
  if (closed.length > 0) return closed;
  const goesOutside = tablesOf(design).some(({ id }) => tables.get(id)?.linked != null);
  const looksAtOthers =
    (design.existing ?? []).length > 0 || [...(design.further ?? []), ...(design.finds ?? [])].length > 0;
  if (goesOutside && !looksAtOthers && fitsAsAsked(design, tables)) return [];
  return (await tryWriting(tx, catalogue, context, sheet, submission)).issues;
}

/**
 * Writes the rows and takes them away again: what would be written, and what would be refused. The submission
 * is a draft of whoever asks.
 */
export const tryWriting = (
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  sheet: SheetToKeep,
  submission: Numbered,
): Promise<Written> =>
  undone(tx, async (inner) => {
    await rehearse(inner, submission.id);
    return written(
      inner,
      catalogue,
      context,
      sheet,
      { ...submission, trying: true },
      submission.of?.record ?? newId(context),
    );
  });

/** What was written, and what was refused of it. */
export interface Written {
  readonly issues: Issue[];
  readonly edits: readonly RecordEdit[];
}

/** Whether every answer is kept as it is asked. */
const fitsAsAsked = (design: FormDesign, tables: ReadonlyMap<string, Table>): boolean =>
  tablesOf(design).every((asked) =>
    asked.columns.every((column) => {
      const kept = tables.get(asked.id)?.columns.find(({ id }) => id === column.id);
      return kept === undefined || kept.kind === column.kind;
    }),
  );

const newId = ({ now }: Context): string => newUuid(now.getTime());

/** What the tables refuse spoils the transaction: whoever asked undoes it, to its beginning or to where they began to try. */
async function written(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  kept: SheetToKeep,
  { number, senderId, trying = false }: Numbered & { readonly trying?: boolean },
  recordId: string,
): Promise<Written> {
  const { sheet } = kept;
  const { design, tables } = sheet.form;
  const { row, unfitting } = fitted(catalogue, sheet);
  if (unfitting.length > 0)
    return {
      edits: [],
      issues: unfitting.map((one) =>
        issue(one.code, placeOf(sheet, one), {
          label: tables.get(one.table)?.columns.find((column) => column.id === one.column)?.label ?? '',
        }),
      ),
    };
  const there = kept.changing === null ? await alreadyThere(tx, catalogue, sheet, row, senderId) : null;
  if (there !== null) return { edits: [], issues: [there] };
  const { edits: own, origins } = plannedEdits(catalogue, context, kept, row, { id: recordId, number });
  const beside = await editsBeside(tx, catalogue, context, kept);
  const edits = joinedEdits(own, beside.edits);
  if (beside.issues.length > 0) return { edits, issues: beside.issues };
  const applied = await applyEdits(tx, catalogue, {
    edits,
    person: null,
    world: worldAt(catalogue.workspace, localTime(catalogue.workspace, context.now)),
    reasons: 'asked before',
    trying,
  });
  if (!applied.ok) {
    if (applied.error.kind !== 'invalid') throw new Error(`keeping was refused as ${applied.error.kind}`);
    const issues = applied.error.issues.map((one) => ({
      ...one,
      path: placeBeside(beside.places, one.path) ?? pathInSheet(sheet, origins, one.path),
    }));
    return { edits, issues };
  }
  const broken = await withAllInHand(tx, () =>
    brokenExisting(tx, asked(design, kept, edits), tables, recordId),
  );
  return {
    edits,
    issues: broken.map(({ check, record }) =>
      issue('check-stops', pathInSheet(sheet, origins, [record, check.on]), {
        check: check.id,
        message: check.message,
      }),
    ),
  };
}

/**
 * Where the form finds records by what is answered, and one is there: it is changed by its sender, who sees
 * what that changes, and none is made beside it.
 */
async function alreadyThere(
  tx: Tx,
  catalogue: Catalogue,
  { form: { design } }: Sheet,
  { values }: RowToWrite,
  sender: string,
): Promise<Issue | null> {
  const finds = design.finds ?? [];
  const table = catalogue.tables.get(design.table.id);
  const [first = ''] = finds;
  const asked = finds.map((id) => [id, values.get(id) ?? null] as const);
  if (table === undefined || asked.length === 0 || asked.some(([, value]) => value === null)) return null;
  const found = await withAllInHand(tx, () => recordHolding(tx, table, Object.fromEntries(asked)));
  if (found === null) return null;
  return issue('record-found', [first], {
    label: labelOf(design, first),
    record: may(catalogue, sender, 'see', table.id) ? found.number : '',
    id: may(catalogue, sender, 'change', table.id) ? found.id : '',
  });
}

/**
 * What is written further, of records that are held from now on until the transaction ends: nobody takes
 * meanwhile what is taken from them here.
 */
async function editsBeside(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { sheet, changing }: SheetToKeep,
): Promise<FurtherEdits> {
  const { tables } = catalogue;
  const wanted = wantedWrites(sheet, changing === null ? 'new' : 'change', tables);
  const held =
    wanted.length === 0
      ? new Map<string, StoredRecord>()
      : await lockRecords(tx, tables, heldBy(wanted), () => []);
  return furtherEdits(wanted, held, tables, () => newId(context));
}

const fitted = (catalogue: Catalogue, sheet: Sheet): ReturnType<typeof fittedRow> =>
  fittedRow(
    rowsToWrite(sheet),
    new Map(tablesOf(sheet.form.design).map((table) => [table.id, table])),
    sheet.form.tables,
    catalogue.workspace.zone,
  );

function plannedEdits(
  catalogue: Catalogue,
  context: Context,
  { changing }: SheetToKeep,
  row: RowToWrite,
  record: { readonly id: string; readonly number: string },
): SheetEdits<RecordEdit> {
  const fresh = (): string => newId(context);
  if (changing === null) return editsOf(row, record, fresh);
  const was = fitted(catalogue, changing.was).row;
  return changesOf(row, { record: record.id, stored: changing.now.stored, was }, fresh);
}

/** Whether a sheet changes anything of the record it is to change; what makes a new one always does. */
export const changesAnything = (catalogue: Catalogue, context: Context, kept: SheetToKeep): boolean =>
  plannedEdits(catalogue, context, kept, fitted(catalogue, kept.sheet).row, {
    id: kept.changing?.now.id ?? '',
    number: '',
  }).edits.length > 0;

/**
 * Of a record that is changed, the checks among records that compare something which was: what stood beside
 * others before, and is left alone, stays.
 */
const asked = (design: FormDesign, { changing }: SheetToKeep, edits: readonly RecordEdit[]): FormDesign =>
  changing === null || design.existing === undefined
    ? design
    : {
        ...design,
        existing: design.existing.filter((check) =>
          edits.some((edit) => 'values' in edit && comparedBy(check).some((id) => id in edit.values)),
        ),
      };

/** The place in a sheet of what is wrong at `[record, column]`; what the database refuses names the column alone. */
function pathInSheet(sheet: Sheet, origins: ReadonlyMap<string, Origin>, path: Issue['path']): Issue['path'] {
  const origin = origins.get(String(path[0]));
  return origin === undefined ? path : placeOf(sheet, { ...origin, column: String(path[1] ?? '') });
}

/** The place of an answer, in a row of a group or in the form itself. */
const placeOf = (
  { form: { design } }: Sheet,
  { table, row, column }: Pick<Unfitting, 'table' | 'row' | 'column'>,
): Issue['path'] => {
  const group = groupsOf(design).find((one) => one.table.id === table);
  return group === undefined || row === null ? [column] : [group.id, row, column];
};
