import { and, asc, eq, gte, isNull, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { absence } from './schema';

export type AbsenceRow = Pick<
  typeof absence.$inferSelect,
  'id' | 'personId' | 'fromDay' | 'untilDay' | 'standInId'
>;

/** Everybody for whom whoever asks stands in today, themselves left out. */
export async function standsInFor(tx: Tx): Promise<ReadonlySet<string>> {
  const { rows } = await tx.execute<{ who: string }>(
    sql`SELECT who FROM unnest(slate.asked_as()) AS who WHERE who <> slate.asking()`,
  );
  return new Set(rows.map(({ who }) => who));
}

/** Absences of today and to come, soonest first; of one person, or of all. */
export function absencesAhead(tx: Tx, of?: string): Promise<AbsenceRow[]> {
  return tx
    .select({
      id: absence.id,
      personId: absence.personId,
      fromDay: absence.fromDay,
      untilDay: absence.untilDay,
      standInId: absence.standInId,
    })
    .from(absence)
    .where(
      and(
        isNull(absence.endedAt),
        gte(absence.untilDay, sql`slate.today()`),
        of === undefined ? undefined : eq(absence.personId, of),
      ),
    )
    .orderBy(asc(absence.fromDay), asc(absence.id));
}

/** Today where the workspace is, as ISO 8601. */
export async function todayThere(tx: Tx): Promise<string> {
  const { rows } = await tx.execute<{ day: string }>(sql`SELECT slate.today()::text AS day`);
  return rows[0]?.day ?? '';
}

/** The database holds that it is said by themselves or an administrator. */
export async function putAbsence(
  tx: Tx,
  { id, personId, fromDay, untilDay, standInId }: AbsenceRow,
): Promise<void> {
  await tx.execute(
    sql`SELECT slate.put_absence(${id}::uuid, ${personId}::uuid, ${fromDay}::date, ${untilDay}::date, ${standInId}::uuid)`,
  );
}

export async function readAbsence(tx: Tx, id: string): Promise<AbsenceRow | null> {
  const rows = await tx.select().from(absence).where(eq(absence.id, id));
  return rows[0] ?? null;
}

export async function endAbsence(tx: Tx, id: string): Promise<void> {
  await tx.execute(sql`SELECT slate.end_absence(${id}::uuid)`);
}
