import { may, seenTable } from '../../core/catalogue/catalogue';
import { seeNewTables } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { foundName } from '../../core/link/found-table';
import type { RefreshEvery } from '../../core/link/link';
import { notLinked, planLinks } from '../../core/link/plan-link';
import { planList } from '../../core/link/plan-list';
import type { SourceFault } from '../../core/link/source';
import type { Table } from '../../core/table/model';
import { notLinkedSentence, sourceFaultSentence } from '../../core/wording/source-sentence';
import { makeLinkedTables, unlink, type Linking } from '../../data/runtime/links/link-tables';
import { oneTableChangeAtATime } from '../../data/runtime/tables/tables';
import { askRefreshJob, linksOf, readLink, readSource, updateLink } from '../../data/system/links';
import { asOwner, asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { foundList, foundTables, knownSource, linkedThere, type KnownSource } from './look-at-source';

/**
 * Links tables of another database, or a list, as tables here. What is linked is looked at anew, so that what
 * the screen showed a while ago is not what counts. One that is linked already is not linked again: a repeat
 * changes nothing.
 */
export async function linkTables(
  context: Context,
  id: string,
  input: { tables: readonly string[]; every: RefreshEvery },
): Promise<Result<{ keys: string[] }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  const known = await knownSource(context, id);
  if (!known.ok) return known;
  const planned = await (known.value.source.address.t === 'list'
    ? plannedList(known.value, context)
    : plannedTables(known.value, context, input.tables));
  if (!planned.ok) return planned;
  return asOwner({ person: who.value.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    const source = await readSource(tx, id, true);
    if (source === null) return fail(notFound('source'));
    const linked = await linksOf(tx, id);
    const fresh = planned.value.filter(
      ({ mapping }) =>
        !linked.some(
          (one) =>
            mapping.t === 'list' ||
            (one.mapping.t === 'table' && foundName(one.mapping) === foundName(mapping)),
        ),
    );
    const taken = new Set([...catalogue.tables.values()].map(({ key }) => key));
    const clash = fresh.find(({ table }) => taken.has(table.key));
    if (clash !== undefined)
      return fail(invalid(issue('table-key-taken', ['tables'], { key: clash.table.key })));
    if (fresh.length > 0) await makeLinkedTables(tx, source, fresh, input.every, seeNewTables);
    for (const { table } of fresh) await askRefreshJob(tx, table.id);
    return ok({ keys: fresh.map(({ table }) => table.key) });
  });
}

async function plannedTables(
  known: KnownSource,
  context: Context,
  names: readonly string[],
): Promise<Result<Linking[], Refusal>> {
  const { source, tables } = known;
  if (!known.reaches) return failed(source.label, { code: 'not-possible-here', facts: {} });
  const found = await foundTables(source);
  if (!found.ok) return failed(source.label, found.error);
  const chosen = found.value.filter((table) => names.includes(foundName(table)));
  const wrong = chosen.flatMap((table) => {
    const why = notLinked(table);
    return why === null
      ? []
      : [issue('not-linkable', ['tables'], { table: foundName(table), why: notLinkedSentence()[why] })];
  });
  if (wrong.length > 0) return fail(invalid(...wrong));
  const ids = new Map<string, string>();
  const idOf = (name: string): string =>
    ids.get(name) ?? (ids.set(name, newUuid(context.now.getTime())).get(name) as string);
  const there = linkedThere(known);
  return ok(
    planLinks(
      chosen.filter((table) => !there.some(({ mapping }) => foundName(mapping) === foundName(table))),
      there,
      [...tables.values()],
      idOf,
    ),
  );
}

async function plannedList(
  { source, tables, links }: KnownSource,
  context: Context,
): Promise<Result<Linking[], Refusal>> {
  if (links.length > 0) return ok([]);
  const list = await foundList(source);
  if (!list.ok) return failed(source.label, list.error);
  const plan = planList(list.value, source.label, [...tables.values()], newUuid(context.now.getTime()));
  return plan === null
    ? fail(
        invalid(
          issue('not-linkable', ['tables'], { table: source.label, why: notLinkedSentence()['no-key'] }),
        ),
      )
    : ok([plan]);
}

const failed = (source: string, fault: SourceFault): Result<never, Refusal> =>
  fail(invalid(issue('source-failed', ['source'], { source, why: sourceFaultSentence(fault) })));

/** Asks for a refresh now; whoever sees the table may. */
export async function askRefresh(context: Context, key: string): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table?.linked == null) return fail(notFound('table'));
    await askRefreshJob(tx, table.id);
    return ok(null);
  });
}

/** How often it is refreshed from now on. */
export async function changeLink(
  context: Context,
  key: string,
  input: { every: RefreshEvery },
): Promise<Result<null, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table?.linked == null) return fail(notFound('table'));
    if (!may(catalogue, context.person.id, 'design', table.id)) return fail(forbidden('design-table'));
    await updateLink(tx, table.id, { every: input.every });
    return ok(null);
  });
}

/** Ends the link: the table stays, with the records it has, as one of our own. */
export async function unlinkTable(context: Context, key: string): Promise<Result<null, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asOwner({ person: who.value.id }, async (tx) => {
    const catalogue = await oneTableChangeAtATime(tx);
    const table: Table | undefined = [...catalogue.tables.values()].find((one) => one.key === key);
    if (
      table === undefined ||
      !may(catalogue, context.person.id, 'see', table.id) ||
      (await readLink(tx, table.id)) === null
    )
      return fail(notFound('table'));
    if (!may(catalogue, context.person.id, 'design', table.id)) return fail(forbidden('design-table'));
    await unlink(tx, table);
    return ok(null);
  });
}
