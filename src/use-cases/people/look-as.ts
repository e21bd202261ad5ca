import type { LookedData } from '../../contract/people';
import { mayAdminister } from '../../core/access/rules';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { sessionToken } from '../../data/accounts';
import type { Tx } from '../../data/connect';
import { beginLooking, endLooking, lookedAsOf } from '../../data/system/looked-as';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import type { Cookies, From } from './sign-in';

/**
 * From now on an administrator sees in this session what somebody sees, and changes nothing. That they did is
 * kept, and shown to whoever it was.
 */
export async function lookAs(
  { person }: Context,
  as: string,
  { headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const token = sessionToken(headers);
  if (!mayAdminister(person)) return fail(forbidden('people'));
  if (token === null) return fail(forbidden('sign-in'));
  return asPerson({ person: person.id }, async (tx) =>
    (await beginLooking(tx, token, as, newUuid())) ? ok({ cookies: [] }) : fail(notFound('person')),
  );
}

/** As one person, or as anybody: who looked, the latest first. */
export const whoLooked = async (tx: Tx, of: string | null): Promise<LookedData[]> =>
  (await lookedAsOf(tx, of, MOST_TOLD)).map(({ as, by, from, until }) => ({
    as,
    by,
    from: from.toISOString(),
    until: until?.toISOString() ?? null,
  }));
const MOST_TOLD = 200;

/** Who looked as whoever asks. */
export const whoLookedAsMe = ({ person }: Context): Promise<Result<LookedData[], Refusal>> =>
  asPerson({ person: person.id }, async (tx) => ok(await whoLooked(tx, person.id)));

/** They see with their own eyes again. */
export async function lookBack({ person }: Context, { headers }: From): Promise<Result<Cookies, Refusal>> {
  const token = sessionToken(headers);
  if (token === null) return fail(forbidden('sign-in'));
  return asPerson({ person: person.id }, async (tx) => {
    await endLooking(tx, token);
    return ok({ cookies: [] });
  });
}
