import { may, seenTable } from '../../core/catalogue/catalogue';
import type { OneRecordData, RecordsData } from '../../contract/answers-from-server';
import { mayDesign } from '../../core/access/rules';
import { limits } from '../../core/limits';
import { fail, ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import type { Table } from '../../core/table/model';
import { recordCounts } from '../../data/runtime/records/record-counts';
import {
  askSortIndex,
  countRecords,
  readChildren,
  readRecord,
  readRecords,
} from '../../data/runtime/records/records';
import { readHistory } from '../../data/runtime/records/history';
import { asPerson } from '../../data/transaction';
import { freshnessOf } from '../links/freshness';
import { countOf } from '../tables/read-tables';
import type { Context } from '../workspace/asking';

const PAGE_SIZE = 50;

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
