import { may, seenTable } from '../../core/catalogue/catalogue';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { allowToWrite, formsWritingTo } from '../../data/runtime/tables/table-rights';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';

/**
 * Those who design a table say which forms may write to it. One that is taken off keeps nothing there from
 * then on, not even what is on its way.
 */
export async function allowForm(
  context: Context,
  key: string,
  input: { form: string; allowed: boolean },
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    if (!may(catalogue, context.person.id, 'design', table.id)) return fail(forbidden('design-table'));
    const known = (await formsWritingTo(tx, table.id)).find(({ id }) => id === input.form);
    if (known === undefined) return fail(notFound('form'));
    await allowToWrite(tx, table.id, input.form, input.allowed);
    return ok(null);
  });
}
