import { ok } from '../../core/kernel/result';
import type { Table } from '../../core/table/model';
import { sortIndex } from '../../data/runtime/records/sort-index';
import { dropsOf, wordsIndexes } from '../../data/runtime/records/words-sql';
import { asOwner, outsideTransaction } from '../../data/transaction';

/** Makes the index by which a large table is sorted. What is asked for may be gone by now, and then nothing is done. */
export async function makeSortIndex(asked: unknown): Promise<void> {
  const { table: id, column, descending } = (asked ?? {}) as Record<string, unknown>;
  const table = await tableOf(id);
  const index = table === null ? null : sortIndex(table, String(column), descending === true);
  if (index === null) return;
  await outsideTransaction(index.drop);
  await outsideTransaction(index.make);
}

/** Makes the indexes by which words are found in a large table, in place of those of its older columns. */
export async function makeWordsIndex(asked: unknown): Promise<void> {
  const table = await tableOf(((asked ?? {}) as Record<string, unknown>)['table']);
  if (table === null) return;
  const { old, make, after } = wordsIndexes(table);
  for (const drop of dropsOf(await outsideTransaction(old))) await outsideTransaction(drop);
  for (const one of make) await outsideTransaction(one);
  await outsideTransaction(after);
}

async function tableOf(id: unknown): Promise<Table | null> {
  const found = await asOwner({ person: '' }, (_, { tables }) =>
    Promise.resolve(ok(tables.get(String(id)) ?? null)),
  );
  return found.ok ? found.value : null;
}
