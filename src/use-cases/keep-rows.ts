import { mayWrite, type Catalogue } from '../core/catalogue/catalogue';
import { groupsOf, type FormDesign } from '../core/form/design';
import type { Sheet } from '../core/form/sheet';
import { issue, type Issue } from '../core/kernel/issue';
import { uuidV7 } from '../core/kernel/ids';
import { invalid, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { fittedRow, type Unfitting } from '../core/storage/fitted-rows';
import { rowsToWrite } from '../core/storage/rows-to-write';
import { tablesOf } from '../core/storage/tables-of';
import type { Table } from '../core/table/model';
import type { Tx } from '../data/connect';
import { fieldIssue } from '../data/field-issues';
import { brokenExisting, type BrokenExisting } from '../data/runtime/existing-checks';
import { patience, withSources } from '../data/runtime/open-source';
import { writeRows } from '../data/runtime/write-rows';
import { noteKept, rehearse } from '../data/system/submissions';
import { undone } from '../data/transaction';
import type { Context } from './asking';
import { sheetOf, type Filled } from './sheet-of';

export interface ToKeep extends Filled {
  readonly id: string;
  readonly number: string;
  /** Where whoever sends it has just calculated it from what the database holds. */
  readonly sheet?: Sheet;
}

/** Parent and rows, together or not at all. What the tables or the records there are refuse comes back as issues at their lines. */
export async function keepRows(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  submission: ToKeep,
): Promise<Result<null, Refusal>> {
  const sheet = submission.sheet ?? (await sheetOf(tx, catalogue, context, submission));
  const recordId = uuidV7(context.now.getTime(), crypto.getRandomValues(new Uint8Array(10)));
  const closed = closedIssues(catalogue, submission.release);
  const issues = closed.length > 0 ? closed : await written(tx, sheet, submission, recordId);
  if (issues.length > 0) return fail(invalid(...issues));
  await noteKept(tx, submission.id, recordId, context.now);
  return ok(null);
}

/** What the release writes to and may not any more. */
const closedIssues = (catalogue: Catalogue, { formId, design }: ToKeep['release']): Issue[] =>
  tablesOf(design)
    .filter(({ id }) => !mayWrite(catalogue, formId, id))
    .map(({ id }) => issue('table-closed', [], { table: catalogue.tables.get(id)?.label ?? '' }));

/**
 * Keeps the rows and takes them away again: what would be refused at the end of the path is told to the sender at its beginning.
 * Only forms that check existing records need it, and those whose tables have changed since they were released.
 */
export async function rehearseKeeping(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  sheet: Sheet,
  submission: ToKeep,
): Promise<readonly Issue[]> {
  const { design, tables } = sheet.form;
  const closed = closedIssues(catalogue, submission.release);
  if (closed.length > 0) return closed;
  if ((design.existing ?? []).length === 0 && fitsAsAsked(design, tables)) return [];
  return undone(tx, async (inner) => {
    await rehearse(inner, submission.id);
    return written(
      inner,
      sheet,
      submission,
      uuidV7(context.now.getTime(), crypto.getRandomValues(new Uint8Array(10))),
    );
  });
}

/** Whether every answer is kept as it is asked. */
const fitsAsAsked = (design: FormDesign, tables: ReadonlyMap<string, Table>): boolean =>
  tablesOf(design).every((asked) =>
    asked.columns.every((column) => {
      const kept = tables.get(asked.id)?.columns.find(({ id }) => id === column.id);
      return kept === undefined || kept.kind === column.kind;
    }),
  );

/** What the tables refuse spoils the transaction: whoever asked undoes it, to its beginning or to where they began to try. */
async function written(tx: Tx, sheet: Sheet, { number }: ToKeep, recordId: string): Promise<Issue[]> {
  const { design, tables } = sheet.form;
  const { row, unfitting } = fittedRow(
    rowsToWrite(sheet),
    new Map(tablesOf(design).map((table) => [table.id, table])),
    tables,
  );
  if (unfitting.length > 0)
    return unfitting.map((one) =>
      issue(one.code, placeOf(sheet, one), {
        label: tables.get(one.table)?.columns.find((column) => column.id === one.column)?.label ?? '',
      }),
    );
  const linked = tablesOf(design).filter((table) => tables.get(table.id)?.linked != null);
  const write = () => writeRows(tx, tables, row, { id: recordId, number });
  try {
    await (linked.length === 0
      ? write()
      : withSources(
          tx,
          linked.map((table) => table.id),
          patience.person,
          write,
        ));
  } catch (error) {
    const issues = [design.table, ...groupsOf(design).map((group) => group.table)].flatMap(
      (target) => fieldIssue(error, tables.get(target.id)) ?? [],
    );
    if (issues.length > 0) return issues;
    throw error;
  }
  return (await brokenExisting(tx, design, tables, recordId)).map((one) => existingIssue(one, sheet));
}

const existingIssue = ({ check, group, position }: BrokenExisting, sheet: Sheet): Issue =>
  issue('check-stops', lineOf(sheet, group, position, check.on), { check: check.id, message: check.message });

const placeOf = (sheet: Sheet, { table, position, column }: Unfitting): Issue['path'] =>
  lineOf(
    sheet,
    groupsOf(sheet.form.design).find((group) => group.table.id === table)?.id ?? null,
    position,
    column,
  );

/** The place of an answer, in the row at `position` from 1 of a group, or in the form itself. */
function lineOf(sheet: Sheet, group: string | null, position: number | null, id: string): Issue['path'] {
  const row = group === null || position === null ? undefined : sheet.filledRows(group)[position - 1];
  return group === null || row === undefined ? [id] : [group, row.id, id];
}
