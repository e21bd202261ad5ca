import { may, mayForm, type Catalogue } from '../../core/catalogue/catalogue';
import type { Raw } from '../../core/form/answers';
import { fitsId, startsId } from '../../core/form/lookup-filter';
import { isUuid } from '../../core/kernel/ids';
import type { PickedRecord } from '../../core/form/picked-record';
import { fail, ok, type Result } from '../../core/kernel/result';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import type { Condition } from '../../data/runtime/records/filter-sql';
import { pickById, recordsNamed, type PickFrom } from '../../data/runtime/records/pick-records';
import { allPicks, searchPicks } from '../../data/runtime/records/search-picks';
import { liveRelease, readRelease, type ReleaseRow } from '../../data/system/forms';
import { readSubmission } from '../../data/system/submissions';
import { latestAnswers } from '../../data/system/submission-lists';
import { asPerson, nowAsking } from '../../data/transaction';
import type { LookupOptions } from '../../contract/sheet-from-server';
import type { Context } from '../workspace/asking';
import { draftRelease } from '../forms/draft-release';
import { copiedFrom, freshnessOf } from '../links/freshness';
import { compiled } from './compiled-release';
import { lookupFilter } from './lookup-filter';
import { lookupsOf, pickFrom, type PlacedLookup } from './pick-sources';

/** Options shown at once; more are found by typing on. */
const MOST_OPTIONS = 20;

interface Asked {
  readonly form: string;
  readonly question: string;
  readonly submission: string | null;
  /** What the filter of the lookup reads, as it is answered now: by question, of the form or of the row in hand. */
  readonly given?: Readonly<Record<string, Raw>> | undefined;
}

/**
 * What a lookup of a form offers for a search, in the release that is live or that the submission began with:
 * what whoever asks picked there lately first, where nothing is searched for yet.
 */
export async function searchLookup(
  context: Context,
  input: Asked & { search: string; record?: string | undefined },
): Promise<Result<LookupOptions, Refusal>> {
  return looking(context, input, async (tx, { from, where, waitsFor, lookup, addsTo }) => {
    const { options, near } =
      input.record === undefined
        ? await searchPicks(tx, from, { search: input.search, where, most: MOST_OPTIONS })
        : { options: await pickById(tx, from, [input.record]), near: false };
    const lately =
      input.search.trim() === '' && input.record === undefined
        ? await pickedLately(tx, context, input.form, lookup, from, where)
        : [];
    const known = new Set(lately.map(({ id }) => id));
    return {
      options: [...lately, ...options.filter(({ id }) => !known.has(id))].slice(0, MOST_OPTIONS),
      lately: lately.length,
      near,
      waitsFor: options.length === 0 ? waitsFor : [],
      heads: from.show.map(({ label, unit }) => (unit === '' ? label : `${label}, ${unit}`)),
      addsTo,
      copied: copiedFrom((await freshnessOf(tx, from.table)).get(from.table.id)),
    };
  });
}

/** The records that texts name, as they are typed or pasted into a lookup: null where a text names none, or several. */
export async function nameLookup(
  context: Context,
  input: Asked & { texts: readonly string[] },
): Promise<Result<{ records: (PickedRecord | null)[] }, Refusal>> {
  return looking(context, input, async (tx, { from, where }) => {
    const found = await recordsNamed(tx, from, input.texts, where);
    return {
      records: input.texts.map((text) => {
        const [one, another] = found.get(text.trim().toLowerCase()) ?? [];
        return another === undefined ? (one ?? null) : null;
      }),
    };
  });
}

/**
 * All that a lookup of repeating rows offers, as many as there may be rows: for a sheet that begins with one
 * for each. `more`: that there are others.
 */
export async function eachOfLookup(
  context: Context,
  input: Asked,
): Promise<Result<{ records: PickedRecord[]; more: boolean }, Refusal>> {
  return looking(
    context,
    input,
    async (tx, { from, where, waitsFor, most }) => {
      const found = waitsFor.length > 0 ? [] : await allPicks(tx, from, where, most + 1);
      return { records: found.slice(0, most), more: found.length > most };
    },
    ({ question, group }) => (group === null ? fitsId(question.id) : startsId(group)),
  );
}

/** Own submissions that are looked into for what was picked lately, and how many of that are shown first. */
const LATELY = { submissions: 30, picks: 4 };

async function pickedLately(
  tx: Tx,
  { person }: Context,
  form: string,
  { question, group }: PlacedLookup,
  from: PickFrom,
  where: Condition | null,
): Promise<PickedRecord[]> {
  const answers = await latestAnswers(tx, person.id, form, LATELY.submissions);
  const ids = answers.flatMap(({ values, rows }) =>
    group === null ? [values[question.id]] : (rows[group] ?? []).map(({ cells }) => cells[question.id]),
  );
  const recent = [...new Set(ids.flatMap((id) => (typeof id === 'string' && isUuid(id) ? [id] : [])))].slice(
    0,
    LATELY.picks,
  );
  const found = new Map((await pickById(tx, from, recent, where)).map((one) => [one.id, one]));
  return recent.flatMap((id) => found.get(id) ?? []);
}

/** A lookup as it is asked now. */
interface Looked {
  readonly lookup: PlacedLookup;
  readonly from: PickFrom;
  readonly where: Condition | null;
  /** Labels of what its filter reads and nobody has answered. */
  readonly waitsFor: readonly string[];
  readonly addsTo: string | null;
  /** Rows there may be where it stands in some. */
  readonly most: number;
}

/** A missing record is added on the spot where its table lets it be, and nothing must be picked for it. */
const addsTo = (
  catalogue: Catalogue,
  { person }: Context,
  { id, label, linked, parent, columns }: Table,
): string | null =>
  may(catalogue, person.id, 'add', id) &&
  may(catalogue, person.id, 'see', id) &&
  linked?.adds !== false &&
  parent === null &&
  columns.every(
    (one) =>
      !one.required ||
      one.default !== '' ||
      (one.kind !== 'reference' && one.kind !== 'files' && !one.locked),
  )
    ? label
    : null;

/** The release that is filled, or the draft that is rehearsed by those who design it. */
async function releaseAsked(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  { form, submission: of }: Asked,
): Promise<Result<ReleaseRow, Refusal>> {
  if (of === 'rehearsal') {
    const draft = await draftRelease(tx, catalogue, context, form);
    return draft.ok ? ok(draft.value.release) : draft;
  }
  const submission = of === null ? null : await readSubmission(tx, of);
  const release =
    submission === null
      ? await liveRelease(tx, catalogue, form)
      : await readRelease(tx, catalogue, submission.releaseId);
  const fills = submission !== null || mayForm(catalogue, context.person.id, 'fill', form);
  return release === null || release.formId !== form || !fills ? fail(notFound('form')) : ok(release);
}

function looking<T>(
  context: Context,
  input: Asked,
  look: (tx: Tx, looked: Looked) => Promise<T>,
  condition: (lookup: PlacedLookup) => string = ({ question }) => fitsId(question.id),
): Promise<Result<T, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const asked = await releaseAsked(tx, catalogue, context, input);
    if (!asked.ok) return asked;
    const release = asked.value;
    const lookup = lookupsOf(release.design).find(({ question }) => question.id === input.question);
    if (lookup === undefined) return fail(notFound('question'));
    await nowAsking(tx, { release: release.id });
    const { tables } = catalogue;
    const form = compiled(catalogue, release);
    const from = pickFrom(form, tables, lookup.question);
    if (from === null) return fail(notFound('table'));
    const given = input.given ?? {};
    const filter = lookupFilter(catalogue, context, form, lookup.question, given, condition(lookup));
    if (!filter.ok) return fail(invalid(...filter.error));
    const most = form.groups.get(lookup.group ?? '')?.most ?? 0;
    return ok(
      await look(tx, { lookup, from, addsTo: addsTo(catalogue, context, from.table), most, ...filter.value }),
    );
  });
}
