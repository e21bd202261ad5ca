import { and, desc, eq, gt, isNotNull, ne, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { session } from './schema';

/** A browser somebody is signed in on. */
export interface SessionRow {
  readonly id: string;
  readonly since: Date;
  readonly address: string;
  /** What the browser says of itself. */
  readonly agent: string;
  readonly isThis: boolean;
}

/** Those that are not over, the latest first; `token` is of the one that asks. */
export async function sessionsOf(tx: Tx, person: string, token: string, now: Date): Promise<SessionRow[]> {
  const rows = await tx
    .select({
      id: session.id,
      since: session.createdAt,
      address: session.ipAddress,
      agent: session.userAgent,
      isThis: sql<boolean>`${session.token} = ${token}`,
    })
    .from(session)
    .where(and(eq(session.userId, person), gt(session.expiresAt, now), isNotNull(session.provenAt)))
    .orderBy(desc(session.createdAt))
    .limit(MOST);
  return rows.map(({ address, agent, ...row }) => ({ ...row, address: address ?? '', agent: agent ?? '' }));
}
const MOST = 100;

/** Ends one of somebody's sessions, or all; never that of the token. */
export async function endSessions(tx: Tx, person: string, token: string, id: string | null): Promise<void> {
  await tx
    .delete(session)
    .where(
      and(eq(session.userId, person), ne(session.token, token), id === null ? undefined : eq(session.id, id)),
    );
}
