import { and, eq, gt } from 'drizzle-orm';
import { newUuid } from '../core/kernel/ids';
import { cookieOf, setCookie } from './accounts';
import { appDatabase } from './connect';
import { verification } from './system/schema';

/** What is kept while somebody signs in elsewhere or by a device, as the cookie by which it is found again is called. */
export type Pending = 'challenge' | 'provider';

const SECONDS: Readonly<Record<Pending, number>> = { challenge: 300, provider: 600 };

/** Keeps it for some minutes, good once; gives the cookie. */
export async function keepPending(what: Pending, value: string): Promise<string> {
  const id = newUuid();
  await appDatabase()
    .insert(verification)
    .values({
      id,
      identifier: `${what} ${id}`,
      value,
      expiresAt: new Date(Date.now() + SECONDS[what] * 1_000),
    });
  return setCookie(what, id, SECONDS[what]);
}

/** What was kept for the browser of this request; null when that was too long ago, or was taken. */
export async function takePending(what: Pending, headers: Headers): Promise<string | null> {
  const id = cookieOf(headers, what);
  if (id === null) return null;
  const [taken] = await appDatabase()
    .delete(verification)
    .where(and(eq(verification.identifier, `${what} ${id}`), gt(verification.expiresAt, new Date())))
    .returning({ value: verification.value });
  return taken?.value ?? null;
}
