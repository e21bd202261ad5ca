import type { CheckImpact } from '../../contract/answers-from-server';
import { compileForm } from '../../core/form/compile-form';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { worldAt } from '../../core/workspace';
import type { Tx } from '../../data/connect';
import { databaseFault } from '../../data/field-issues';
import { checkImpact, giveUpAfter } from '../../data/runtime/tables/check-impact';
import { asPerson } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** Nobody waits longer for a number beside a check; the check itself does not need it. */
const MOST_SECONDS = 5;

/** What a check that is being written would say of the records the form has kept so far, as far as its owner may see them. */
export async function readImpact(
  context: Context,
  id: string,
  { must, on }: { must: string; on: string },
): Promise<Result<CheckImpact, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const { tables } = catalogue;
    const { design } = form.value;
    // Only the check in hand is read; the rest of the draft may be unfinished.
    const compiled = compileForm(
      { ...design, checks: [{ id: 'qimpact', on, must, message: '', otherwise: 'stop' }] },
      tables,
    );
    const formula = compiled.ok ? compiled.value.formulas.find((one) => one.id === 'qimpact') : undefined;
    if (!compiled.ok) return fail(invalid(...compiled.error));
    const { tree: condition, group } = formula ?? { tree: null, group: null };
    if (condition === null) return ok({ t: 'unknown' });
    return ok(
      await told(tx, async (inner) => {
        await giveUpAfter(inner, MOST_SECONDS);
        const impact = await checkImpact(inner, design, tables, {
          condition,
          group,
          world: worldAt(catalogue.workspace, localTime(catalogue.workspace, context.now)),
        });
        return impact.ok ? { t: 'counted', ...impact.value } : { t: 'unknown' };
      }),
    );
  });
}

async function told(tx: Tx, ask: (inner: Tx) => Promise<CheckImpact>): Promise<CheckImpact> {
  try {
    return await tx.transaction(ask);
  } catch (error) {
    if (databaseFault(error)?.code === '57014') return { t: 'too-long' };
    throw error;
  }
}
