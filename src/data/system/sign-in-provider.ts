import { sql } from 'drizzle-orm';
import { appDatabase, type Tx } from '../connect';
import { signInProvider } from './schema';

/** The service outside by which people may sign in. */
export interface ProviderRow {
  readonly id: string;
  readonly label: string;
  readonly issuer: string;
  readonly clientId: string;
  /** Sealed. */
  readonly secret: Buffer;
  readonly version: number;
}

/** Null where there is none. Asked before anybody is signed in. */
export async function readProvider(): Promise<ProviderRow | null> {
  const { id, label, issuer, clientId, secret, version } = signInProvider;
  const [found] = await appDatabase()
    .select({ id, label, issuer, clientId, secret, version })
    .from(signInProvider);
  return found ?? null;
}

/**
 * Makes, changes or with null takes it away; false where somebody else changed it since. At another issuer it
 * is another service, where nobody is known yet.
 */
export async function putProvider(
  tx: Tx,
  given: Omit<ProviderRow, 'version'> | null,
  version: number,
): Promise<boolean> {
  const { rows } = await tx.execute<{ put: boolean }>(
    given === null
      ? sql`SELECT slate.put_provider(NULL, NULL, NULL, NULL, NULL, ${version}::int) AS put`
      : sql`SELECT slate.put_provider(${given.id}::uuid, ${given.label}, ${given.issuer}, ${given.clientId}, ${given.secret}, ${version}::int) AS put`,
  );
  return rows[0]?.put === true;
}

/** Who somebody is here whom the service knows by `subject` and who has this address there; null where that is nobody. */
export async function letInBy(provider: string, subject: string, email: string): Promise<string | null> {
  const { rows } = await appDatabase().execute<{ who: string | null }>(
    sql`SELECT slate.let_in_by(${provider}::uuid, ${subject}, ${email}) AS who`,
  );
  return rows[0]?.who ?? null;
}
