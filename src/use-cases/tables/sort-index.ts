import { ok } from '../../core/kernel/result';
import { sortIndex } from '../../data/runtime/records/sort-index';
import { asOwner, outsideTransaction } from '../../data/transaction';

/** Makes the index by which a large table is sorted. What is asked for may be gone by now, and then nothing is done. */
export async function makeSortIndex(asked: unknown): Promise<void> {
  const { table: id, column, descending } = (asked ?? {}) as Record<string, unknown>;
  const found = await asOwner({ person: '' }, (_, { tables }) => Promise.resolve(ok(tables.get(String(id)))));
  const index =
    found.ok && found.value !== undefined
      ? sortIndex(found.value, String(column), descending === true)
      : null;
  if (index === null) return;
  await outsideTransaction(index.drop);
  await outsideTransaction(index.make);
}
