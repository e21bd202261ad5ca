import { desc, eq, sql } from 'drizzle-orm';
import { appDatabase, type Tx } from './connect';
import { origin } from './origin';
import { passkey } from './system/schema';

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
