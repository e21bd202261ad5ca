import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { purgeRemoved } from '../../data/runtime/records/removed';
import { filesGone, forgetGone } from '../../data/system/files';
import { prune } from '../../data/system/prune';
import { asOwner } from '../../data/transaction';
import { objectStore } from '../../outside/object-store';

/** Once a day: what has served is taken away, or every table of ours would only grow; and what was removed long ago, for good. */
export async function pruneOld(now = new Date()): Promise<number> {
  const removedBefore = new Date(now.getTime() - limits.removedDays * 86_400_000);
  const done = await asOwner({ person: '' }, async (tx, { tables }) =>
    ok((await prune(tx, now)) + (await purgeRemoved(tx, tables, removedBefore))),
  );
  return (done.ok ? done.value : 0) + (await emptyStore());
}

/** Bytes of files that are gone leave the store beside the database too; where it does not answer, another day. */
async function emptyStore(): Promise<number> {
  const store = objectStore();
  if (store === null) return 0;
  let removed = 0;
  for (;;) {
    const gone = await asOwner({ person: '' }, async (tx) => ok(await filesGone(tx, AT_ONCE)));
    if (!gone.ok || gone.value.length === 0) return removed;
    for (const id of gone.value) await store.remove(id);
    await asOwner({ person: '' }, async (tx) => ok(await forgetGone(tx, gone.value)));
    removed += gone.value.length;
  }
}

const AT_ONCE = 100;
