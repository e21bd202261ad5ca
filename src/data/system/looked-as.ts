import { desc, eq, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { lookedAs, person } from './schema';

/** When an administrator looked as somebody; `until` is null while they do. */
export interface LookedAs {
  readonly as: string;
  /** By name. */
  readonly by: string;
  readonly from: Date;
  readonly until: Date | null;
}

/** As one person, or as anybody, the latest first: what administrators see, and of themselves everybody. */
export async function lookedAsOf(tx: Tx, of: string | null, most: number): Promise<LookedAs[]> {
  return tx
    .select({ as: lookedAs.asId, by: person.name, from: lookedAs.begunAt, until: lookedAs.endedAt })
    .from(lookedAs)
    .innerJoin(person, eq(person.id, lookedAs.byId))
    .where(of === null ? undefined : eq(lookedAs.asId, of))
    .orderBy(desc(lookedAs.begunAt))
    .limit(most);
}

/** Has the session of a token look as somebody; false where nobody is there to look as. The database lets administrators only. */
export async function beginLooking(tx: Tx, token: string, as: string, id: string): Promise<boolean> {
  const { rows } = await tx.execute<{ done: boolean }>(
    sql`SELECT slate.look_as(${token}, ${as}::uuid, ${id}::uuid) AS done`,
  );
  return rows[0]?.done === true;
}

export async function endLooking(tx: Tx, token: string): Promise<void> {
  await tx.execute(sql`SELECT slate.look_back(${token})`);
}
