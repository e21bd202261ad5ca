import { advance } from '../core/approval/path';
import { sheetIssues } from '../core/check/sheet-issues';
import { fail, ok, type Result } from '../core/kernel/result';
import { forbidden, invalid, notFound, stale, type Refusal } from '../core/kernel/refusal';
import { nextNumber } from '../data/runtime/write-rows';
import { readRelease } from '../data/system/forms';
import { addEvent, readSubmission, updateSubmission } from '../data/system/submissions';
import { asPerson } from '../data/transaction';
import type { Context } from './asking';
import { carryOut } from './carry-out';
import { rehearseKeeping } from './keep-rows';
import { once } from './once';
import { sheetOf } from './sheet-of';

export interface Sent {
  readonly number: string;
  readonly state: string;
  readonly version: number;
}

/**
 * Sends a draft, or a sent-back submission again. The answers are checked here with the same core that ran in the
 * browser, and here alone it is decided. The number is given at the first sending.
 */
export async function sendSubmission(
  context: Context,
  id: string,
  input: { key: string; version: number },
): Promise<Result<Sent, Refusal>> {
  return asPerson({ person: context.person.id }, (tx) =>
    once(tx, context, input.key, async () => {
      const row = await readSubmission(tx, id, true);
      if (row === null) return fail(notFound('submission'));
      if (row.senderId !== context.person.id) return fail(forbidden('own-only'));
      if (row.state !== 'draft' && row.state !== 'sent-back')
        return fail(stale('already-sent', { state: row.state }));
      if (row.version !== input.version) return fail(stale('draft-changed', { version: row.version }));
      const release = await readRelease(tx, row.releaseId);
      if (release === null) return fail(notFound('release'));
      const sheet = await sheetOf(tx, context, { release, answers: row.answers, senderId: row.senderId });
      const issues = sheetIssues(sheet);
      if (issues.length > 0) return fail(invalid(...issues));
      const next = advance(
        { state: row.state, step: row.step, asked: [] },
        { t: 'send' },
        context.person.id,
        { steps: release.design.steps, sender: row.senderId },
      );
      if (!next.ok) return next;
      const number = row.number ?? (await nextNumber(tx, release.design.table.id));
      const version = row.version + 1;
      const answers = sheet.answers();
      await updateSubmission(tx, id, context.now, {
        number,
        state: next.value.state.state,
        step: next.value.state.step,
        version,
        answers,
        sentAnswers: answers,
        earlierAnswers: row.sentAnswers,
        sentAt: context.now,
      });
      await addEvent(tx, {
        submissionId: id,
        kind: 'send',
        byId: context.person.id,
        answers,
        at: context.now,
      });
      const toKeep = { id, number, answers, release, senderId: row.senderId };
      // Without steps it is kept right away, and the keeping itself refuses.
      const refused =
        release.design.steps.length === 0 ? [] : await rehearseKeeping(tx, context, sheet, toKeep);
      if (refused.length > 0) return fail(invalid(...refused));
      const kept = await carryOut(tx, context, toKeep, next.value.effects);
      return kept.ok ? ok({ number, state: next.value.state.state, version }) : kept;
    }),
  );
}
