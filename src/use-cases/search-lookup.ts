import type { PickedRecord } from '../core/form/picked-record';
import { fail, ok, type Result } from '../core/kernel/result';
import { notFound, type Refusal } from '../core/kernel/refusal';
import { searchRecords } from '../data/runtime/pick-records';
import { readTables } from '../data/runtime/tables';
import { liveRelease, readRelease } from '../data/system/forms';
import { readSubmission } from '../data/system/submissions';
import { asPerson, nowAsking } from '../data/transaction';
import type { CopiedFrom } from '../contract/answers-from-server';
import type { Context } from './asking';
import { copiedFrom, freshnessOf } from './read-tables';
import { compiled } from './open-sheet';
import { lookupsOf, pickFrom } from './pick-sources';

/** Options shown at once; more are found by typing on. */
const MOST_OPTIONS = 20;

/** What a lookup of a form offers for a search, in the release that is live or that the submission began with. */
export async function searchLookup(
  context: Context,
  input: { form: string; question: string; submission: string | null; search: string },
): Promise<Result<{ options: PickedRecord[]; copied: CopiedFrom | null }, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx) => {
    const submission = input.submission === null ? null : await readSubmission(tx, input.submission);
    const release =
      submission === null ? await liveRelease(tx, input.form) : await readRelease(tx, submission.releaseId);
    if (release === null || release.formId !== input.form) return fail(notFound('form'));
    const lookup = lookupsOf(release.design).find(({ question }) => question.id === input.question);
    if (lookup === undefined) return fail(notFound('question'));
    await nowAsking(tx, { release: release.id });
    const tables = await readTables(tx);
    const from = pickFrom(compiled(release.design, tables), tables, lookup.question);
    if (from === null) return fail(notFound('table'));
    return ok({
      options: await searchRecords(tx, from, input.search, MOST_OPTIONS),
      copied: copiedFrom((await freshnessOf(tx, from.table.id)).get(from.table.id)),
    });
  });
}
