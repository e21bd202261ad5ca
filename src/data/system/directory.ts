import { eq, sql } from 'drizzle-orm';
import type { DirectoryOutcome, Member } from '../../core/directory/following';
import type { Tx } from '../connect';
import { directory, directoryMember, source } from './schema';

export type DirectoryRecord = typeof directory.$inferSelect;
type SourceRow = typeof source.$inferSelect;

/** The list of people that is followed; with `lock`, nobody else changes it until the transaction ends. */
export async function readDirectory(tx: Tx, lock = false): Promise<DirectoryRecord | null> {
  const query = tx.select().from(directory);
  return (await (lock ? query.for('update') : query))[0] ?? null;
}

/** The list with where it comes from, if its time has come. */
export async function dueDirectory(
  tx: Tx,
  now: Date,
): Promise<{ directory: DirectoryRecord; source: SourceRow } | null> {
  const [row] = await tx
    .select()
    .from(directory)
    .innerJoin(source, eq(source.id, directory.sourceId))
    .where(sql`${directory.dueAt} <= ${now.toISOString()}::timestamptz`);
  return row ?? null;
}

type Named = Pick<DirectoryRecord, 'sourceId' | 'every' | 'endsAccess' | 'namedById'>;

/** Has a list followed, or another way. False when somebody else was first. */
export async function putDirectory(tx: Tx, named: Named, seen: number, now: Date): Promise<boolean> {
  const times = { dueAt: now, triedAt: now, followedAt: now };
  const nothing: DirectoryOutcome = { t: 'followed', added: 0, changed: 0, left: 0, issues: [], wrong: 0 };
  const rows =
    seen === 0
      ? await tx
          .insert(directory)
          .values({ ...named, ...times, outcome: nothing })
          .onConflictDoNothing()
          .returning({ version: directory.version })
      : await tx
          .update(directory)
          .set({ ...named, version: seen + 1 })
          .where(eq(directory.version, seen))
          .returning({ version: directory.version });
  return rows.length === 1;
}

/** A list that has failed for so long is told of, as one is at once that would have many leave. */
const PATIENCE = '1 day';

/** What came of following it, and when it is followed next. */
export async function noteOutcome(
  tx: Tx,
  outcome: DirectoryOutcome,
  { now, due }: { readonly now: Date; readonly due: Date },
): Promise<void> {
  const at = sql`${now.toISOString()}::timestamptz`;
  await tx.update(directory).set({
    outcome,
    triedAt: now,
    dueAt: due,
    ...(outcome.t === 'followed'
      ? { followedAt: now, toldAt: null }
      : {
          toldAt: sql`coalesce(${directory.toldAt}, CASE WHEN ${outcome.t === 'held'} OR ${directory.followedAt} < ${at} - ${PATIENCE}::interval THEN ${at} END)`,
        }),
  });
}

/** It is followed no more, and nobody is known from it. */
export async function dropDirectory(tx: Tx, seen: number): Promise<boolean> {
  const rows = await tx
    .delete(directory)
    .where(eq(directory.version, seen))
    .returning({ version: directory.version });
  if (rows.length === 1) await tx.delete(directoryMember);
  return rows.length === 1;
}

/** Those who are known from it, with what it knows of them. */
export async function readMembers(tx: Tx): Promise<ReadonlyMap<string, Member>> {
  const rows = await tx.select().from(directoryMember);
  return new Map(rows.map(({ personId, entry, ended }) => [personId, { entry, ended }]));
}

/** Who is known from it as of now. */
export async function putMembers(tx: Tx, members: ReadonlyMap<string, Member>): Promise<void> {
  const people = [...members.keys()];
  const [entries, ended] = [
    [...members.values()].map(({ entry }) => entry),
    [...members.values()].map((one) => one.ended),
  ];
  await tx
    .delete(directoryMember)
    .where(sql`${directoryMember.personId} <> ALL (${sql.param(people)}::uuid[])`);
  await tx.execute(
    sql`INSERT INTO ${directoryMember} (person_id, entry, ended) SELECT * FROM unnest(${sql.param(people)}::uuid[], ${sql.param(entries)}::text[], ${sql.param(ended)}::boolean[])
      ON CONFLICT (person_id) DO UPDATE SET entry = excluded.entry, ended = excluded.ended WHERE (${directoryMember.entry}, ${directoryMember.ended}) <> (excluded.entry, excluded.ended)`,
  );
}
