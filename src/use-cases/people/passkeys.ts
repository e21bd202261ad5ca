import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { SigningInData } from '../../contract/sign-in';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { forbidden, invalid, notFound, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { beginSession, deviceCookie, passwordIs } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import {
  boundTo,
  insertPasskey,
  notePasskeyUsed,
  ownPasskeys,
  passkeyNamed,
  removePasskey,
} from '../../data/passkeys';
import { keepPending, takePending } from '../../data/pending';
import { withSecondStep } from '../../data/system/people';
import { claimOutside } from '../../data/system/sign-in-tries';
import { noteRefused } from '../../data/system/trail';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import { house } from '../workspace/read-workspace';
import { browserWords } from './own-sessions';
import { tried } from './second-step';
import type { Cookies, From } from './sign-in';

/** Whether passkeys can be made and shown on a page at this host: they are bound to a name, and good there alone. */
export const passkeysAt = (host: string): boolean => boundTo()?.name === host;

/** How whoever asks signs in: whether a code is asked for, and their passkeys. */
export async function howSigningIn({ person }: Context): Promise<Result<SigningInData, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    const rows = await ownPasskeys(tx);
    const passkeys = rows.map(({ id, label, since, lastUsed }) => ({
      id,
      label,
      since: since.toISOString(),
      lastUsed: lastUsed?.toISOString() ?? null,
    }));
    return ok({
      asksCode: (await withSecondStep(tx)).has(person.id),
      passkeys,
    });
  });
}

/** What a device is asked, so that it makes a key for whoever asks, who gives their password for it. */
export async function beginPasskey(
  context: Context,
  { password }: { password: string },
  from: From,
): Promise<Result<Cookies<PublicKeyCredentialCreationOptionsJSON>, Refusal>> {
  const bound = boundTo();
  if (bound === null) return fail(forbidden('no-passkeys-here'));
  const { id, email, name } = context.person;
  const known = await tried(context, from, async () => ((await passwordIs(id, password)) ? true : null));
  if (!known.ok) return known;
  if (known.value === null) return fail(invalid(issue('password-wrong', ['password'])));
  const { name: called } = await house();
  const have = await asPerson({ person: id }, async (tx) => ok(await ownPasskeys(tx)));
  if (!have.ok) return have;
  if (have.value.length >= limits.passkeys)
    return fail(invalid(issue('too-many', [], { most: limits.passkeys, what: 'passkeys' })));
  const options = await generateRegistrationOptions({
    rpName: called === '' ? 'Tidy Slate' : called,
    rpID: bound.name,
    userName: email,
    userDisplayName: name,
    userID: new TextEncoder().encode(id),
    attestationType: 'none',
    excludeCredentials: have.value.map(({ credentialId }) => ({ id: credentialId })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  return ok({ cookies: [await keepPending('challenge', options.challenge)], told: options });
}

/** Keeps the key a device has made. */
export async function keepPasskey(
  { person }: Context,
  { response }: { response: unknown },
  { headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const [bound, challenge] = [boundTo(), await takePending('challenge', headers)];
  if (bound === null || challenge === null) return fail(forbidden('passkey'));
  const verified = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: challenge,
    expectedOrigin: [...bound.origins],
    expectedRPID: bound.name,
    requireUserVerification: true,
  }).catch(() => null);
  if (verified?.verified !== true) return fail(forbidden('passkey'));
  const { id, publicKey, counter, transports } = verified.registrationInfo.credential;
  return asPerson({ person: person.id }, async (tx) => {
    await insertPasskey(tx, {
      id: newUuid(),
      personId: person.id,
      label: browserWords(headers.get('user-agent') ?? ''),
      credentialId: id,
      publicKey: Buffer.from(publicKey).toString('base64url'),
      counter,
      transports: transports ?? [],
    });
    return ok({ cookies: [] });
  });
}

export const endPasskey = async ({ person }: Context, id: string): Promise<Result<Cookies, Refusal>> =>
  asPerson({ person: person.id }, async (tx) =>
    (await removePasskey(tx, id)) ? ok({ cookies: [] }) : fail(notFound('passkey')),
  );

/** What a device is asked, so that it shows who sits there. The same for everybody: it tells nobody who has a passkey. */
export async function askPasskey({
  address,
}: From): Promise<Result<Cookies<PublicKeyCredentialRequestOptionsJSON>, Refusal>> {
  const bound = boundTo();
  if (bound === null) return fail(forbidden('no-passkeys-here'));
  const wait = await claimOutside(appDatabase(), 'begun', address);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const options = await generateAuthenticationOptions({ rpID: bound.name, userVerification: 'required' });
  return ok({ cookies: [await keepPending('challenge', options.challenge)], told: options });
}

/** Signs in whoever their device says they are: it has asked for a finger, a face or a number, so that no code is asked for besides. */
export async function enterWithPasskey(
  { response }: { response: unknown },
  { address, headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const [bound, challenge] = [boundTo(), await takePending('challenge', headers)];
  const shown = response as AuthenticationResponseJSON;
  const known = await passkeyNamed(shown.id);
  if (bound === null || challenge === null || known === null) return fail(forbidden('passkey'));
  const verified = await verifyAuthenticationResponse({
    response: shown,
    expectedChallenge: challenge,
    expectedOrigin: [...bound.origins],
    expectedRPID: bound.name,
    requireUserVerification: true,
    credential: {
      id: shown.id,
      publicKey: new Uint8Array(Buffer.from(known.public_key, 'base64url')),
      counter: Number(known.counter),
    },
  }).catch(() => null);
  const isGood =
    verified?.verified === true && (await notePasskeyUsed(known.id, verified.authenticationInfo.newCounter));
  if (!isGood) {
    await noteRefused(known.email, address);
    return fail(forbidden('passkey'));
  }
  const cookie = await beginSession(known.person_id, { address, headers });
  return ok({ cookies: [cookie, deviceCookie(known.email)] });
}
