import { groupsOf, rowRulesFor, tablesFor, type Catalogue } from '../../core/catalogue/catalogue';
import { pickedText, type Picked } from '../../core/check/pick-text';
import { issue } from '../../core/kernel/issue';
import { invalid, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Expression } from '../../core/expression/tree';
import { YES_NO } from '../../core/expression/type';
import type { Seen } from '../../data/runtime/records/count-sights';
import { readFilter, type Filter } from '../../core/record/filter';
import { readRowRule } from '../../core/record/row-rules';
import { filterScope } from '../../core/record/table-scope';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { seenIn, type WordsSeen } from '../../data/runtime/records/find-records';
import {
  allOf,
  bothHold,
  filterSql,
  relatedTo,
  type Condition,
  type Looking,
} from '../../data/runtime/records/filter-sql';
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
  const filter = where.trim() === '' ? null : readFilter(where, table, filterScope(table, tables));
  if (filter?.ok === false) return fail(invalid(...filter.error));
  const asked = filter?.value ?? null;
  const tree = bothTrees(asked?.tree ?? null, theirRecords(catalogue, context.person.id, table));
  if (tree === null) return ok({ condition: bothHold(words, null), filter: asked });
  const now = localTime(catalogue.workspace, context.now);
  const holds = filterSql(tree, table, catalogue.tables, {
    today: now.slice(0, 10),
    now,
    me: lookingAs(catalogue, context.person.id),
  });
  if (!holds.ok) return fail(invalid(...holds.error));
  return ok({ condition: bothHold(words, holds.value), filter: asked });
}

/** Whoever asks, as conditions know them. */
export function lookingAs(catalogue: Catalogue, person: string): Looking {
  const { name = '', place = '', email = '' } = catalogue.people.get(person) ?? {};
  return {
    id: person,
    parts: { name, place, email },
    groups: [...groupsOf(catalogue, person)].flatMap((id) => catalogue.groups.get(id)?.label ?? []),
  };
}

/** Which records of a table somebody sees, as the rules say. */
export function seenBy(catalogue: Catalogue, person: string, table: Table): Seen {
  const rules = rowRulesFor(catalogue, person, 'see', table.id);
  if (rules === null) return 'all';
  const trees = rules.flatMap((rule) => {
    const read = readRowRule(rule, table, catalogue.tables);
    return read.ok ? [read.value] : [];
  });
  return trees.length === 0 ? 'none' : trees.reduce((left, right) => joinedBy('or', left, right));
}

/**
 * The same where they see some only; null where that is all. The policies hold it, whatever is asked; it is
 * asked as well so that the planner finds those records by an index, and what is counted is counted as
 * theirs.
 */
function theirRecords(catalogue: Catalogue, person: string, table: Table): Expression | null {
  const seen = seenBy(catalogue, person, table);
  return typeof seen === 'string' ? null : seen;
}

const bothTrees = (one: Expression | null, other: Expression | null): Expression | null =>
  one === null ? other : other === null ? one : joinedBy('and', one, other);

const joinedBy = (op: 'and' | 'or', left: Expression, right: Expression): Expression => ({
  op,
  left,
  right,
  type: YES_NO,
  span: left.span,
});

/** The filter without what was picked about one column, so that its other values are still counted. */
export const withoutPicksOf = (picked: Picked | null, where: string, left: string): string =>
  picked === null || picked.join === 'any'
    ? where
    : pickedText({ ...picked, picks: picked.picks.filter((pick) => pick.left !== left) });
