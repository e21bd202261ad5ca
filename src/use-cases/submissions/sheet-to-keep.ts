import type { Catalogue } from '../../core/catalogue/catalogue';
import type { Answers } from '../../core/form/answers';
import type { Sheet } from '../../core/form/sheet';
import { issue, type Issue } from '../../core/kernel/issue';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import type { ReleaseRow } from '../../data/system/forms';
import type { SubmissionRow } from '../../data/system/submissions';
import { nowAsking } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { clashIssues, meetRecord, recordHeld, type RecordNow } from './record-in-change';
import { sheetOf } from './sheet-of';

/** A submission on its way into the tables. */
export interface ToKeep {
  readonly id: string;
  readonly release: ReleaseRow;
  readonly answers: Answers;
  readonly senderId: string;
  /** The record it changes, and how that was when its sender saw it; null where it makes a new one. */
  readonly of: { readonly record: string; readonly base: Answers } | null;
}

/** The sheet of a submission as it would be kept now. */
export interface SheetToKeep {
  readonly sheet: Sheet;
  readonly changing: Changing | null;
}

/** The record that is changed, as it is now, with the sheet the form would make of it. */
export interface Changing {
  readonly now: RecordNow;
  readonly was: Sheet;
}

export const toKeep = (
  { id, answers, senderId, ofRecord, base }: SubmissionRow,
  release: ReleaseRow,
): ToKeep => ({
  id,
  release,
  answers,
  senderId,
  of: ofRecord === null || base === null ? null : { record: ofRecord, base },
});

/**
 * Calculated on the server from what the database holds. What changes a record meets it as it is now, and
 * holds it until the transaction ends; what others changed meanwhile is merged, and what both changed
 * differently is an issue at its line.
 */
export async function sheetToKeep(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { of, ...submission }: ToKeep,
): Promise<Result<SheetToKeep, Issue[]>> {
  const { design } = submission.release;
  if (of === null)
    return ok({
      sheet: await sheetOf(tx, catalogue, context, { ...submission, use: 'new' }),
      changing: null,
    });
  await nowAsking(tx, { release: submission.release.id, submission: submission.id });
  const now = await recordHeld(tx, catalogue, design, of.record);
  if (now === null)
    return fail([
      issue('record-not-there', [], { table: catalogue.tables.get(design.table.id)?.label ?? '' }),
    ]);
  if (now.removed) return fail([issue('record-removed', [])]);
  const { answers, clashes } = meetRecord(design, { base: of.base, answers: submission.answers }, now);
  if (clashes.length > 0) return fail(clashIssues(design, clashes));
  const made = (given: Answers) =>
    sheetOf(tx, catalogue, context, { ...submission, answers: given, use: 'change' });
  return ok({ sheet: await made(answers), changing: { now, was: await made(now.answers) } });
}
