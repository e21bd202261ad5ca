import { seenTable } from '../../core/catalogue/catalogue';
import { issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { recordJson } from '../../core/record/record-json';
import type { Column, Table } from '../../core/table/model';
import { recordCounts } from '../../data/runtime/records/record-counts';
import { countFound } from '../../data/runtime/records/find-records';
import { readRecord, readRecords } from '../../data/runtime/records/records';
import { asPerson } from '../../data/transaction';
import { placedSorts } from '../records/shown-places';
import { seenTables, whichRecords, wordsSeen } from '../records/which-records';
import { countOf } from '../tables/read-tables';
import type { Context } from '../workspace/asking';

export interface ListQuery {
  readonly where: string;
  readonly find: string;
  readonly sort: string;
  readonly columns: string;
  readonly limit: number;
  readonly after?: string | undefined;
  readonly count: boolean;
}

export interface ListedRecords {
  readonly records: readonly Readonly<Record<string, unknown>>[];
  /** The record after which it goes on, by its id; null at the end. */
  readonly next: string | null;
  readonly total: { readonly records: number; readonly about: boolean } | null;
}

/** Some records of a table, as JSON, in an order and from a record on. */
export function listRecords(
  context: Context,
  key: string,
  { where, find, sort, columns, limit, after, count }: ListQuery,
): Promise<Result<ListedRecords, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    const words = await wordsSeen(tx, catalogue, context, table, find);
    const which = whichRecords(catalogue, context, table, { words, where });
    if (!which.ok) return which;
    const sorts = placedSorts(table, seenTables(catalogue, person), sort);
    if (!sorts.ok) return sorts;
    const shown = columnsNamed(table, columns);
    if (!shown.ok) return shown;
    const { condition } = which.value;
    const found = await readRecords(tx, catalogue.tables, table, {
      sorts: sorts.value,
      from: after === undefined ? null : { side: 'after', id: after },
      where: condition,
      most: limit + 1,
    });
    const rows = found.slice(0, limit);
    const total = !count
      ? null
      : condition === null
        ? countOf(await recordCounts(tx, [table]), table)
        : await countFound(tx, table, condition);
    return ok({
      records: rows.map((row) => recordJson(shown.value, row)),
      next: found.length > limit ? (rows.at(-1)?.id ?? null) : null,
      total,
    });
  });
}

/** The columns of these keys, in this order; all of them where none is named. */
function columnsNamed({ columns }: Table, text: string): Result<readonly Column[], Refusal> {
  if (text === '') return ok(columns);
  const named = text.split(',').map((key) => ({ key, column: columns.find((one) => one.key === key) }));
  const missing = named.filter(({ column }) => column === undefined);
  return missing.length > 0
    ? fail(invalid(...missing.map(({ key }) => issue('unknown-column', ['columns'], { name: key }))))
    : ok(named.flatMap(({ column }) => column ?? []));
}

/** One record as JSON. */
export function readOne(
  context: Context,
  key: string,
  id: string,
): Promise<Result<Readonly<Record<string, unknown>> & { readonly version: number }, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, key);
    if (table === null) return fail(notFound('table'));
    const record = await readRecord(tx, catalogue.tables, table, id);
    if (record === null) return fail(notFound('record'));
    return ok({ ...recordJson(table.columns, record), version: record.version });
  });
}
