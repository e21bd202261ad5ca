import { may, seenTable } from '../../core/catalogue/catalogue';
import type { BinData } from '../../contract/answers-from-server';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { readRemoved } from '../../data/runtime/records/removed';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/** What was removed from a table and can be brought back, for those who may remove. */
export async function openBin(context: Context, key: string): Promise<Result<BinData, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    if (!may(catalogue, person, 'remove', table.id)) return fail(forbidden('remove-records'));
    const found = await readRemoved(tx, catalogue.tables, table, limits.pageSize + 1);
    return ok({
      table: { id: table.id, key: table.key, label: table.label },
      removed: found.slice(0, limits.pageSize),
      more: found.length > limits.pageSize,
      days: limits.removedDays,
    });
  });
}
