import type { Catalogue } from '../../core/catalogue/catalogue';
import { alwaysOpen, openingIssues, shutAt, type Opening, type Shut } from '../../core/form/opening';
import { sameJson } from '../../core/kernel/same-json';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import { oneSendingAtATime, readOpenings, updateOpening } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import { localTime, type Context } from '../workspace/asking';
import { designedForm } from './edit-form';

/** Says when colleagues may fill a form. It holds at once; what is on its way goes on. */
export async function keepOpening(
  context: Context,
  id: string,
  opening: Opening,
): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const form = await designedForm(tx, catalogue, context, id);
    if (!form.ok) return form;
    const issues = openingIssues(opening);
    if (issues.length > 0) return fail(invalid(...issues));
    await updateOpening(tx, id, sameJson(opening, alwaysOpen) ? null : opening);
    return ok(null);
  });
}

/** Which of these forms are shut just now, and why. */
export async function shutForms(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Shut>> {
  const now = localTime(catalogue.workspace, context.now);
  const openings = await readOpenings(tx, ids);
  return new Map(
    [...openings].flatMap(([id, { opening, sent }]) => {
      const shut = shutAt(opening, now, sent);
      return shut === null ? [] : [[id, shut] as const];
    }),
  );
}

/** Whether one more may be sent by a form; where there may be only so many, nobody else sends until the transaction ends. */
export async function shutForSending(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  id: string,
): Promise<Shut | null> {
  const limited = (await readOpenings(tx, [id])).get(id)?.opening.most != null;
  if (limited) await oneSendingAtATime(tx, id);
  return (await shutForms(tx, catalogue, context, [id])).get(id) ?? null;
}
