import { ok, type Result } from '../core/kernel/result';
import type { Refusal } from '../core/kernel/refusal';
import type { Tx } from '../data/connect';
import { answerKey, claimKey } from '../data/system/submissions';
import type { Context } from './asking';

/**
 * Carries out `work` once per key: a repeat, even at the same moment, gets the first answer and changes nothing.
 * A refused try leaves no trace, because its transaction is rolled back.
 */
export async function once<T>(
  tx: Tx,
  context: Context,
  key: string,
  work: () => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  const known = await claimKey(tx, context.person.id, key);
  // The answer stored under a key is the one this same kind of request gave.
  if (known !== null) return ok(known as T);
  const result = await work();
  if (result.ok) await answerKey(tx, context.person.id, key, result.value);
  return result;
}
