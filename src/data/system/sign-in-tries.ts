import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { Database } from '../connect';

/**
 * Tries that cost nothing, and the longest wait in seconds between those after them. Many people may share an
 * address, so it is given more and waits less.
 */
const limits = {
  account: { free: 5, most: 900 },
  device: { free: 10, most: 60 },
  address: { free: 60, most: 30 },
} as const;

export interface TriedFrom {
  readonly email: string;
  readonly address: string;
  /** Somebody signed in to this account on this browser before. */
  readonly known: boolean;
}

const hashed = (what: string, name: string): string =>
  `${what}:${createHash('sha256').update(name.trim().toLowerCase()).digest('base64url')}`;

const accountName = ({ email, known }: TriedFrom): string => hashed(known ? 'device' : 'account', email);

/** Counts a try before it is made; gives the seconds to wait, or null when it may be made. */
export async function claimTry(db: Pick<Database, 'execute'>, from: TriedFrom): Promise<number | null> {
  const { free, most } = limits[from.known ? 'device' : 'account'];
  const account = await claim(db, accountName(from), free, most);
  // A person on a browser of theirs is not kept waiting by others behind the same address.
  if (account !== null || from.known) return account;
  return claim(db, hashed('address', from.address), limits.address.free, limits.address.most);
}

async function claim(
  db: Pick<Database, 'execute'>,
  name: string,
  free: number,
  most: number,
): Promise<number | null> {
  const { rows } = await db.execute<{ wait: number | null }>(
    sql`SELECT slate.claim_try(${name}, ${free}, ${most}) AS wait`,
  );
  return rows[0]?.wait ?? null;
}

/** What comes without an account, by address: far more than people do behind one address in an hour. */
const outside = {
  sent: { free: 60, most: 120 },
  looked: { free: 2_000, most: 30 },
  forgotten: { free: 20, most: 300 },
  begun: { free: 200, most: 60 },
} as const;

/** Counts it; gives the seconds to wait, or null. */
export async function claimOutside(
  db: Pick<Database, 'execute'>,
  what: keyof typeof outside,
  address: string,
): Promise<number | null> {
  const { free, most } = outside[what];
  return claim(db, hashed(`outside ${what}`, address), free, most);
}

export async function forgiveTry(db: Pick<Database, 'execute'>, from: TriedFrom): Promise<void> {
  await db.execute(sql`SELECT slate.forgive_try(${accountName(from)}, ${hashed('address', from.address)})`);
}
