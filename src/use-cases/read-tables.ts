import { may, seenTable, tablesFor } from '../core/catalogue/catalogue';
import type {
  CopiedFrom,
  OneRecordData,
  RecordsData,
  TablePicture,
  TablesData,
} from '../contract/answers-from-server';
import { mayDesign } from '../core/access/rules';
import { limits } from '../core/limits';
import { fail, ok, type Result } from '../core/kernel/result';
import { notFound, type Refusal } from '../core/kernel/refusal';
import type { Freshness } from '../core/link/link';
import type { Table } from '../core/table/model';
import type { Tx } from '../data/connect';
import { recordCounts, type RecordCount } from '../data/runtime/record-counts';
import { readReferences } from '../data/runtime/references';
import { askSortIndex, countRecords, readChildren, readRecord, readRecords } from '../data/runtime/records';
import { allLinks, linksAmong } from '../data/system/links';
import { readHistory } from '../data/runtime/history';
import { asPerson } from '../data/transaction';
import type { Context } from './asking';

const PAGE_SIZE = 50;

export async function listTables(context: Context): Promise<Result<TablesData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const seen = tablesFor(catalogue, context.person.id, 'see');
    const counts = await recordCounts(tx, seen);
    const fresh = await freshnessOf(tx);
    return ok({
      tables: seen.map((table) => ({
        id: table.id,
        key: table.key,
        label: table.label,
        columns: table.columns.length,
        ...countOf(counts, table),
        parent: catalogue.tables.get(table.parent ?? '')?.label ?? null,
        linked: copiedFrom(fresh.get(table.id)),
      })),
      mayImport: mayDesign(context.person),
    });
  });
}

/** The tables this person may see and how they refer to one another, from the foreign keys there are. */
export async function readTablePicture(context: Context): Promise<Result<TablePicture, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const seen = tablesFor(catalogue, context.person.id, 'see');
    const counts = await recordCounts(tx, seen);
    const byKey = new Map(seen.map((table) => [table.key, table]));
    return ok({
      tables: seen.map((table) => ({
        key: table.key,
        label: table.label,
        ...countOf(counts, table),
        columns: table.columns.length,
        title: table.columns.filter(({ id }) => table.title.includes(id)).map(({ label }) => label),
      })),
      references: (await readReferences(tx))
        .filter(({ from, to }) => byKey.has(from) && byKey.has(to))
        .map(({ from, to, column }) => ({
          from,
          to,
          label:
            column === 'parent_id'
              ? 'rows of'
              : (byKey.get(from)?.columns.find(({ key }) => key === column)?.label ?? column),
        })),
    });
  });
}

const countOf = (counts: ReadonlyMap<string, RecordCount>, { id }: Table): RecordCount =>
  counts.get(id) ?? { records: 0, about: false };

export const copiedFrom = (fresh: Freshness | undefined): CopiedFrom | null =>
  fresh === undefined
    ? null
    : { source: fresh.source, refreshedAt: fresh.refreshedAt, failing: fresh.fault !== null };

/** How fresh linked tables are, by their ids: of one, or of all. */
export async function freshnessOf(tx: Tx, table: Table | null = null): Promise<Map<string, Freshness>> {
  if (table !== null && table.linked === null) return new Map();
  const links = table === null ? await allLinks(tx) : await linksAmong(tx, [table.id]);
  return new Map(
    links.map(({ link: { tableId, mapping, every, refreshedAt, triedAt, fault, refreshed }, source }) => [
      tableId,
      {
        source: source.label,
        place: source.id,
        every,
        refreshedAt: refreshedAt?.toISOString() ?? null,
        triedAt: triedAt?.toISOString() ?? null,
        fault,
        silentUntil:
          (source.silentUntil?.getTime() ?? 0) > Date.now()
            ? (source.silentUntil?.toISOString() ?? null)
            : null,
        refreshed: refreshed ?? null,
        adds: mapping.t === 'table' && mapping.adds,
        changes: mapping.t === 'table' && mapping.changes,
      },
    ]),
  );
}

export async function openRecords(
  context: Context,
  key: string,
  query: { sort: string; order: 'up' | 'down'; page: number },
): Promise<Result<RecordsData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const { tables } = catalogue;
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    const pageOf = (page: number) =>
      readRecords(tx, tables, table, {
        sort: query.sort,
        descending: query.order === 'down',
        page,
        size: PAGE_SIZE,
      });
    const wanted = await pageOf(query.page);
    // Nothing on a page that ought to have something: only counting one by one tells which is the last.
    const guessed = countOf(await recordCounts(tx, [table]), table);
    const beyond = query.page > 1 && wanted.length === 0;
    const { records: total, about } = beyond
      ? { records: await countRecords(tx, table), about: false }
      : guessed;
    const pages = Math.max(1, Math.ceil(total / PAGE_SIZE), beyond ? 1 : query.page);
    // A page beyond the last, as of an old address, is the last.
    const page = Math.min(query.page, pages);
    const rows = page === query.page ? wanted : await pageOf(page);
    if (about) await askSortIndex(tx, table, { sort: query.sort, descending: query.order === 'down' });
    return ok({
      table,
      rows,
      total,
      about,
      page,
      pages,
      sort: query.sort,
      order: query.order,
      mayDesign: mayDesign(context.person) && may(catalogue, context.person.id, 'design', table.id),
      freshness: (await freshnessOf(tx, table)).get(table.id) ?? null,
    });
  });
}

/** One record with the rows that belong to it and what happened to it. */
export async function openRecord(
  context: Context,
  key: string,
  id: string,
): Promise<Result<OneRecordData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const { tables } = catalogue;
    const table = seenTable(catalogue, context.person.id, key);
    const record = table === null ? null : await readRecord(tx, tables, table, id);
    if (table === null || record === null) return fail(notFound('record'));
    const children = [...tables.values()].filter(({ parent }) => parent === table.id);
    const related: { table: Table; rows: Awaited<ReturnType<typeof readChildren>> }[] = [];
    for (const child of children)
      if (may(catalogue, context.person.id, 'see', child.id))
        related.push({ table: child, rows: await readChildren(tx, tables, child, id, limits.pageSize) });
    return ok({
      table,
      record,
      related,
      history: await readHistory(
        tx,
        table.id,
        id,
        limits.pageSize,
        table.linked?.source ?? 'the database itself',
      ),
    });
  });
}
