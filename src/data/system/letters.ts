import { sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import type { accountMail, outsideMail } from './schema';

/** What is mailed one by one, to one address each, and gone once it is. */
export type Letters = typeof accountMail | typeof outsideMail;

/** After so long a claim is of a worker that was killed. */
const CLAIM_MS = 5 * 60_000;

/**
 * Takes the first after `after` that nobody has; gives its id. Two workers never take the same. What is older
 * than `olderThan` is news to nobody, and goes.
 */
export async function claimLetter(
  tx: Tx,
  letters: Letters,
  { after, now, olderThan }: { readonly after: number; readonly now: Date; readonly olderThan: Date },
): Promise<number | null> {
  const free = new Date(now.getTime() - CLAIM_MS).toISOString();
  await tx.execute(sql`DELETE FROM ${letters} WHERE at < ${olderThan.toISOString()}::timestamptz`);
  const { rows } = await tx.execute<{ id: number }>(
    sql`WITH held AS (SELECT id FROM ${letters} WHERE id > ${after} AND (claimed_at IS NULL OR claimed_at < ${free}::timestamptz) ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED)
      UPDATE ${letters} AS m SET claimed_at = ${now.toISOString()}::timestamptz FROM held WHERE m.id = held.id RETURNING m.id::int AS id`,
  );
  return rows[0]?.id ?? null;
}

/** It was mailed, or never can be. */
export async function settleLetter(tx: Tx, letters: Letters, id: number): Promise<void> {
  await tx.execute(sql`DELETE FROM ${letters} WHERE id = ${id}`);
}

/** It is tried again in the next round. */
export async function giveBackLetter(tx: Tx, letters: Letters, id: number): Promise<void> {
  await tx.execute(sql`UPDATE ${letters} SET claimed_at = NULL WHERE id = ${id}`);
}
