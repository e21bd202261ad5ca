import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { dueNow } from '../../core/notice/due-now';
import { workingTime } from '../../core/workspace';
import {
  askBecauseLate,
  askedBecauseLate,
  letLapse,
  mailAdministrators,
  newlyStuck,
  tellDue,
  waitingWithin,
} from '../../data/system/notices';
import { asOwner } from '../../data/transaction';
import { goOnWithout } from '../submissions/go-on-without';
import { localTime } from '../workspace/asking';

const NOBODY = { person: '' };

/**
 * Tells those who are asked that a step is due today, or late, and asks whom it says to ask then. Done again
 * it tells nobody twice; after days without it, it tells what is late now.
 */
export async function lookOverDue(now = new Date()): Promise<void> {
  const found = await asOwner(NOBODY, async (tx, { workspace }) => {
    const here = localTime(workspace, now);
    const { soon, due, late } = dueNow(await waitingWithin(tx), here, workingTime(workspace));
    await tellDue(tx, 'soon', soon, now);
    await tellDue(tx, 'due', due, now);
    await tellDue(tx, 'late', late, now);
    await letLapse(tx, late, limits.lateAtOnce, now);
    return ok(await askedBecauseLate(tx, late, limits.lateAtOnce));
  });
  if (!found.ok) return;
  // Each by itself: whoever decides one meanwhile waits for no other.
  for (const one of found.value)
    await asOwner(NOBODY, async (tx) => {
      await askBecauseLate(tx, one, now);
      return ok(null);
    });
  await goOnWithout(now);
}

/** Tells administrators of what has come to wait where nobody can decide it, once of each. */
export async function lookOverStuck(now = new Date()): Promise<void> {
  await asOwner(NOBODY, async (tx) => {
    if ((await newlyStuck(tx)) > 0) await mailAdministrators(tx, now);
    return ok(null);
  });
}
