import { mayForm } from '../../core/catalogue/catalogue';
import { advance } from '../../core/approval/path';
import { sheetIssues } from '../../core/check/sheet-issues';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { nextNumber } from '../../data/runtime/records/next-number';
import { readRelease } from '../../data/system/forms';
import { moveSubmission, readSubmission } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { carryOut } from './carry-out';
import { rehearseKeeping } from './keep-rows';
import { once } from '../workspace/once';
import { sheetOf } from './sheet-of';
import { filesGoWith } from '../files/go-with';

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
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    once(tx, context, input.key, { operation: 'send', of: id, said: input.version }, async () => {
      const row = await readSubmission(tx, id, true);
      if (row === null) return fail(notFound('submission'));
      if (row.senderId !== context.person.id) return fail(forbidden('own-only'));
      if (row.state !== 'draft' && row.state !== 'sent-back')
        return fail(stale('already-sent', { state: row.state }));
      if (row.version !== input.version) return fail(stale('draft-changed', { version: row.version }));
      // What was sent back is finished by whoever sent it, whatever they may fill by now.
      if (row.state === 'draft' && !mayForm(catalogue, context.person.id, 'fill', row.formId))
        return fail(forbidden('fill'));
      const release = await readRelease(tx, catalogue, row.releaseId);
      if (release === null) return fail(notFound('release'));
      const sheet = await sheetOf(tx, catalogue, context, {
        id,
        release,
        answers: row.answers,
        senderId: row.senderId,
      });
      const issues = sheetIssues(sheet);
      if (issues.length > 0) return fail(invalid(...issues));
      const lost = await filesGoWith(tx, id, sheet);
      if (lost.length > 0) return fail(invalid(...lost));
      const next = advance(
        { state: row.state, step: row.step, asked: [] },
        { t: 'send' },
        context.person.id,
        { steps: release.design.steps, sender: row.senderId },
      );
      if (!next.ok) return next;
      const filled = { id, answers: sheet.answers(), release, senderId: row.senderId };
      // Without steps it is kept right away, and the keeping itself refuses.
      const refused =
        release.design.steps.length === 0
          ? []
          : await rehearseKeeping(tx, catalogue, context, sheet, { ...filled, number: row.number ?? id });
      if (refused.length > 0) return fail(invalid(...refused));
      // The counter is locked from here on, so it comes as late as can be.
      const number = row.number ?? (await nextNumber(tx, release.design.table.id));
      const { state, effects } = next.value;
      await moveSubmission(tx, id, {
        event: 'send',
        state,
        word: '',
        sent: { number, answers: filled.answers },
        at: context.now,
      });
      const kept = await carryOut(tx, catalogue, context, { ...filled, number, sheet }, effects);
      return kept.ok ? ok({ number, state: state.state, version: row.version + 1 }) : kept;
    }),
  );
}
