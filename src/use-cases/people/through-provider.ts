import type { ProviderData, ProviderInput } from '../../contract/sign-in';
import { mayAdminister } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, invalid, stale, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { beginSession } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import { origin } from '../../data/origin';
import { keepPending, takePending } from '../../data/pending';
import { sealed, unsealed } from '../../data/secret';
import { letInBy, putProvider, readProvider, type ProviderRow } from '../../data/system/sign-in-provider';
import { claimOutside } from '../../data/system/sign-in-tries';
import { noteRefused } from '../../data/system/trail';
import { asPerson } from '../../data/transaction';
import { cameBack, isProvider, leaveFor, type Leaving, type ProviderAddress } from '../../outside/identity';
import type { Context } from '../workspace/asking';
import type { Cookies, From } from './sign-in';

/** Where the service sends people back to. */
const back = (): string => `${origin()}/sign-in/back`;

const addressOf = ({ id, issuer, clientId, secret }: ProviderRow): ProviderAddress => ({
  issuer,
  clientId,
  secret: unsealed(secret, id) ?? '',
});

/** What the button of the sign-in page says; null where there is no such service. */
export const providerOffered = async (): Promise<string | null> => (await readProvider())?.label ?? null;

/** Sends somebody to the service to sign in there. */
export async function leaveForProvider(
  to: string,
  { address }: Pick<From, 'address'>,
): Promise<Result<Cookies<string>, Refusal>> {
  const provider = await readProvider();
  if (provider === null) return fail(forbidden('no-provider'));
  const wait = await claimOutside(appDatabase(), 'begun', address);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const leaving = await leaveFor(addressOf(provider), back());
  if (leaving === null) return fail(forbidden('provider-silent'));
  const kept = JSON.stringify({ ...leaving.kept, id: provider.id, to });
  return ok({ cookies: [await keepPending('provider', kept)], told: leaving.to });
}

/**
 * Signs in whoever comes back from there and is somebody here: by what the service calls them, or the first
 * time by the address it vouches for.
 */
export async function comeBack(
  at: URL,
  { address, headers }: From,
): Promise<Result<Cookies<string>, Refusal>> {
  const [provider, pending] = [await readProvider(), await takePending('provider', headers)];
  if (provider === null || pending === null) return fail(forbidden('provider-late'));
  const { id, to, ...kept } = JSON.parse(pending) as Leaving & { id: string; to: string };
  if (id !== provider.id) return fail(forbidden('provider-late'));
  const whole = new URL(`${back()}${at.search}`);
  const known = await cameBack(addressOf(provider), whole, kept);
  if (known === null) return fail(forbidden('provider-no'));
  const who = await letInBy(provider.id, known.subject, known.email ?? '');
  if (who === null) {
    await noteRefused(known.email ?? '', address);
    return fail(forbidden('provider-nobody'));
  }
  return ok({ cookies: [await beginSession(who, { address, headers })], told: to });
}

/** As administrators see it, without its secret. */
export async function openProvider({ person }: Context): Promise<Result<ProviderData, Refusal>> {
  if (!mayAdminister(person)) return fail(forbidden('workspace'));
  const provider = await readProvider();
  return ok({
    back: back(),
    provider:
      provider === null
        ? null
        : {
            label: provider.label,
            issuer: provider.issuer,
            clientId: provider.clientId,
            version: provider.version,
          },
  });
}

/** Names the service, once it was seen to answer. Without a secret the one before stays, where it is the same service. */
export async function keepProvider(
  { person }: Context,
  { label, issuer, clientId, secret, version }: ProviderInput,
): Promise<Result<null, Refusal>> {
  if (!mayAdminister(person)) return fail(forbidden('workspace'));
  const before = await readProvider();
  const same = before !== null && before.issuer === issuer ? before : null;
  const id = same?.id ?? newUuid();
  const kept = secret === '' ? (same === null ? null : unsealed(same.secret, same.id)) : secret;
  if (kept === null) return fail(invalid(issue('secret-needed', ['secret'])));
  if (!(await isProvider({ issuer, clientId, secret: kept })))
    return fail(invalid(issue('no-provider-there', ['issuer'])));
  return asPerson({ person: person.id }, async (tx) =>
    (await putProvider(tx, { id, label, issuer, clientId, secret: sealed(kept, id) }, version))
      ? ok(null)
      : fail(stale('workspace-changed')),
  );
}

export async function endProvider(
  { person }: Context,
  { version }: { version: number },
): Promise<Result<null, Refusal>> {
  if (!mayAdminister(person)) return fail(forbidden('workspace'));
  return asPerson({ person: person.id }, async (tx) =>
    (await putProvider(tx, null, version)) ? ok(null) : fail(stale('workspace-changed')),
  );
}
