import { and, asc, eq, gte, isNotNull, lte, or } from 'drizzle-orm';
import type { Tx } from '../../connect';
import { history, person, submission } from '../../system/schema';

export interface HistoryLine {
  readonly change: string;
  readonly by: string;
  readonly at: string;
  /** The number of the submission that made the change, where the reader may see it. */
  readonly submission: string | null;
}

/** `nobody` is who did what no person did. */
export async function readHistory(
  tx: Tx,
  table: string,
  record: string,
  most: number,
  nobody: string,
): Promise<HistoryLine[]> {
  const rows = await tx
    .select({ change: history.change, by: person.name, at: history.at, submission: submission.number })
    .from(history)
    .leftJoin(person, eq(person.id, history.byId))
    .leftJoin(submission, eq(submission.id, history.submissionId))
    .where(
      and(
        eq(history.tableId, table),
        or(
          eq(history.recordId, record),
          and(isNotNull(history.lastId), lte(history.recordId, record), gte(history.lastId, record)),
        ),
      ),
    )
    .orderBy(asc(history.version))
    .limit(most);
  return rows.map((row) => ({
    change: row.change,
    by: row.by ?? nobody,
    at: row.at.toISOString(),
    submission: row.submission,
  }));
}
