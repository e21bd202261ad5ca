import { mayForm } from '../../core/catalogue/catalogue';
import type { PickedRecord } from '../../core/form/picked-record';
import { fail, ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import type { Tx } from '../../data/connect';
import { recordsNamed, searchRecords, type PickFrom } from '../../data/runtime/records/pick-records';
import { liveRelease, readRelease } from '../../data/system/forms';
import { readSubmission } from '../../data/system/submissions';
import { asPerson, nowAsking } from '../../data/transaction';
import type { CopiedFrom } from '../../contract/answers-from-server';
import type { Context } from '../workspace/asking';
import { copiedFrom, freshnessOf } from '../links/freshness';
import { compiled } from './compiled-release';
import { lookupsOf, pickFrom } from './pick-sources';

/** Options shown at once; more are found by typing on. */
const MOST_OPTIONS = 20;

interface Asked {
  readonly form: string;
  readonly question: string;
  readonly submission: string | null;
}

/** What a lookup of a form offers for a search, in the release that is live or that the submission began with. */
export async function searchLookup(
  context: Context,
  input: Asked & { search: string },
): Promise<Result<{ options: PickedRecord[]; copied: CopiedFrom | null }, Refusal>> {
  return looking(context, input, async (tx, from) => ({
    options: await searchRecords(tx, from, input.search, MOST_OPTIONS),
    copied: copiedFrom((await freshnessOf(tx, from.table)).get(from.table.id)),
  }));
}

/** The records that texts name, as they are pasted into a lookup: null where a text names none, or several. */
export async function nameLookup(
  context: Context,
  input: Asked & { texts: readonly string[] },
): Promise<Result<{ records: (PickedRecord | null)[] }, Refusal>> {
  return looking(context, input, async (tx, from) => {
    const found = await recordsNamed(tx, from, input.texts);
    return {
      records: input.texts.map((text) => {
        const [one, another] = found.get(text.trim().toLowerCase()) ?? [];
        return another === undefined ? (one ?? null) : null;
      }),
    };
  });
}

function looking<T>(
  context: Context,
  input: Asked,
  look: (tx: Tx, from: PickFrom) => Promise<T>,
): Promise<Result<T, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const submission = input.submission === null ? null : await readSubmission(tx, input.submission);
    const release =
      submission === null
        ? await liveRelease(tx, catalogue, input.form)
        : await readRelease(tx, catalogue, submission.releaseId);
    const fills = submission !== null || mayForm(catalogue, context.person.id, 'fill', input.form);
    if (release === null || release.formId !== input.form || !fills) return fail(notFound('form'));
    const lookup = lookupsOf(release.design).find(({ question }) => question.id === input.question);
    if (lookup === undefined) return fail(notFound('question'));
    await nowAsking(tx, { release: release.id });
    const { tables } = catalogue;
    const from = pickFrom(compiled(catalogue, release), tables, lookup.question);
    return from === null ? fail(notFound('table')) : ok(await look(tx, from));
  });
}
