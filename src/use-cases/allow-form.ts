import { forbidden, notFound, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { allowToWrite, formsWritingTo, mayDo } from '../data/runtime/table-rights';
import { readTables } from '../data/runtime/tables';
import { asPerson } from '../data/transaction';
import type { Context } from './asking';
import { seenTable } from './read-tables';

/** Those who design a table say which forms may write to it. One that is taken off keeps nothing there from then on, not even what is on its way. */
export async function allowForm(
  context: Context,
  key: string,
  input: { form: string; allowed: boolean },
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const table = await seenTable(tx, await readTables(tx), key);
    if (table === null) return fail(notFound('table'));
    if (!(await mayDo(tx, table.id, 'design'))) return fail(forbidden('design-table'));
    const known = (await formsWritingTo(tx, table.id)).find(({ id }) => id === input.form);
    if (known === undefined) return fail(notFound('form'));
    await allowToWrite(tx, table.id, input.form, input.allowed);
    return ok(null);
  });
}
