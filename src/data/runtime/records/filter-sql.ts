import { sql, type SQL } from 'drizzle-orm';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import type { Table } from '../../../core/table/model';
import { rendered } from '../../identifiers';
import { recordNames } from '../tables/form-names';

/** What records under the alias `t` must be like, and what is joined to them to tell; each record meets one row of that at most. */
export interface Condition {
  readonly joins: SQL;
  readonly holds: SQL;
}

/** A condition over the records of a table. */
export function filterSql(
  tree: Expression,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  world: Pick<World, 'today' | 'now'>,
): Result<Condition, Issue[]> {
  const written = toSql(
    tree,
    recordNames(table, tables, 't', (id) => tables.get(id), world),
  );
  if (!written.ok) return written;
  const { joins, expression } = written.value;
  return ok({ joins: rendered(joins), holds: sql`(${rendered(expression)})` });
}

/** That words are seen and a condition holds; null holds of all records. */
export const bothHold = (seen: SQL | null, condition: Condition | null): Condition | null =>
  seen === null
    ? condition
    : condition === null
      ? { joins: sql``, holds: seen }
      : { joins: condition.joins, holds: sql`${condition.holds} AND ${seen}` };

/** The condition after those that hold of all records that are shown. */
export const also = (condition: Condition | null): SQL =>
  condition === null ? sql`` : sql` AND ${condition.holds}`;
export const joined = (condition: Condition | null): SQL => condition?.joins ?? sql``;
