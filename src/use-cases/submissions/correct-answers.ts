import { correctedAnswers, correctsOf } from '../../core/approval/corrected';
import { answerChanges } from '../../core/approval/changes';
import { atSteps } from '../../core/approval/at-step';
import { advance, seatOf } from '../../core/approval/path';
import { toldOf } from '../../core/approval/told';
import { stepsFor } from '../../core/approval/whom';
import { sheetIssues } from '../../core/check/sheet-issues';
import { stoodBefore } from '../../core/check/stood-before';
import type { Answers } from '../../core/form/answers';
import type { Sheet } from '../../core/form/sheet';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { standsInFor } from '../../data/system/absences';
import { readRelease } from '../../data/system/forms';
import { correctSubmission, readEvents, readSubmission, standing } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { once } from '../workspace/once';
import { sheetToKeep, toKeep } from './sheet-to-keep';

export interface Correcting {
  readonly key: string;
  readonly version: number;
  /** The step that was looked at. */
  readonly step?: number | null | undefined;
  /** The whole sheet as it was typed; what may not be corrected is left as it is. */
  readonly answers: Answers;
  readonly word: string;
}

/**
 * Whoever decides a step puts right what it may correct. It is checked as a sending is, and what the answers
 * tell of the path is told anew, so that no correction goes around a rule. It waits on; what was approved
 * stands, and whoever looked before looks again.
 */
export async function correctAnswers(
  context: Context,
  id: string,
  { key, version, step, answers, word }: Correcting,
): Promise<Result<{ state: string; version: number }, Refusal>> {
  return asPerson({ person: context.person.id }, (tx, catalogue) =>
    once(
      tx,
      context,
      key,
      { operation: 'correct', of: id, said: [version, step, answers, word] },
      async () => {
        const row = await readSubmission(tx, id, true);
        const release = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
        if (row === null || release === null || row.number === null) return fail(notFound('submission'));
        const events = await readEvents(tx, id);
        const said = atSteps(events, row.step, release.design.steps);
        const now = await standing(tx, row, said);
        const setting = {
          steps: stepsFor(release.design, row.senderId, catalogue, row),
          sender: row.senderId,
          skipped: new Set(row.skipped),
          standsInFor: await standsInFor(tx),
        };
        const next = advance(now, { t: 'correct', word, at: step ?? null }, context.person.id, setting);
        if (!next.ok) return next;
        const since = row.version - version;
        if (since < 0 || since > said.stays) return fail(stale('already-decided', { state: row.state }));
        const seat = seatOf(now, context.person.id, setting);
        const corrects = correctsOf(release.design, release.design.steps[seat?.at.step ?? -1] ?? {});
        const corrected = correctedAnswers(row.answers, answers, corrects);
        if (answerChanges(row.answers, corrected).count === 0)
          return fail(invalid(issue('nothing-changed', [])));
        const made = await sheetToKeep(
          tx,
          catalogue,
          context,
          toKeep({ ...row, answers: corrected }, release),
        );
        if (!made.ok) return fail(invalid(...made.error));
        const { sheet } = made.value;
        // What was so when it was sent, or has become so by waiting, is not for this correction to mend.
        const before = await sheetToKeep(tx, catalogue, context, toKeep(row, release));
        const stood = stoodBefore(before.ok ? before.value.sheet : null);
        const issues = sheetIssues(sheet).filter((one) => !stood(sheet, one));
        if (issues.length > 0) return fail(invalid(...issues));
        await correctSubmission(tx, id, {
          answers: { ...corrected, reasons: reasonsOf(corrected, row.answers, sheet) },
          told: toldOf(sheet, catalogue),
          word: word.trim(),
          at: context.now,
        });
        return ok({ state: row.state, version: row.version + 1 });
      },
    ),
  );
}

/** Those that were given, and those for checks there are. */
const reasonsOf = (corrected: Answers, before: Answers, { form }: Sheet): Answers['reasons'] => {
  const known = new Set([...Object.keys(before.reasons), ...form.checks.map(({ id }) => id)]);
  return Object.fromEntries(Object.entries(corrected.reasons).filter(([id]) => known.has(id)));
};
