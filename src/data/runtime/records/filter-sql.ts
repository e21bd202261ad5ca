import { sql, type SQL } from 'drizzle-orm';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import { rowsNamed } from '../../../core/record/table-scope';
import { matchVia } from '../../../core/table/matches';
import type { Table } from '../../../core/table/model';
import { columnName, rendered, stampName, seenName } from '../../identifiers';
import { recordNames } from '../tables/form-names';
import { isPersonColumn, ME, type PersonColumn } from '../../../core/expression/person';
import { joined as joinedWith, sql as fragment, value } from '../../../core/expression/sql/fragment';
import type { SqlNames } from '../../../core/expression/sql/names';

/** What records under the alias `t` must be like, and what is joined to them to tell; each record meets one row of that at most. */
export interface Condition {
  readonly joins: SQL;
  readonly holds: SQL;
}

/** When a condition is asked, and by whom, where somebody looks. */
type Asking = Pick<World, 'today' | 'now'> & { readonly me?: Looking };

/** Whoever looks: what stands behind `me`. */
export interface Looking {
  readonly id: string;
  readonly parts: Readonly<Record<PersonColumn, string>>;
  /** The labels of the groups they are in. */
  readonly groups: readonly string[];
}

function withMe(names: SqlNames, { columns }: Table, me: Looking | undefined): SqlNames {
  if (me === undefined || columns.some(({ id }) => id === ME)) return names;
  const groups = joinedWith(
    me.groups.map((label) => value(label, 'text')),
    ', ',
  );
  return {
    ...names,
    name: (id) => (id === ME ? { sql: value(me.id, 'uuid') } : names.name(id)),
    part: (name, id) => {
      if (name !== ME) return null;
      if (id === 'groups') return { sql: fragment`ARRAY[${groups}]::text[]` };
      // A place that is not given is the place of nothing: what has none is not there.
      return isPersonColumn(id) ? { sql: value(me.parts[id], 'text') } : null;
    },
  };
}

/** A condition over the records of a table. */
export function filterSql(
  tree: Expression,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  world: Asking,
): Result<Condition, Issue[]> {
  const written = toSql(
    tree,
    withMe(
      recordNames(table, tables, 't', (id) => rowsNamed(id, tables), world),
      table,
      world.me,
    ),
  );
  if (!written.ok) return written;
  const { joins, expression } = written.value;
  return ok({ joins: rendered(joins), holds: sql`(${rendered(expression)})` });
}

/** That a record refers to another by a column, is a row of it, or is matched with it; null where it cannot. */
export function relatedTo(
  table: Table,
  via: string,
  record: string,
  tables: ReadonlyMap<string, Table>,
): SQL | null {
  if (via === 'rows')
    return table.parent === null ? null : sql`t.${stampName('parent_id')} = ${record}::uuid`;
  const column = table.columns.find(({ id, kind }) => id === via && kind === 'reference');
  return column === undefined
    ? holdsTheSame(table, via, record, tables)
    : sql`t.${columnName(column)} = ${record}::uuid`;
}

function holdsTheSame(
  table: Table,
  via: string,
  record: string,
  tables: ReadonlyMap<string, Table>,
): SQL | null {
  const match = matchVia(table, via, tables);
  if (match === null) return null;
  const { column, of, holding } = match;
  const same = sql`t.${columnName(column)} = (SELECT m.${columnName(holding)} FROM ${seenName(of)} m WHERE m.id = ${record}::uuid)`;
  return of.id === table.id ? sql`${same} AND t.id <> ${record}::uuid` : same;
}

export const allOf = (one: SQL | null, other: SQL | null): SQL | null =>
  one === null ? other : other === null ? one : sql`${one} AND ${other}`;

/** A condition that needs nothing but the record itself. */
export const onlyIf = (holds: SQL): Condition => ({ joins: sql``, holds });

/** That words are seen and a condition holds; null holds of all records. */
export const bothHold = (seen: SQL | null, condition: Condition | null): Condition | null =>
  seen === null
    ? condition
    : condition === null
      ? onlyIf(seen)
      : { joins: condition.joins, holds: sql`${condition.holds} AND ${seen}` };

/** The condition after those that hold of all records that are shown. */
export const also = (condition: Condition | null): SQL =>
  condition === null ? sql`` : sql` AND ${condition.holds}`;
export const joined = (condition: Condition | null): SQL => condition?.joins ?? sql``;
