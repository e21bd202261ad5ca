import { sql, type SQL } from 'drizzle-orm';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { tableName } from '../../identifiers';

/** Records on their way into a table, from wherever they are. */
export interface Incoming {
  /** What gives them, as `u`, each with its `id` and its `place`, from 1 without gaps. */
  readonly from: SQL;
  /** The columns that are filled, and with what. */
  readonly names: readonly SQL[];
  readonly values: readonly SQL[];
  /** Where they get their numbers; null for the next ones of the table, which are taken all at once, in the order of their places. */
  readonly number: SQL | null;
  readonly many: number;
}

/** Adds records in one statement. The counter of numbers stays locked until the transaction ends, so this comes as late in it as can be. */
export async function insertRecords(
  tx: Tx,
  table: Table,
  { from, names, values, number, many }: Incoming,
): Promise<void> {
  const numbers =
    number === null
      ? sql` JOIN slate.take_numbers(${table.id}::uuid, ${many}::int) WITH ORDINALITY AS n (number, place) USING (place)`
      : sql``;
  await tx.execute(sql`
    INSERT INTO ${tableName(table)} (${sql.join([sql`id`, sql`number`, ...names], sql`, `)})
    SELECT ${sql.join([sql`u.id`, number ?? sql`n.number`, ...values], sql`, `)} FROM ${from}${numbers} ORDER BY place`);
}
