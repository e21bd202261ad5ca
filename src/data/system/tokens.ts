import { desc, sql } from 'drizzle-orm';
import type { Person } from '../../core/access/rules';
import type { Token, TokenGrant } from '../../core/catalogue/narrowed';
import { appDatabase, type Tx } from '../connect';
import { apiToken, apiTokenGrant } from './schema';

export type TokenRow = Omit<typeof apiToken.$inferSelect, 'hash' | 'minute' | 'used'>;

/** All there are and were, the newest first, with what each names. Administrators alone see any. */
export async function readTokens(tx: Tx): Promise<{ token: TokenRow; grants: TokenGrant[] }[]> {
  const { id, label, personId, hint, madeById, madeAt, expiresAt, endedAt, endedById, lastUsedAt } = apiToken;
  const tokens = await tx
    .select({ id, label, personId, hint, madeById, madeAt, expiresAt, endedAt, endedById, lastUsedAt })
    .from(apiToken)
    .orderBy(desc(madeAt));
  const grants = await tx.select().from(apiTokenGrant);
  return tokens.map((token) => ({
    token,
    grants: grants
      .filter(({ tokenId }) => tokenId === token.id)
      .map(({ tableId, formId, action }) => ({ tableId, formId, action: action as TokenGrant['action'] })),
  }));
}

interface NewToken {
  readonly id: string;
  readonly label: string;
  readonly person: string;
  readonly hash: string;
  readonly hint: string;
  readonly expiresAt: Date;
  readonly grants: readonly TokenGrant[];
}

/** Makes a token; false where its person is not here. The database lets administrators only. */
export async function makeToken(
  tx: Tx,
  { id, label, person, hash, hint, expiresAt, grants }: NewToken,
  now: Date,
): Promise<boolean> {
  const { rows } = await tx.execute<{ made: boolean }>(
    sql`SELECT slate.make_token(${id}::uuid, ${label}, ${person}::uuid, ${hash}, ${hint}, ${now.toISOString()}::timestamptz, ${expiresAt.toISOString()}::timestamptz, ${JSON.stringify(grants)}::jsonb) AS made`,
  );
  return rows[0]?.made === true;
}

/** Ends a token at once; false where there is none. */
export async function endToken(tx: Tx, id: string, now: Date): Promise<boolean> {
  const { rows } = await tx.execute<{ ended: boolean }>(
    sql`SELECT slate.end_token(${id}::uuid, ${now.toISOString()}::timestamptz) AS ended`,
  );
  return rows[0]?.ended === true;
}

/** A token that was taken: whom it acts for, and how often it was used in this minute, this time counted. */
export interface TakenToken {
  readonly token: Token;
  readonly who: Omit<Person, 'roles'>;
  readonly used: number;
}

/** The token of a secret's hash; null where it is none, or not any more. */
export async function takeToken(hash: string, now: Date): Promise<TakenToken | null> {
  const { rows } = await appDatabase().execute<{ taken: (Token & Omit<TakenToken, 'token'>) | null }>(
    sql`SELECT slate.take_token(${hash}, ${now.toISOString()}::timestamptz) AS taken`,
  );
  const taken = rows[0]?.taken ?? null;
  if (taken === null) return null;
  const { used, who, ...token } = taken;
  return { token, who, used };
}
