import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { tellNow } from '../../data/live';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** Tells those who design the same form which line somebody has in hand; null when they have left. Nothing is kept of it. */
export async function tellLine(
  context: Context,
  id: string,
  { line }: { line: string | null },
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    await tellNow(tx, `form:${id}`, [context.person.id, line ?? '']);
    return ok(null);
  });
}
