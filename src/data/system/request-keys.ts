import { and, eq } from 'drizzle-orm';
import type { Tx } from '../connect';
import { requestKey } from './schema';

/** Claims a request key. Null when it is new and now ours; else what was asked under it the first time, and the answer. */
export async function claimKey(
  tx: Tx,
  who: string,
  { key, operation, bodyHash }: { key: string; operation: string; bodyHash: string },
): Promise<{ operation: string; bodyHash: string; answer: unknown } | null> {
  const rows = await tx
    .insert(requestKey)
    .values({ personId: who, key, operation, bodyHash, answer: null })
    .onConflictDoNothing()
    .returning({ key: requestKey.key });
  if (rows.length === 1) return null;
  const known = await tx
    .select({ operation: requestKey.operation, bodyHash: requestKey.bodyHash, answer: requestKey.answer })
    .from(requestKey)
    .where(and(eq(requestKey.personId, who), eq(requestKey.key, key)));
  return known[0] ?? { operation: '', bodyHash: '', answer: null };
}

export async function answerKey(tx: Tx, who: string, key: string, answer: unknown): Promise<void> {
  await tx
    .update(requestKey)
    .set({ answer })
    .where(and(eq(requestKey.personId, who), eq(requestKey.key, key)));
}
