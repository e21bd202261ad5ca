import { sql } from 'drizzle-orm';
import type { Values } from '../../../core/record/column-value';
import { columnIn } from '../../../core/record/column-value';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';
import { columnType } from '../tables/change-sql';

/**
 * The record of a table that holds these values, the first that was made; null for none. Until the
 * transaction ends nobody else who asks the same adds one: of two who would make it at once the second finds
 * that of the first.
 */
export async function recordHolding(
  tx: Tx,
  table: Table,
  values: Values,
): Promise<{ readonly id: string; readonly number: string } | null> {
  const held = Object.entries(values).flatMap(([id, value]) => {
    const column = columnIn(table, id);
    return column === undefined || value === null ? [] : [{ column, value: String(value) }];
  });
  if (held.length === 0) return null;
  await tx.execute(
    sql`SELECT pg_advisory_xact_lock(hashtext('slate finds'), hashtext(${JSON.stringify([table.id, ...held.map(({ value }) => value)])}))`,
  );
  const alike = held.map(({ column, value }) => sql`${columnName(column)} = ${value}::${columnType(column)}`);
  const { rows } = await tx.execute<{ id: string; number: string }>(
    sql`SELECT id, number FROM ${seenName(table)} WHERE removed_at IS NULL AND ${sql.join(alike, sql` AND `)} ORDER BY id LIMIT 1`,
  );
  return rows[0] ?? null;
}
