import { sql } from 'drizzle-orm';
import type { Tx } from '../../connect';

/** The next number of a table's series: locked until the transaction ends. */
export async function nextNumber(tx: Tx, table: string): Promise<string> {
  const { rows } = await tx.execute<{ number: string }>(
    sql`SELECT slate.next_number(${table}::uuid) AS number`,
  );
  const [row] = rows;
  if (row === undefined) throw new Error('a table that is not there was asked for a number');
  return row.number;
}
