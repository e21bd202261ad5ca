import { may, rowRulesFor, seenTable, type Catalogue } from '../../core/catalogue/catalogue';
import type {
  OneRecordData,
  RecordData,
  RecordPageData,
  RecordsData,
} from '../../contract/answers-from-server';
import { isUuid } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { fail, ok, type Result } from '../../core/kernel/result';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { matchVia } from '../../core/table/matches';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { recordCounts, tableSizes } from '../../data/runtime/records/record-counts';
import {
  parentOf,
  readRecord,
  readRecords,
  recordOfNumber,
  type RecordQuery,
} from '../../data/runtime/records/records';
import { firstAt, type From } from '../../data/runtime/records/keysets';
import { askSortIndex } from '../../data/runtime/records/sort-index';
import { jumpValue } from '../../core/record/jump';
import { NUMBER_PLACE } from '../../core/record/places';
import { freshnessOf } from '../links/freshness';
import { countFound } from '../../data/runtime/records/find-records';
import { onlyIf, relatedTo, type Condition } from '../../data/runtime/records/filter-sql';
import { idsWithin } from '../../data/runtime/records/within-rules';
import { readHistory } from '../../data/runtime/records/history';
import { asPerson } from '../../data/transaction';
import { countOf } from '../tables/read-tables';
import type { Context } from '../workspace/asking';
import { relatedTables, tableAtWork } from './table-at-work';
import { isOwn, placedSorts, shownPlaces } from './shown-places';
import { seenTables, whichRecords, wordsSeen } from './which-records';

/** Records sent at once; as somebody scrolls on, the next come. */
const AT_ONCE = 100;

interface Ordered {
  /** `-received,name`: see `readSorts`. */
  readonly sort: string;
  readonly find?: string;
  readonly where?: string;
}
interface Asked extends Ordered {
  readonly after?: string | undefined;
  readonly before?: string | undefined;
  /** The value, of what they are sorted by, from which on they are wanted. */
  readonly at?: string | undefined;
  /** What is shown, as places of the table divided by commas; empty for its own columns. */
  readonly columns?: string;
  /** Only those that are related to this record `via` a column, or as its rows. */
  readonly of?: string | undefined;
  readonly via?: string;
}

export async function openRecords(
  context: Context,
  key: string,
  { sort, after, before, at, of, via = 'rows', find = '', where: filter = '', columns = '' }: Asked,
): Promise<Result<RecordsData, Refusal>> {
  const { person } = context;
  return asPerson({ person: person.id }, async (tx, catalogue) => {
    const { tables } = catalogue;
    const table = seenTable(catalogue, person.id, key);
    if (table === null) return fail(notFound('table'));
    const which = whichRecords(catalogue, context, table, {
      words: await wordsSeen(tx, catalogue, context, table, find),
      where: filter,
      of: of === undefined ? undefined : { record: of, via },
    });
    if (!which.ok) return which;
    if (of !== undefined) await quickMatch(tx, catalogue, table, via);
    const tablesSeen = seenTables(catalogue, person.id);
    const sorts = placedSorts(table, tablesSeen, sort);
    if (!sorts.ok) return sorts;
    const shown = shownPlaces(table, tablesSeen, columns);
    if (!shown.ok) return shown;
    const where = which.value.condition;
    const begun = await beginning(tx, tables, table, { sorts: sorts.value, where }, { after, before, at });
    if (!begun.ok) return begun;
    const { from, isBeyond } = begun.value;
    const more = isBeyond
      ? []
      : await readRecords(tx, tables, table, {
          sorts: sorts.value,
          from,
          where,
          most: AT_ONCE + 1,
          also: shown.value.filter((place) => !isOwn(place)),
        });
    const beyond = more.length > AT_ONCE;
    const back = from?.side === 'before';
    const lot = back ? more.slice(beyond ? 1 : 0) : more.slice(0, AT_ONCE);
    const rows = await withFixed(tx, catalogue, person.id, table, lot);
    // Where a first lot holds all there are, they are counted.
    const counted =
      where === null
        ? countOf(await recordCounts(tx, [table]), table)
        : from === null && !isBeyond && !beyond
          ? { records: rows.length, about: false }
          : await countFound(tx, table, where);
    const [first, second] = sorts.value;
    if (counted.about && where === null && first !== undefined && second === undefined)
      await askSortIndex(tx, table, first);
    return ok({
      version: table.version,
      rows,
      total: counted.records,
      about: counted.about,
      more: back ? { before: beyond, after: true } : { before: from !== null || isBeyond, after: beyond },
      sort,
      columns,
      find,
      where: filter,
      picked: which.value.filter?.picked ?? null,
      freshness: (await freshnessOf(tx, table)).get(table.id) ?? null,
    });
  });
}

/** Says of each record whether it is none of those that somebody may change, where those are some only. */
async function withFixed(
  tx: Tx,
  catalogue: Catalogue,
  person: string,
  table: Table,
  rows: readonly RecordData[],
): Promise<RecordData[]> {
  const rules = rowRulesFor(catalogue, person, 'change', table.id);
  if (rules === null || rules.length === 0 || rows.length === 0) return [...rows];
  const within = await idsWithin(
    tx,
    table,
    'change',
    rows.map(({ id }) => id),
  );
  return rows.map((row) => (within.has(row.id) ? row : { ...row, isFixed: true }));
}

/** Where the records that are asked for begin; `isBeyond` where nothing stands from there on. */
async function beginning(
  tx: Tx,
  tables: Catalogue['tables'],
  table: Table,
  { sorts, where }: Pick<RecordQuery, 'sorts' | 'where'>,
  { after, before, at }: Pick<Asked, 'after' | 'before' | 'at'>,
): Promise<Result<{ from: From | null; isBeyond: boolean }, Refusal>> {
  if (after !== undefined) return ok({ from: { side: 'after', id: after }, isBeyond: false });
  if (before !== undefined) return ok({ from: { side: 'before', id: before }, isBeyond: false });
  const [first] = sorts;
  if (at === undefined || first === undefined) return ok({ from: null, isBeyond: false });
  const value = jumpValue(first.place, at);
  if (!value.ok) return fail(invalid(value.error));
  const id = await firstAt(tx, tables, table, { sorts, where, value: value.value });
  return ok({ from: id === null ? null : { side: 'from', id }, isBeyond: id === null });
}

/** One record with what is related to it and what happened to it. */
export async function openRecord(
  context: Context,
  key: string,
  id: string,
): Promise<Result<OneRecordData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    const one = table === null ? null : await oneRecord(tx, catalogue, context, table, id);
    return one === null ? fail(notFound('record')) : ok(one);
  });
}

/** A record at its own address, by its number or its id, with those beside it in the order it was come by. */
export async function openRecordPage(
  context: Context,
  key: string,
  name: string,
  asked: Ordered,
): Promise<Result<RecordPageData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    if (table === null) return fail(notFound('table'));
    const id = isUuid(name) ? name : await recordOfNumber(tx, table, name);
    const one = id === null ? null : await oneRecord(tx, catalogue, context, table, id);
    if (id === null || one === null) return fail(notFound('record'));
    const which = whichRecords(catalogue, context, table, {
      words: await wordsSeen(tx, catalogue, context, table, asked.find ?? ''),
      where: asked.where ?? '',
    });
    // An order that cannot be read any more is no reason not to show the record.
    const ordered = placedSorts(table, seenTables(catalogue, context.person.id), asked.sort);
    const query = which.ok && ordered.ok ? asked : { sort: '-number' };
    const beside = async (side: 'before' | 'after'): Promise<string | null> => {
      const [next] = await readRecords(tx, catalogue.tables, table, {
        sorts: ordered.ok ? ordered.value : [{ place: NUMBER_PLACE(), descending: true }],
        from: { side, id },
        where: which.ok ? which.value.condition : null,
        most: 1,
      });
      return next?.number ?? null;
    };
    return ok({
      ...(await tableAtWork(tx, catalogue, context, table)),
      one,
      owner: await ownerOf(tx, catalogue, context, table, id),
      beside: { before: await beside('before'), after: await beside('after') },
      query: addressOf(query),
    });
  });
}

const addressOf = ({ sort, find = '', where = '' }: Ordered): string =>
  new URLSearchParams({
    sort,
    ...(find !== '' && { find }),
    ...(where !== '' && { where }),
  }).toString();

async function oneRecord(
  tx: Tx,
  catalogue: Catalogue,
  { person }: Context,
  table: Table,
  id: string,
): Promise<OneRecordData | null> {
  const { tables } = catalogue;
  const found = await readRecord(tx, tables, table, id);
  if (found === null) return null;
  const [record = found] = await withFixed(tx, catalogue, person.id, table, [found]);
  const related: OneRecordData['related'][number][] = [];
  for (const { may: _, ...relation } of relatedTables(catalogue, person.id, table)) {
    const { table: other, column, via } = relation;
    const holds = relatedTo(other, via, id, seenTables(catalogue, person.id));
    if (holds === null) continue;
    await quickMatch(tx, catalogue, other, via);
    const some = await firstOf(tx, tables, other, onlyIf(holds), column === null);
    related.push({ ...relation, ...some });
  }
  const nobody = table.linked?.source ?? 'the database itself';
  return {
    table,
    record,
    related,
    history: await readHistory(tx, tables, table, id, limits.pageSize, nobody),
  };
}

/** A large table that is looked into by what its records hold has an index for that made, as for sorting. */
async function quickMatch(tx: Tx, { tables }: Catalogue, table: Table, via: string): Promise<void> {
  const column = matchVia(table, via, tables)?.column;
  if (column !== undefined && countOf(await tableSizes(tx, [table]), table).about)
    await askSortIndex(tx, table, {
      place: { t: 'column', text: column.id, label: column.label, path: [column], column },
      descending: false,
    });
}

/** Related records that are shown at once; more are counted, and seen on the page of the record. */
const MOST_RELATED = 8;

async function firstOf(
  tx: Tx,
  tables: Catalogue['tables'],
  table: Table,
  where: Condition,
  isRows: boolean,
): Promise<{ rows: RecordData[]; total: number; about: boolean }> {
  const placed = placedSorts(table, tables, isRows ? 'position' : '-number');
  const query: RecordQuery = {
    sorts: placed.ok ? placed.value : [],
    from: null,
    where,
    most: MOST_RELATED,
  };
  const rows = await readRecords(tx, tables, table, query);
  if (rows.length < MOST_RELATED) return { rows, total: rows.length, about: false };
  const { records, about } = await countFound(tx, table, where);
  return { rows, total: records, about };
}

async function ownerOf(
  tx: Tx,
  catalogue: Catalogue,
  { person }: Context,
  table: Table,
  id: string,
): Promise<RecordPageData['owner']> {
  const { tables } = catalogue;
  const owner = tables.get(table.parent ?? '');
  if (owner === undefined || !may(catalogue, person.id, 'see', owner.id)) return null;
  const parent = await parentOf(tx, table, id);
  const record = parent === null ? null : await readRecord(tx, tables, owner, parent);
  return record === null ? null : { table: owner, record };
}
