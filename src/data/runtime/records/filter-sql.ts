import { sql, type SQL } from 'drizzle-orm';
import type { World } from '../../../core/expression/functions/builtin';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import type { Issue } from '../../../core/kernel/issue';
import { ok, type Result } from '../../../core/kernel/result';
import type { Table } from '../../../core/table/model';
import { rendered, tableName } from '../../identifiers';
import { recordNames } from '../tables/form-names';

/** A condition over the records of a table, under the alias `t`. What it needs of other tables is joined in a query of its own. */
export function filterSql(
  tree: Expression,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  world: Pick<World, 'today' | 'now'>,
): Result<SQL, Issue[]> {
  const under = (alias: string) =>
    toSql(
      tree,
      recordNames(table, tables, alias, (id) => tables.get(id), world),
    );
  const written = under('t');
  if (!written.ok) return written;
  if (written.value.joins.length === 0) return ok(sql`(${rendered(written.value.expression)})`);
  const inner = under('f');
  if (!inner.ok) return inner;
  const [joins, holds] = [inner.value.joins, inner.value.expression].map(rendered);
  return ok(
    sql`t.id = ANY (ARRAY(SELECT f.id FROM ${tableName(table)} AS f${joins ?? sql``} WHERE f.removed_at IS NULL AND (${holds ?? sql``})))`,
  );
}

/** That both hold; null holds of all records. */
export const bothHold = (one: SQL | null, other: SQL | null): SQL | null =>
  one === null ? other : other === null ? one : sql`${one} AND ${other}`;
