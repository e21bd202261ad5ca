import { idsFor } from '../../core/catalogue/catalogue';
import type { SourceData, SourceLook, SourcesData } from '../../contract/sources';
import { mayAdminister } from '../../core/access/rules';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { foundName } from '../../core/link/found-table';
import { listRows, type ListRows } from '../../core/link/list-rows';
import { planList } from '../../core/link/plan-list';
import type { LinkedThere } from '../../core/link/plan-link';
import { sourceFault, type SourceFault } from '../../core/link/source';
import { introspect } from '../../data/introspect';
import { secretOf } from '../../data/runtime/links/open-source';
import {
  linksOf,
  readLinks,
  readSource,
  readSources,
  reachesOthers,
  type LinkRow,
  type SourceRow,
} from '../../data/system/links';
import { asPerson } from '../../data/transaction';
import { fetchList } from '../../outside/fetch-list';
import { reachable } from '../../outside/reach';
import type { Table } from '../../core/table/model';
import { designer, type Context } from '../workspace/asking';

/** The sources there are, with the tables that are linked to each. */
export async function listSources(context: Context): Promise<Result<SourcesData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const seen = idsFor(catalogue, who.value.id, 'see');
    const [sources, links, tables] = [await readSources(tx), await readLinks(tx), catalogue.tables];
    return ok({
      mayAdminister: mayAdminister(who.value),
      sources: sources.map(({ id, label, address }) => {
        const own = links.filter(({ sourceId, tableId }) => sourceId === id && seen.has(tableId));
        return {
          id,
          label,
          address,
          tables: own.map(({ tableId }) => tables.get(tableId)?.label ?? '').sort(),
          failing: own.filter(({ fault }) => fault !== null).length,
        };
      }),
    });
  });
}

export async function openSource(context: Context, id: string): Promise<Result<SourceData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const source = await readSource(tx, id);
    if (source === null) return fail(notFound('source'));
    const { tables } = catalogue;
    const seen = idsFor(catalogue, who.value.id, 'see');
    const linked = (await linksOf(tx, id))
      .filter(({ tableId }) => seen.has(tableId))
      .flatMap(({ tableId, every, mapping }) => {
        const table = tables.get(tableId);
        return table === undefined
          ? []
          : [
              {
                key: table.key,
                label: table.label,
                every,
                name: mapping.t === 'table' ? foundName(mapping) : source.label,
              },
            ];
      });
    return ok({
      id,
      label: source.label,
      address: source.address,
      hasSecret: source.secret !== null,
      version: source.version,
      mayAdminister: mayAdminister(who.value),
      linked,
    });
  });
}

/** A source with all that is known of what is linked to it. */
export interface KnownSource {
  readonly source: SourceRow;
  readonly links: readonly LinkRow[];
  readonly tables: ReadonlyMap<string, Table>;
  readonly reaches: boolean;
  /** Those of the tables that whoever asks may see. */
  readonly seen: ReadonlySet<string>;
}

export async function knownSource(context: Context, id: string): Promise<Result<KnownSource, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const source = await readSource(tx, id);
    return source === null
      ? fail(notFound('source'))
      : ok({
          source,
          links: await linksOf(tx, id),
          tables: catalogue.tables,
          reaches: await reachesOthers(tx),
          seen: idsFor(catalogue, context.person.id, 'see'),
        });
  });
}

const ENTRIES_SHOWN = 5;

/** Looks into a source: what could be linked, and what of it could not be carried over. Nothing is linked yet. */
export async function lookAtSource(context: Context, id: string): Promise<Result<SourceLook, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  const known = await knownSource(context, id);
  if (!known.ok) return known;
  const { source, tables, seen } = known.value;
  const failed = (fault: SourceFault): Result<SourceLook, Refusal> => ok({ t: 'failed', fault });
  if (source.address.t === 'database') {
    if (!known.value.reaches) return failed(sourceFault('not-possible-here'));
    const found = await foundTables(source);
    return found.ok
      ? ok({
          t: 'tables',
          found: found.value,
          linked: linkedThere(known.value).filter(({ table }) => seen.has(table.id)),
          tables: [...tables.values()].filter(({ id: one }) => seen.has(one)),
        })
      : failed(found.error);
  }
  const list = await foundList(source);
  if (!list.ok) return failed(list.error);
  const plan = planList(list.value, source.label, [...tables.values()], crypto.randomUUID());
  return ok({
    t: 'list',
    entries: list.value.rows.length,
    plan:
      plan === null
        ? null
        : {
            table: plan.table,
            left: plan.left,
            key: plan.table.columns.find(({ id: one }) => plan.mapping.by.includes(one))?.label ?? '',
            rows: list.value.rows
              .slice(0, ENTRIES_SHOWN)
              .map((row) => plan.mapping.columns.map(({ field }) => row.get(field) ?? '')),
          },
  });
}

export const linkedThere = ({ links, tables }: KnownSource): LinkedThere[] =>
  links.flatMap(({ tableId, mapping }) => {
    const table = tables.get(tableId);
    return table === undefined || mapping.t !== 'table' ? [] : [{ table, mapping }];
  });

export async function foundTables(source: SourceRow): ReturnType<typeof introspect> {
  const secret = secretOf(source);
  if (secret === null) return fail(sourceFault('secret-lost'));
  if (source.address.t !== 'database') return fail(sourceFault('no-list'));
  const at = await reachable(source.address.host);
  if (at === 'inside') return fail(sourceFault('inside'));
  return at === null
    ? fail(sourceFault('no-answer'))
    : introspect({ ...source.address, host: at.address }, secret);
}

/** The list at an address; `at` says where in the answer it was when it was linked. */
export async function foundList(
  source: SourceRow,
  at: readonly string[] | null = null,
): Promise<Result<ListRows, SourceFault>> {
  const answer = await answerOf(source);
  return answer.ok ? listRows(answer.value, at) : answer;
}

/** What a JSON address answers. */
export async function answerOf(source: SourceRow): Promise<Result<unknown, SourceFault>> {
  const secret = secretOf(source);
  if (secret === null) return fail(sourceFault('secret-lost'));
  if (source.address.t !== 'list') return fail(sourceFault('no-list'));
  return fetchList(source.address, secret);
}
