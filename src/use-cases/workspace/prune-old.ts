import { ok } from '../../core/kernel/result';
import { prune } from '../../data/system/prune';
import { asOwner } from '../../data/transaction';

/** Once a day: what has served is taken away, or every table of ours would only grow. */
export async function pruneOld(now = new Date()): Promise<number> {
  const done = await asOwner({ person: '' }, async (tx) => ok(await prune(tx, now)));
  return done.ok ? done.value : 0;
}
