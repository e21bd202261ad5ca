import { and, desc, eq, gt, sql } from 'drizzle-orm';
import { newUuid } from '../core/kernel/ids';
import { cookieOf, setCookie } from './accounts';
import { appDatabase, type Tx } from './connect';
import { origin } from './origin';
import { passkey, verification } from './system/schema';

/** A passkey as signing in needs it. */
export interface KnownPasskey extends Record<string, unknown> {
  readonly id: string;
  readonly person_id: string;
  readonly email: string;
  /** COSE, as base64url. */
  readonly public_key: string;
  readonly counter: string;
  readonly transports: string[];
}

/** Where passkeys hold: they are bound to a name, and an address that is only a number has none. Null where there is none. */
export function boundTo(): { readonly name: string; readonly origins: readonly string[] } | null {
  const { hostname } = new URL(origin());
  if (hostname === '127.0.0.1' || hostname === 'localhost')
    return { name: 'localhost', origins: [origin().replace('127.0.0.1', 'localhost')] };
  return /^[\d.]+$|:/.test(hostname) ? null : { name: hostname, origins: [origin()] };
}

const CHALLENGE = 'challenge';
const CHALLENGE_SECONDS = 300;

/** Keeps what a device is asked to sign, good once; gives the cookie by which it is found again. */
export async function keepChallenge(challenge: string): Promise<string> {
  const id = newUuid();
  await appDatabase()
    .insert(verification)
    .values({
      id,
      identifier: `passkey ${id}`,
      value: challenge,
      expiresAt: new Date(Date.now() + CHALLENGE_SECONDS * 1_000),
    });
  return setCookie(CHALLENGE, id, CHALLENGE_SECONDS);
}

/** What the device of this request was asked to sign; null when that was too long ago, or was taken. */
export async function takeChallenge(headers: Headers): Promise<string | null> {
  const id = cookieOf(headers, CHALLENGE);
  if (id === null) return null;
  const [taken] = await appDatabase()
    .delete(verification)
    .where(and(eq(verification.identifier, `passkey ${id}`), gt(verification.expiresAt, new Date())))
    .returning({ challenge: verification.value });
  return taken?.challenge ?? null;
}

/** The passkeys of whoever asks, the latest first. */
export const ownPasskeys = async (tx: Tx) =>
  tx
    .select({
      id: passkey.id,
      label: passkey.label,
      credentialId: passkey.credentialId,
      since: passkey.createdAt,
      lastUsed: passkey.lastUsedAt,
    })
    .from(passkey)
    .orderBy(desc(passkey.createdAt));

export async function insertPasskey(tx: Tx, row: typeof passkey.$inferInsert): Promise<void> {
  await tx.insert(passkey).values(row).onConflictDoNothing();
}

export async function removePasskey(tx: Tx, id: string): Promise<boolean> {
  const gone = await tx.delete(passkey).where(eq(passkey.id, id)).returning({ id: passkey.id });
  return gone.length > 0;
}

/** By the name a device gives it; null where nobody who is still here has it. */
export async function passkeyNamed(credential: string): Promise<KnownPasskey | null> {
  const { rows } = await appDatabase().execute<KnownPasskey>(
    sql`SELECT * FROM slate.passkey_named(${credential})`,
  );
  return rows[0] ?? null;
}

/** Notes that it was used; false where its count says that it was copied. */
export async function notePasskeyUsed(id: string, counter: number): Promise<boolean> {
  const { rows } = await appDatabase().execute<{ used: boolean | null }>(
    sql`SELECT slate.passkey_used(${id}::uuid, ${counter}::bigint) AS used`,
  );
  return rows[0]?.used === true;
}
