import { tablesFor, type Catalogue } from '../../core/catalogue/catalogue';
import { pickedText, type Picked } from '../../core/check/pick-text';
import { issue } from '../../core/kernel/issue';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { readFilter, type Filter } from '../../core/record/filter';
import { filterScope } from '../../core/record/table-scope';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { seenIn, type WordsSeen } from '../../data/runtime/records/find-records';
import { allOf, bothHold, filterSql, relatedTo, type Condition } from '../../data/runtime/records/filter-sql';
import { localTime, type Context } from '../workspace/asking';

export interface Which {
  /** That the words which are looked for are seen; null where there are none. */
  readonly words: WordsSeen | null;
  /** FEEL over the columns of the table; empty for all records. */
  readonly where: string;
  /** Those that refer to a record by a column, are rows of it, or matched with it. */
  readonly of?: RelatedTo | undefined;
}
/** `via` is the id of the column, a match, or `rows`. */
export interface RelatedTo {
  readonly record: string;
  readonly via: string;
}

/** Tables that whoever asks may see, by id: what a filter may name. */
export const seenTables = (catalogue: Catalogue, person: string): ReadonlyMap<string, Table> =>
  new Map(tablesFor(catalogue, person, 'see').map((table) => [table.id, table]));

/** That each word is seen somewhere in a record, among what whoever asks may see. */
export const wordsSeen = (
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  table: Table,
  find: string,
): Promise<WordsSeen | null> => seenIn(tx, seenTables(catalogue, context.person.id), table, find);

/** The condition of the records that are asked for; null for all. */
export function whichRecords(
  catalogue: Catalogue,
  context: Context,
  table: Table,
  { words: seen, where, of }: Which,
): Result<{ condition: Condition | null; filter: Filter | null }, Refusal> {
  const tables = seenTables(catalogue, context.person.id);
  const related = of === undefined ? null : relatedTo(table, of.via, of.record, tables);
  if (of !== undefined && related === null)
    return fail(invalid(issue('unknown-column', ['via'], { name: of.via })));
  const words = allOf(related, seen);
  if (where.trim() === '') return ok({ condition: bothHold(words, null), filter: null });
  const filter = readFilter(where, table, filterScope(table, tables));
  if (!filter.ok) return fail(invalid(...filter.error));
  const now = localTime(catalogue.workspace, context.now);
  const holds = filterSql(filter.value.tree, table, tables, {
    today: now.slice(0, 10),
    now,
    me: context.person.id,
  });
  if (!holds.ok) return fail(invalid(...holds.error));
  return ok({
    condition: bothHold(words, holds.value),
    filter: filter.value,
  });
}

/** The filter without what was picked about one column, so that its other values are still counted. */
export const withoutPicksOf = (picked: Picked | null, where: string, left: string): string =>
  picked === null || picked.join === 'any'
    ? where
    : pickedText({ ...picked, picks: picked.picks.filter((pick) => pick.left !== left) });
