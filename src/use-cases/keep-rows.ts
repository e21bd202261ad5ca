import { groupsOf } from '../core/form/design';
import type { Sheet } from '../core/form/sheet';
import { issue, type Issue } from '../core/kernel/issue';
import { uuidV7 } from '../core/kernel/ids';
import { invalid, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { rowsToWrite } from '../core/storage/rows-to-write';
import type { Tx } from '../data/connect';
import { fieldIssue } from '../data/field-issues';
import { brokenExisting, type BrokenExisting } from '../data/runtime/existing-checks';
import { writeRows } from '../data/runtime/write-rows';
import { addEvent, updateSubmission } from '../data/system/submissions';
import { nowAsking, undone } from '../data/transaction';
import type { Context } from './asking';
import { sheetOf, type Filled } from './sheet-of';

export interface ToKeep extends Filled {
  readonly id: string;
  readonly number: string;
}

/** Parent and rows, together or not at all. What the tables or the records there are refuse comes back as issues at their lines. */
export async function keepRows(tx: Tx, context: Context, submission: ToKeep): Promise<Result<null, Refusal>> {
  const sheet = await sheetOf(tx, context, submission);
  const recordId = uuidV7(context.now.getTime(), crypto.getRandomValues(new Uint8Array(10)));
  const issues = await written(tx, sheet, submission, recordId);
  if (issues.length > 0) return fail(invalid(...issues));
  await updateSubmission(tx, submission.id, context.now, { recordId });
  await addEvent(tx, { submissionId: submission.id, kind: 'keep', byId: context.person.id, at: context.now });
  return ok(null);
}

/**
 * Keeps the rows and takes them away again: what would be refused at the end of the path is told to the sender at its beginning.
 * Only forms that check existing records need it.
 */
export async function rehearseKeeping(tx: Tx, context: Context, sheet: Sheet, submission: ToKeep): Promise<readonly Issue[]> {
  if ((sheet.form.design.existing ?? []).length === 0) return [];
  return undone(tx, async (inner) => {
    await updateSubmission(inner, submission.id, context.now, { state: 'kept' });
    return written(inner, sheet, submission, uuidV7(context.now.getTime(), crypto.getRandomValues(new Uint8Array(10))));
  });
}

async function written(tx: Tx, sheet: Sheet, { id, number }: ToKeep, recordId: string): Promise<Issue[]> {
  const { design, tables } = sheet.form;
  await nowAsking(tx, { submission: id });
  try {
    // A transaction within one is a savepoint: what the tables refuse does not spoil the answer.
    await tx.transaction((inner) => writeRows(inner, tables, rowsToWrite(sheet), { id: recordId, number }));
  } catch (error) {
    const issues = [design.table, ...groupsOf(design).map((group) => group.table)].flatMap((target) => fieldIssue(error, tables.get(target.id)) ?? []);
    if (issues.length > 0) return issues;
    throw error;
  }
  return (await brokenExisting(tx, design, tables, recordId)).map((one) => existingIssue(one, sheet));
}

function existingIssue({ check, group, position }: BrokenExisting, sheet: Sheet): Issue {
  const row = group === null || position === null ? undefined : sheet.filledRows(group)[position - 1];
  return issue('check-stops', group === null || row === undefined ? [check.on] : [group, row.id, check.on], { check: check.id, message: check.message });
}
