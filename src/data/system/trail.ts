import { and, desc, eq, gte, lt, or, sql, type SQL } from 'drizzle-orm';
import type { TrailLine, TrailSubject } from '../../core/trail/line';
import { appDatabase, type Tx } from '../connect';
import { trail, trailHead } from './schema';

/** Which lines are asked for. */
export interface TrailQuery {
  /** Older than this line, by its id. */
  readonly before: number | null;
  readonly by: string | null;
  readonly subjects: readonly TrailSubject[] | null;
  /** From a moment, until before another. */
  readonly from: Date | null;
  readonly until: Date | null;
  /** Words that stand in what it is about, or in what was changed. */
  readonly words: string;
}

/** The newest first; administrators alone see any. */
export async function readTrail(
  tx: Tx,
  { before, by, subjects, from, until, words }: TrailQuery,
  most: number,
): Promise<(TrailLine & { readonly position: number | null })[]> {
  const { id, position, at, byId, tokenId, address, subject, verb, label, changed } = trail;
  const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`;
  const holds: (SQL | undefined)[] = [
    before === null ? undefined : lt(id, before),
    by === null ? undefined : eq(byId, by),
    subjects === null ? undefined : sql`${subject} = ANY(${sql.param([...subjects])}::text[])`,
    from === null ? undefined : gte(at, from),
    until === null ? undefined : lt(at, until),
    words === ''
      ? undefined
      : or(sql`${label} ILIKE ${like}`, sql`${changed}::text ILIKE ${like}`, sql`${address} ILIKE ${like}`),
  ];
  return tx
    .select({ id, position, at, byId, tokenId, address, subject, verb, label, changed })
    .from(trail)
    .where(and(...holds))
    .orderBy(desc(id))
    .limit(most);
}

/** Seals what can be seen by now. In a transaction of its own, for seals are seen when it ends. */
export async function sealTrail(tx: Tx): Promise<void> {
  for (let many = 1; many > 0;) {
    const { rows } = await tx.execute<{ many: number }>(sql`SELECT slate.seal_trail() AS many`);
    many = rows[0]?.many ?? 0;
  }
}

/** How far the trail is sealed, the last seal, and the first place at which it is not whole; null where it is. */
export async function trailSeal(tx: Tx): Promise<{ last: number; seal: string; broken: number | null }> {
  const [head] = await tx.select({ last: trailHead.last, seal: trailHead.seal }).from(trailHead);
  const { rows } = await tx.execute<{ broken: string | null }>(sql`SELECT slate.trail_broken() AS broken`);
  const broken = rows[0]?.broken ?? null;
  return { last: head?.last ?? 0, seal: head?.seal ?? '', broken: broken === null ? null : Number(broken) };
}

/** Notes that somebody was not let in. */
export async function noteRefused(email: string, address: string): Promise<void> {
  await appDatabase().execute(sql`SELECT slate.note_refused(${email}, ${address})`);
}
