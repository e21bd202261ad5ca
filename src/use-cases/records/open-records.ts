import { may, seenTable } from '../../core/catalogue/catalogue';
import type { OneRecordData, RecordsData } from '../../contract/answers-from-server';
import { mayDesign } from '../../core/access/rules';
import { limits } from '../../core/limits';
import { fail, ok, type Result } from '../../core/kernel/result';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import type { Table } from '../../core/table/model';
import { recordCounts } from '../../data/runtime/records/record-counts';
import { askSortIndex, readChildren, readRecord, readRecords } from '../../data/runtime/records/records';
import { filterables } from '../../core/record/filter';
import { countFound } from '../../data/runtime/records/find-records';
import { readHistory } from '../../data/runtime/records/history';
import { deviceKey } from '../../data/secret';
import { asPerson } from '../../data/transaction';
import { freshnessOf } from '../links/freshness';
import { countOf } from '../tables/read-tables';
import type { Context } from '../workspace/asking';
import { seenTables, whichRecords } from './which-records';

/** Records sent at once; as somebody scrolls on, the next come. */
const AT_ONCE = 100;

interface Asked {
  readonly sort: string;
  readonly order: 'up' | 'down';
  readonly after?: string | undefined;
  readonly before?: string | undefined;
  readonly find?: string;
  readonly where?: string;
}

export async function openRecords(
  context: Context,
  key: string,
  { sort, order, after, before, find = '', where: filter = '' }: Asked,
): Promise<Result<RecordsData, Refusal>> {
  const { person } = context;
  return asPerson({ person: person.id }, async (tx, catalogue) => {
    const { tables } = catalogue;
    const table = seenTable(catalogue, person.id, key);
    if (table === null) return fail(notFound('table'));
    const which = whichRecords(catalogue, context, table, { find, where: filter });
    if (!which.ok) return which;
    const where = which.value.condition;
    const [id, side] = after === undefined ? [before, 'before' as const] : [after, 'after' as const];
    const more = await readRecords(tx, tables, table, {
      sort,
      descending: order === 'down',
      from: id === undefined ? null : { side, id },
      where,
      most: AT_ONCE + 1,
    });
    const beyond = more.length > AT_ONCE;
    const back = side === 'before' && id !== undefined;
    const rows = back ? more.slice(beyond ? 1 : 0) : more.slice(0, AT_ONCE);
    // Where a first lot holds all there are, they are counted.
    const counted =
      where === null
        ? countOf(await recordCounts(tx, [table]), table)
        : id === undefined && !beyond
          ? { records: rows.length, about: false }
          : await countFound(tx, table, where);
    if (counted.about && where === null)
      await askSortIndex(tx, table, { sort, descending: order === 'down' });
    const allowed = (action: 'add' | 'change' | 'remove', outside: boolean): boolean =>
      may(catalogue, person.id, action, table.id) && (table.linked === null || outside);
    return ok({
      table,
      rows,
      total: counted.records,
      about: counted.about,
      more: back ? { before: beyond, after: true } : { before: id !== undefined, after: beyond },
      sort,
      order,
      find,
      where: filter,
      picked: which.value.filter?.picked ?? null,
      filterables: filterables(table, seenTables(catalogue, person.id)),
      may: {
        add: allowed('add', table.linked?.adds ?? false),
        change: allowed('change', table.linked?.changes ?? false),
        remove: allowed('remove', false),
      },
      targets: Object.fromEntries(
        table.columns.flatMap(({ target }) => {
          const known = target === null ? undefined : tables.get(target);
          return known !== undefined && may(catalogue, person.id, 'see', known.id)
            ? [[known.id, known.key]]
            : [];
        }),
      ),
      deviceKey: deviceKey(person.id),
      mayDesign: mayDesign(person) && may(catalogue, person.id, 'design', table.id),
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
        tables,
        table,
        id,
        limits.pageSize,
        table.linked?.source ?? 'the database itself',
      ),
    });
  });
}
