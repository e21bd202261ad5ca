import type { TrailAsked, TrailData, TrailLineData, TrailLinesData } from '../../contract/trail';
import { mayAdminister } from '../../core/access/rules';
import { peopleHere, type Catalogue } from '../../core/catalogue/catalogue';
import { forbidden, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { TrailLine } from '../../core/trail/line';
import { plainColumn } from '../../core/table/model';
import { changedLines, trailSentence } from '../../core/wording/trail-sentence';
import type { Tx } from '../../data/connect';
import { liveForms } from '../../data/system/forms';
import { readTokens } from '../../data/system/tokens';
import { readTrail, sealTrail, trailSeal, type TrailQuery } from '../../data/system/trail';
import { asOwner, asPerson } from '../../data/transaction';
import { mediaTypes, written, type Download, type ExportFormat, type TakenRow } from '../../files/take-out';
import { browserWords } from '../people/own-sessions';
import { instantOf, type Context } from '../workspace/asking';

const PAGE = 100;
const AT_ONCE = 1_000;

/** The newest lines of the trail, and whether all of it is whole; for administrators. */
export async function openTrail(context: Context): Promise<Result<TrailData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  await keepSealed();
  const lines = await trailLines(context, noFilter);
  if (!lines.ok) return lines;
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const { last, seal, broken } = await trailSeal(tx);
    const people = peopleHere(catalogue).map(({ id, name, place }) => ({ id, name, place }));
    return ok({ ...lines.value, people, sealed: last, seal, broken });
  });
}

const noFilter: TrailAsked = { by: '', about: '', from: '', until: '', find: '' };

/** Seals what has been written by now. */
export async function keepSealed(): Promise<void> {
  await asOwner({ person: '' }, async (tx) => ok(await sealTrail(tx)));
}

/** Some lines, the newest first. */
export async function trailLines(
  context: Context,
  asked: TrailAsked,
): Promise<Result<TrailLinesData, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const found = await someLines(tx, catalogue, asked, PAGE + 1);
    return ok({ lines: found.slice(0, PAGE), more: found.length > PAGE });
  });
}

async function someLines(
  tx: Tx,
  catalogue: Catalogue,
  asked: TrailAsked,
  most: number,
): Promise<TrailLineData[]> {
  const rows = await readTrail(tx, queryOf(catalogue, asked), most);
  const tokens = new Map((await readTokens(tx)).map(({ token }) => [token.id, token.label]));
  const nameOf = await namesIn(tx, catalogue);
  return rows.map((row) => ({
    id: row.id,
    position: row.position,
    at: row.at.toISOString(),
    by: catalogue.people.get(row.byId ?? '')?.name ?? '',
    token: tokens.get(row.tokenId ?? '') ?? '',
    address: row.address ?? '',
    sentence: trailSentence(row),
    changed: changedLines(withBrowser(row), nameOf),
  }));
}

/** What a browser says of itself, in words. */
function withBrowser<L extends TrailLine>(line: L): L {
  const agent = line.changed['user_agent'];
  if (agent === undefined || agent === 'secret') return line;
  const [was, is] = agent.map((one) => (one === null ? null : browserWords(one)));
  return { ...line, changed: { ...line.changed, user_agent: [was ?? null, is ?? null] } };
}

function queryOf({ workspace }: Catalogue, { before, by, about, from, until, find }: TrailAsked): TrailQuery {
  return {
    before: before ?? null,
    by: by === '' ? null : by,
    subjects: about === '' ? null : [about],
    from: from === '' ? null : instantOf(workspace, `${from}T00:00:00`),
    until: until === '' ? null : instantOf(workspace, `${dayAfter(until)}T00:00:00`),
    words: find.trim(),
  };
}

const dayAfter = (day: string): string => new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10);

/** What ids stand for, as it is called by now. */
async function namesIn(tx: Tx, catalogue: Catalogue): Promise<(id: string) => string | null> {
  const { people, groups, tables, lists } = catalogue;
  const forms = new Map((await liveForms(tx, catalogue)).map(({ formId, design }) => [formId, design.title]));
  return (id) =>
    people.get(id)?.name ??
    groups.get(id)?.label ??
    tables.get(id)?.label ??
    lists.get(id)?.label ??
    forms.get(id) ??
    null;
}

const COLUMNS = ['When', 'Who', 'By token', 'Address', 'What', 'Changed'].map((label) => ({
  ...plainColumn,
  id: label,
  key: label.toLowerCase().replace(' ', '_'),
  label,
}));

/** The lines asked for as a file, the newest first; its numbers are their places. */
export async function exportTrail(
  context: Context,
  { format, ...asked }: TrailAsked & { readonly format: ExportFormat },
): Promise<Result<Download, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  await keepSealed();
  return ok({
    name: `trail.${format}`,
    type: mediaTypes[format],
    body: written(format, {
      name: 'Trail',
      columns: COLUMNS,
      rows: rowsOf(context, asked),
    }),
  });
}

async function* rowsOf(context: Context, asked: TrailAsked): AsyncGenerator<TakenRow[]> {
  for (let before = asked.before; ;) {
    const some: Result<TrailLineData[], Refusal> = await asPerson(
      { person: context.person.id },
      async (tx, catalogue) => ok(await someLines(tx, catalogue, { ...asked, before }, AT_ONCE)),
    );
    // Thrown, for a file that ends half way must not look whole.
    if (!some.ok) throw new Error(`an export of the trail was refused half way: ${some.error.kind}`);
    if (some.value.length === 0) return;
    yield some.value.map(({ position, at, by, token, address, sentence, changed }) => ({
      number: position === null ? '' : String(position),
      cells: [at, by, token, address, sentence, changed.join('\n')],
    }));
    before = some.value.at(-1)?.id;
  }
}
