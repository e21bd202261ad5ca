import { sql, type SQL } from 'drizzle-orm';
import { packagedKeys } from '../../../core/table/data-package';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { packagedName, seenName, tableName } from '../../identifiers';
import type { CopyInto } from '../../transaction';
import { copyTexts } from './load-rows';
import { PEOPLE } from '../../../core/expression/type';

const INSTANTS = new Set(['created_at', 'updated_at']);

/**
 * The rows of a table as its file holds them, after one, by id: texts of PostgreSQL, instants in UTC. Whoever
 * has left is still named by what they did.
 */
export async function packagedRows(
  tx: Tx,
  table: Table,
  last: string | null,
  most: number,
): Promise<(string | null)[][]> {
  const cells = packagedKeys(table).map((key) =>
    INSTANTS.has(key)
      ? sql`to_char(t.${packagedName(key)} AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`
      : sql`t.${packagedName(key)}::text`,
  );
  const { rows } = await tx.execute<{ cells: (string | null)[] }>(sql`
    SELECT ARRAY[${sql.join(cells, sql`, `)}] AS cells FROM ${seenName(table)} t WHERE ${table.id === PEOPLE ? sql`TRUE` : sql`t.removed_at IS NULL`} ${last === null ? sql`` : sql`AND t.id > ${last}::uuid`} ORDER BY t.id LIMIT ${most}`);
  return rows.map(({ cells: row }) => row);
}

/** Copies rows as they were taken out into a table that was just made; its numbers go on after the highest there is. */
export async function loadPackaged(
  tx: Tx,
  copy: CopyInto,
  table: Table,
  rows: AsyncIterable<readonly (readonly (string | null)[])[]>,
): Promise<number> {
  const columns: SQL = sql.join(packagedKeys(table).map(packagedName), sql`, `);
  const count = await copyTexts(copy(sql`COPY ${tableName(table)} (${columns}) FROM STDIN`), rows);
  const year =
    table.numbering === 'yearly'
      ? sql`coalesce((regexp_match(number, '-(\\d{4})-\\d+$'))[1]::int, 0)`
      : sql`0`;
  await tx.execute(sql`
    INSERT INTO slate.number_counter (table_id, year, last) SELECT ${table.id}::uuid, ${year}, max((regexp_match(number, '(\\d{1,9})$'))[1]::int) FROM ${tableName(table)} WHERE number ~ '\\d$' GROUP BY 2
    ON CONFLICT (table_id, year) DO UPDATE SET last = excluded.last`);
  return count;
}
