import { and, asc, eq, gte, isNotNull, lte, or, sql } from 'drizzle-orm';
import type { ColumnValue } from '../../../core/storage/rows-to-write';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { storedList } from '../../../core/table/kinds/stored-list';
import { seenName } from '../../identifiers';
import { titleSql } from './places-sql';
import { person, recordReason, submission } from '../../system/schema';
import { seenHistory as history } from '../../system/seen-history';

export interface HistoryLine {
  readonly change: string;
  readonly by: string;
  /** What the token of the program is called that did it for them; null for themselves. */
  readonly through: string | null;
  readonly at: string;
  /** The number of the submission that made the change, where the reader may see it. */
  readonly submission: string | null;
  /** The cells that a change left otherwise, as they were and as they became. */
  readonly cells: readonly HistoryCell[];
  /** Why it was done, where a check asked. */
  readonly reasons: readonly { readonly message: string; readonly reason: string }[];
}

interface HistoryCell {
  readonly column: string;
  readonly before: HistoryValue;
  readonly after: HistoryValue;
}
/** Of a reference, the title of the record as it is called now, where the reader sees it. */
interface HistoryValue {
  readonly raw: ColumnValue;
  readonly title?: string;
}

/** `nobody` is who did what no person did. */
export async function readHistory(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  table: Table,
  record: string,
  most: number,
  nobody: string,
): Promise<HistoryLine[]> {
  const rows = await tx
    .select({
      before: history.before,
      after: history.after,
      change: history.change,
      by: person.name,
      through: sql<
        string | null
      >`CASE WHEN ${history.tokenId} IS NOT NULL THEN slate.token_label(${history.tokenId}) END`,
      at: history.at,
      submission: submission.number,
    })
    .from(history)
    .leftJoin(person, eq(person.id, history.byId))
    .leftJoin(submission, eq(submission.id, history.submissionId))
    .where(
      and(
        eq(history.tableId, table.id),
        or(
          eq(history.recordId, record),
          and(isNotNull(history.lastId), lte(history.recordId, record), gte(history.lastId, record)),
        ),
      ),
    )
    .orderBy(asc(history.version))
    .limit(most);
  const given = await tx
    .select({ at: recordReason.at, message: recordReason.message, reason: recordReason.reason })
    .from(recordReason)
    .where(and(eq(recordReason.tableId, table.id), eq(recordReason.recordId, record)));
  const changed = rows.map(({ before, after }) => cellsOf(table, before, after));
  const titles = await titlesIn(tx, tables, table, changed.flat());
  return rows.map((row, i) => ({
    change: whatHappened(row),
    by: row.by ?? nobody,
    through: row.through,
    at: row.at.toISOString(),
    submission: row.submission,
    // Kept in one transaction, both have its moment.
    reasons: given
      .filter(({ at }) => at.getTime() === row.at.getTime())
      .map(({ message, reason }) => ({ message, reason })),
    cells: (changed[i] ?? []).map(({ column, before, after }) => ({
      column: column.id,
      before: valued(before, titles),
      after: valued(after, titles),
    })),
  }));
}

/** A record that is removed stays in its table, so to the database it is changed. */
function whatHappened({
  change,
  before,
  after,
}: {
  change: string;
  before: unknown;
  after: unknown;
}): string {
  if (!isRow(before) || !isRow(after)) return change;
  const [was, is] = [before['removed_at'] ?? null, after['removed_at'] ?? null];
  if (was === null && is !== null) return 'removed';
  return was !== null && is === null ? 'restored' : change;
}

interface ChangedCell {
  readonly column: Column;
  readonly before: ColumnValue;
  readonly after: ColumnValue;
}

/** What differs between two states of a record, by the names columns have in the database. */
function cellsOf(table: Table, before: unknown, after: unknown): ChangedCell[] {
  if (!isRow(before) || !isRow(after)) return [];
  return table.columns.flatMap((column) => {
    const [was, is] = [cell(before[column.key]), cell(after[column.key])];
    return was === is ? [] : [{ column, before: was, after: is }];
  });
}

const isRow = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null;
const cell = (value: unknown): ColumnValue =>
  value === undefined || value === null
    ? null
    : typeof value === 'boolean'
      ? value
      : Array.isArray(value)
        ? storedList(value as string[])
        : String(value as string | number);

const valued = (raw: ColumnValue, titles: ReadonlyMap<string, string>): HistoryValue => {
  const title = typeof raw === 'string' ? titles.get(raw) : undefined;
  return title === undefined ? { raw } : { raw, title };
};

/** What the records are called that references named, as far as the reader sees them; those that were removed too. */
async function titlesIn(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  table: Table,
  cells: readonly ChangedCell[],
): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const column of table.columns.filter(({ kind }) => kind === 'reference')) {
    const target = tables.get(column.target ?? '');
    const own = cells.filter((one) => one.column.id === column.id);
    const ids = [...new Set(own.flatMap(({ before, after }) => [before, after]))].filter((id) => id !== null);
    if (target === undefined || ids.length === 0) continue;
    const { rows } = await tx.execute<{ id: string; title: string }>(
      sql`SELECT t.id, ${titleSql(target, sql`t`)} AS title FROM ${seenName(target)} AS t WHERE t.id = ANY(${sql.param(ids)}::uuid[])`,
    );
    for (const { id, title } of rows) found.set(id, title);
  }
  return found;
}

/** The latest of all changes, among which it is looked for what is news. */
const LATEST = 500;

/**
 * Of these tables, those of which others than `except` changed records since then, the latest first; as far
 * as the latest changes of all tables tell.
 */
export async function changedLately(
  tx: Tx,
  { tables, except, since }: { tables: readonly string[]; except: string; since: Date },
): Promise<{ table: string; changed: number; at: string }[]> {
  if (tables.length === 0) return [];
  const { rows } = await tx.execute<{ table: string; changed: number; at: string }>(
    sql`SELECT table_id AS table, count(DISTINCT record_id)::int AS changed, to_char(max(at) AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') AS at
      FROM (SELECT table_id, record_id, at, by_id FROM ${history} ORDER BY id DESC LIMIT ${LATEST}) AS latest
      WHERE table_id = ANY (${sql.param([...tables])}::uuid[]) AND by_id IS DISTINCT FROM ${except}::uuid AND at >= ${since.toISOString()}::timestamptz
      GROUP BY table_id ORDER BY max(at) DESC`,
  );
  return rows;
}
