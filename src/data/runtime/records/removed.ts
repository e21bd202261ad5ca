import { sql, type SQL } from 'drizzle-orm';
import type { RemovedRecord } from '../../../contract/answers-from-server';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName, stampName, tableName } from '../../identifiers';
import { titleSql } from './places-sql';

type Tables = ReadonlyMap<string, Table>;

/** What was removed by itself, the latest first; rows that went with their record come back with it, and are none of these. */
export async function readRemoved(
  tx: Tx,
  tables: Tables,
  table: Table,
  most: number,
): Promise<RemovedRecord[]> {
  const parent = tables.get(table.parent ?? '');
  const joined =
    parent === undefined
      ? sql``
      : sql` JOIN ${seenName(parent)} AS p ON p.id = t.${stampName('parent_id')} AND p.removed_at IS DISTINCT FROM t.removed_at`;
  const { rows } = await tx.execute<{
    id: string;
    number: string;
    version: number;
    title: string;
    at: string;
    by: string | null;
  }>(sql`
    SELECT t.id, t.number, t.version, ${titleSql(table, sql`t`)} AS title, to_json(t.removed_at) #>> '{}' AS at,
      (SELECT name FROM slate.person w WHERE w.id = t.updated_by) AS by
    FROM ${seenName(table)} AS t${joined} WHERE t.removed_at IS NOT NULL ORDER BY t.removed_at DESC, t.id LIMIT ${most}`);
  return rows.map(({ title, ...row }) => ({ ...row, title: title === row.number ? '' : title }));
}

/** Of one table in one night. */
const MOST_PURGED = 5_000;

/**
 * Takes away for good what was removed before a moment, rows before the records they belong to; gives how
 * many. What another record still names, removed or not, waits until that is gone.
 */
export async function purgeRemoved(tx: Tx, tables: Tables, before: Date): Promise<number> {
  const depth = ({ parent }: Table): number => {
    const owner = tables.get(parent ?? '');
    return owner === undefined ? 0 : 1 + depth(owner);
  };
  const own = [...tables.values()].filter(({ linked }) => linked === null);
  let purged = 0;
  for (const table of own.sort((a, b) => depth(b) - depth(a))) {
    const free = [...tables.values()].flatMap((other) => namesOf(other, table));
    const { rowCount } = await tx.execute(sql`
      DELETE FROM ${tableName(table)} WHERE id IN (
        SELECT t.id FROM ${tableName(table)} AS t
        WHERE t.removed_at < ${before.toISOString()}::timestamptz${sql.join(free, sql``)} LIMIT ${MOST_PURGED})`);
    purged += rowCount ?? 0;
  }
  return purged;
}

/** That a record of `table`, as `t`, is named by none of `other`. */
function namesOf(other: Table, table: Table): SQL[] {
  const by = [
    ...[...other.columns, ...other.retired].flatMap((column) =>
      column.target === table.id ? [columnName(column)] : [],
    ),
    ...(other.parent === table.id ? [stampName('parent_id')] : []),
  ];
  return by.map(
    (name) =>
      sql` AND NOT EXISTS (SELECT 1 FROM ${tableName(other)} AS o WHERE o.${name} = t.id AND o.id <> t.id)`,
  );
}
