import {
  allowInsecureRequests,
  authorizationCodeGrant,
  buildAuthorizationUrl,
  calculatePKCECodeChallenge,
  customFetch,
  discovery,
  randomNonce,
  randomPKCECodeVerifier,
  randomState,
  type Configuration,
  type CustomFetchOptions,
} from 'openid-client';
import type { IncomingMessage } from 'node:http';
import { pinnedRequest } from './pinned-request';
import { reachable } from './reach';
import { placeOf } from './send-event';

/** The service as it is known to it what this workspace is. */
export interface ProviderAddress {
  readonly issuer: string;
  readonly clientId: string;
  readonly secret: string;
}

/** What is kept while somebody is there. */
export interface Leaving {
  readonly state: string;
  readonly nonce: string;
  readonly verifier: string;
}

/** Who somebody is there. */
export interface KnownThere {
  readonly subject: string;
  /** Null where the service does not vouch for it. */
  readonly email: string | null;
}

const PATIENCE_MS = 10_000;
const MOST_BYTES = 1024 * 1024;

/** Where somebody signs in there. Null where the service cannot be reached, or is none. */
export async function leaveFor(
  provider: ProviderAddress,
  back: string,
): Promise<{ readonly to: string; readonly kept: Leaving } | null> {
  const configuration = await found(provider);
  if (configuration === null) return null;
  const kept = { state: randomState(), nonce: randomNonce(), verifier: randomPKCECodeVerifier() };
  const url = buildAuthorizationUrl(configuration, {
    redirect_uri: back,
    scope: 'openid email profile',
    state: kept.state,
    nonce: kept.nonce,
    code_challenge: await calculatePKCECodeChallenge(kept.verifier),
    code_challenge_method: 'S256',
  });
  return { to: url.toString(), kept };
}

/** Who came back by this address; null where what it says does not hold. */
export async function cameBack(
  provider: ProviderAddress,
  at: URL,
  { state, nonce, verifier }: Leaving,
): Promise<KnownThere | null> {
  const configuration = await found(provider);
  if (configuration === null) return null;
  const tokens = await authorizationCodeGrant(configuration, at, {
    expectedState: state,
    expectedNonce: nonce,
    pkceCodeVerifier: verifier,
    idTokenExpected: true,
  }).catch(() => null);
  const claims = tokens?.claims();
  if (claims === undefined) return null;
  const { sub, email, email_verified: vouched } = claims;
  return { subject: sub, email: typeof email === 'string' && vouched === true ? email : null };
}

/** Whether there is such a service: it answers as the standard says. */
export const isProvider = async (provider: ProviderAddress): Promise<boolean> =>
  (await found(provider)) !== null;

async function found({ issuer, clientId, secret }: ProviderAddress): Promise<Configuration | null> {
  if ((await placeOf(issuer)) !== 'fine') return null;
  const url = new URL(issuer);
  // Without encryption only what is inside, and named by whoever runs the machine, which was asked just now.
  const execute = url.protocol === 'http:' ? [allowInsecureRequests] : [];
  return discovery(url, clientId, secret, undefined, { execute, [customFetch]: fetchPinned }).catch(
    () => null,
  );
}

/** Each request goes where the policy for addresses allows, by the place that was looked at. */
async function fetchPinned(url: string, { method, headers, body }: CustomFetchOptions): Promise<Response> {
  const at = await reachable(new URL(url).hostname);
  if (at === null || at === 'inside') throw new TypeError('not to be reached');
  const text = body == null ? undefined : String(body as string | URLSearchParams);
  const answer = await pinnedRequest(url, at, {
    method: method === 'POST' ? 'POST' : 'GET',
    headers: { ...headers, ...(text !== undefined && { 'content-length': String(Buffer.byteLength(text)) }) },
    ...(text !== undefined && { body: text }),
    patience: PATIENCE_MS,
  });
  return new Response(await bounded(answer), {
    status: answer.statusCode ?? 502,
    headers: { 'content-type': answer.headers['content-type'] ?? '' },
  });
}

async function bounded(answer: IncomingMessage): Promise<string> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of answer as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes > MOST_BYTES) {
      answer.destroy();
      throw new TypeError('more than was asked for');
    }
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString('utf8');
}
