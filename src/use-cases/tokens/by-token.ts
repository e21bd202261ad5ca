import type { Person } from '../../core/access/rules';
import type { Token } from '../../core/catalogue/narrowed';
import { forbidden, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { takeToken } from '../../data/system/tokens';
import { withToken } from '../../data/way-in';
import type { Context } from '../workspace/asking';
import { hashOf } from './keep-tokens';

/** Who asks by a token, within what, and how many more requests there are in this minute. */
export interface Taken {
  readonly token: Token;
  readonly person: Person;
  readonly left: number;
  /** Seconds until there are as many again. */
  readonly resets: number;
}

const SECRET = /^slate_[\w-]{43}$/;

/** Takes a token by its secret, and counts that. */
export async function takeBySecret(secret: string, now: Date): Promise<Result<Taken, Refusal>> {
  const taken = SECRET.test(secret) ? await takeToken(hashOf(secret), now) : null;
  if (taken === null) return fail(forbidden('token'));
  const resets = 60 - now.getUTCSeconds();
  const left = limits.tokenPerMinute - taken.used;
  // No role is theirs here, whatever it may be elsewhere.
  const person = { ...taken.who, roles: [] };
  return left < 0 ? fail(tooMany('token', resets)) : ok({ token: taken.token, person, left, resets });
}

/** Does what a program asks, within its token: every transaction of it is narrowed to that. */
export const byToken = <T>(
  { token, person }: Taken,
  now: Date,
  work: (context: Context) => Promise<T>,
): Promise<T> => withToken(token, () => work({ person, now }));
