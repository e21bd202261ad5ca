import { sql } from 'drizzle-orm';
import type { TableAction } from '../../../core/catalogue/catalogue';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { tableName } from '../../identifiers';

/** Of these records, those whoever asks may do it with, as the rules of the table are for them. */
export async function idsWithin(
  tx: Tx,
  table: Table,
  action: TableAction,
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM slate.those_within(${table.id}::uuid, ${action}, ${sql.param([...ids])}::uuid[]) AS id`,
  );
  return new Set(rows.map(({ id }) => id));
}

/** Of these records, those whoever asks sees; removed ones among them. */
export async function idsSeen(tx: Tx, table: Table, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM ${tableName(table)} WHERE id = ANY(${sql.param([...ids])}::uuid[])`,
  );
  return new Set(rows.map(({ id }) => id));
}
