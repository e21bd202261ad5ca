import type { PathEffect } from '../core/approval/path';
import type { Answers } from '../core/form/answers';
import { groupsOf } from '../core/form/design';
import { uuidV7 } from '../core/kernel/ids';
import { invalid, type Refusal } from '../core/kernel/refusal';
import { fail, ok, unreachable, type Result } from '../core/kernel/result';
import { rowsToWrite } from '../core/storage/rows-to-write';
import type { Tx } from '../data/connect';
import { fieldIssue } from '../data/field-issues';
import { writeRows } from '../data/runtime/write-rows';
import type { ReleaseRow } from '../data/system/forms';
import { addEvent, askPeople, updateSubmission } from '../data/system/submissions';
import { nowAsking } from '../data/transaction';
import type { Context } from './asking';
import { sheetOf } from './sheet-of';

interface Carried {
  readonly id: string;
  readonly number: string;
  readonly answers: Answers;
  readonly release: ReleaseRow;
}

/** Carries out what the path asked for, in the transaction that moved it. */
export async function carryOut(tx: Tx, context: Context, submission: Carried, effects: readonly PathEffect[]): Promise<Result<null, Refusal>> {
  for (const effect of effects) {
    switch (effect.t) {
      case 'ask':
        await askPeople(tx, submission.id, context.now, effect.step, effect.people);
        break;
      case 'keep-rows': {
        const kept = await keepRows(tx, context, submission);
        if (!kept.ok) return kept;
        break;
      }
      default: return unreachable(effect);
    }
  }
  return ok(null);
}

/** Parent and rows, together or not at all. What the tables refuse comes back as an issue at its line. */
async function keepRows(tx: Tx, context: Context, { id, number, answers, release }: Carried): Promise<Result<null, Refusal>> {
  const sheet = await sheetOf(tx, context, release, answers);
  const { tables } = sheet.form;
  await nowAsking(tx, { submission: id });
  const recordId = uuidV7(context.now.getTime(), crypto.getRandomValues(new Uint8Array(10)));
  try {
    // A transaction within one is a savepoint: what the tables refuse does not spoil the answer.
    await tx.transaction((inner) => writeRows(inner, tables, rowsToWrite(sheet), { id: recordId, number }));
  } catch (error) {
    const targets = [release.design.table, ...groupsOf(release.design).map((group) => group.table)];
    const issues = targets.flatMap(({ id }) => fieldIssue(error, tables.get(id)) ?? []);
    if (issues.length > 0) return fail(invalid(...issues));
    throw error;
  }
  await updateSubmission(tx, id, context.now, { recordId });
  await addEvent(tx, { submissionId: id, kind: 'keep', byId: context.person.id, at: context.now });
  return ok(null);
}
