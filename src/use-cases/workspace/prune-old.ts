import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { purgeRemoved } from '../../data/runtime/records/removed';
import { prune } from '../../data/system/prune';
import { asOwner } from '../../data/transaction';

/** Once a day: what has served is taken away, or every table of ours would only grow; and what was removed long ago, for good. */
export async function pruneOld(now = new Date()): Promise<number> {
  const removedBefore = new Date(now.getTime() - limits.removedDays * 86_400_000);
  const done = await asOwner({ person: '' }, async (tx, { tables }) =>
    ok((await prune(tx, now)) + (await purgeRemoved(tx, tables, removedBefore))),
  );
  return done.ok ? done.value : 0;
}
