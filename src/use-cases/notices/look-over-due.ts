import { ok } from '../../core/kernel/result';
import { dueNow } from '../../core/notice/due-now';
import { worldAt } from '../../core/workspace';
import { tellDue, waitingWithin } from '../../data/system/notices';
import { asOwner } from '../../data/transaction';
import { localTime } from '../workspace/asking';

/** Tells those who are asked that a step is due today, or late. Done again it tells nobody twice; after days without it, it tells what is late now. */
export async function lookOverDue(now = new Date()): Promise<void> {
  await asOwner({ person: '' }, async (tx, { workspace }) => {
    const { today, calendar } = worldAt(workspace, localTime(workspace, now));
    const { due, late } = dueNow(await waitingWithin(tx), today, calendar);
    await tellDue(tx, 'due', due, now);
    await tellDue(tx, 'late', late, now);
    return ok(null);
  });
}
