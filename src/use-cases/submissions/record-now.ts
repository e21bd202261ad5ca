import type { Answers } from '../../core/form/answers';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { liveRelease } from '../../data/system/forms';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { mayViewBy, recordFor } from './record-in-change';

/** What a record is now, as a form would ask for it: for a sheet that is open while others work. */
export async function recordNow(
  context: Context,
  form: string,
  id: string,
): Promise<Result<{ answers: Answers }, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const release = await liveRelease(tx, catalogue, form);
    if (release === null || !mayViewBy(catalogue, person, form, release.design))
      return fail(notFound('form'));
    const record = await recordFor(tx, catalogue, release.design, id);
    return record === null || record.removed ? fail(notFound('record')) : ok({ answers: record.answers });
  });
}
