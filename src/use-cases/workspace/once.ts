import { createHash } from 'node:crypto';
import { fail, ok, type Result } from '../../core/kernel/result';
import { stale, type Refusal } from '../../core/kernel/refusal';
import type { Tx } from '../../data/connect';
import { answerKey, claimKey } from '../../data/system/request-keys';
import type { Context } from './asking';

/** What was asked under a key: by what name, and all that was said with it. */
export interface Asked {
  readonly operation: string;
  readonly of: string;
  readonly said: unknown;
}

/**
 * Carries out `work` once per key: a repeat, even at the same moment, gets the first answer and changes
 * nothing. The same key with anything else asked is refused. A refused try leaves no trace, because its
 * transaction is rolled back.
 */
export async function once<T>(
  tx: Tx,
  context: Context,
  key: string,
  { operation, of, said }: Asked,
  work: () => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  const bodyHash = createHash('sha256')
    .update(JSON.stringify([of, said]))
    .digest('base64url');
  const known = await claimKey(tx, context.person.id, { key, operation, bodyHash });
  if (known !== null)
    return known.operation === operation && known.bodyHash === bodyHash
      ? ok(known.answer as T)
      : fail(stale('key-reused'));
  const result = await work();
  if (result.ok) await answerKey(tx, context.person.id, key, result.value);
  return result;
}
