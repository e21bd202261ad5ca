import { atSteps } from '../../core/approval/at-step';
import { advance } from '../../core/approval/path';
import { stepsFor } from '../../core/approval/whom';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { issueSentence } from '../../core/wording/issue-sentence';
import { refusalSentence } from '../../core/wording/refusal-sentence';
import { readRelease } from '../../data/system/forms';
import { lapsed, noteTrouble, type Lapse } from '../../data/system/notices';
import { moveSubmission, readEvents, readSubmission, standing } from '../../data/system/submissions';
import { asOwner, asPerson } from '../../data/transaction';
import { logFault } from '../workspace/log-fault';
import { carryOut } from './carry-out';
import { toKeep } from './sheet-to-keep';

const NOBODY = { person: '' };

/** Something that was refused is tried again after so long, for its next step may have somebody by then. */
const AGAIN_MS = 6 * 3_600_000;

/** Goes on without the steps that are late and may be gone on without, each in the name of its sender and by itself. */
export async function goOnWithout(now: Date): Promise<void> {
  const found = await asOwner(NOBODY, async (tx) =>
    ok(await lapsed(tx, new Date(now.getTime() - AGAIN_MS), limits.lateAtOnce)),
  );
  for (const one of found.ok ? found.value : []) {
    const trouble = await oneLapse(one, now).then(
      (done) => (done.ok ? null : whyNot(done.error)),
      (error: unknown) => {
        logFault(error, 'going on without a step');
        return 'Something went wrong here.';
      },
    );
    if (trouble !== null) await asOwner(NOBODY, async (tx) => ok(await noteTrouble(tx, one, trouble, now)));
  }
}

const whyNot = (refusal: Refusal): string =>
  refusal.kind === 'invalid' ? refusal.issues.map(issueSentence).join('; ') : refusalSentence(refusal);

function oneLapse({ submission, step, sender }: Lapse, now: Date): Promise<Result<null, Refusal>> {
  return asPerson({ person: sender }, async (tx, catalogue) => {
    const row = await readSubmission(tx, submission, true);
    const release = row === null ? null : await readRelease(tx, catalogue, row.releaseId);
    const person = catalogue.people.get(sender);
    if (person === undefined || row === null || release === null || row.number === null)
      return fail(notFound('submission'));
    const events = await readEvents(tx, submission);
    const said = atSteps(events, row.step, release.design.steps);
    const next = advance(await standing(tx, row, said), { t: 'lapse', from: step }, sender, {
      steps: stepsFor(release.design, sender, catalogue, row),
      sender,
      skipped: new Set(row.skipped),
      approvedBefore: said.approvedBefore,
    });
    // Decided meanwhile, it is late no more.
    if (!next.ok) return next.error.kind === 'stale' ? ok(null) : next;
    const { state, effects } = next.value;
    await moveSubmission(tx, submission, { event: 'lapse', state, word: '', sent: null, at: now });
    return carryOut(tx, catalogue, { person, now }, { ...toKeep(row, release), number: row.number }, effects);
  });
}
