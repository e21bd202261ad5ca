import { sql } from 'drizzle-orm';
import type { Tx } from '../../connect';

/**
 * Lets restricted columns be seen while the server holds something against whole records, whoever asks.
 * Nothing that is found so may be told as it stands.
 */
export async function withAllInHand<T>(tx: Tx, look: () => Promise<T>): Promise<T> {
  const said = (word: string) => tx.execute(sql`SELECT set_config('slate.in_hand', ${word}, true)`);
  await said('all');
  const found = await look();
  await said('');
  return found;
}
