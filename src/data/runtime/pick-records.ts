import { sql, type SQL } from 'drizzle-orm';
import type { PickedRecord } from '../../core/form/picked-record';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../connect';
import { columnName, tableName } from '../identifiers';
import { titleSql } from './records';

export interface PickFrom {
  readonly table: Table;
  readonly show: readonly Column[];
  readonly read: readonly Column[];
}

/** Records whose title, number or shown columns contain every word of `search`, texts and numbers alike. */
export async function searchRecords(
  tx: Tx,
  from: PickFrom,
  search: string,
  most: number,
): Promise<PickedRecord[]> {
  const searched = [
    titleSql(from.table, sql`t`),
    sql`t.number`,
    ...from.show.map((column) => sql`t.${columnName(column)}::text`),
  ];
  const words = search
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, 8);
  const conditions = words.map(
    (word) =>
      sql`(${sql.join(
        searched.map((one) => sql`${one} ILIKE ${`%${word.replace(/[\\%_]/g, '\\$&')}%`}`),
        sql` OR `,
      )})`,
  );
  return pick(
    tx,
    from,
    sql`${sql.join([sql`t.removed_at IS NULL`, ...conditions], sql` AND `)} ORDER BY 2 LIMIT ${most}`,
  );
}

export async function pickById(tx: Tx, from: PickFrom, ids: readonly string[]): Promise<PickedRecord[]> {
  if (ids.length === 0) return [];
  return pick(
    tx,
    from,
    sql`t.id IN (${sql.join(
      ids.map((id) => sql`${id}::uuid`),
      sql`, `,
    )}) AND t.removed_at IS NULL`,
  );
}

async function pick(tx: Tx, { table, show, read }: PickFrom, where: SQL): Promise<PickedRecord[]> {
  const columns = [...show, ...read].map(
    (column, i) =>
      sql`, t.${columnName(column)}${column.kind === 'yes-no' ? sql`` : sql`::text`} AS ${sql.identifier(`c${i}`)}`,
  );
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(sql`
    SELECT t.id, ${titleSql(table, sql`t`)} AS title ${sql.join(columns, sql``)} FROM ${tableName(table)} AS t WHERE ${where}`);
  return rows.map((row) => ({
    id: String(row['id']),
    title: String(row['title']),
    shown: show.map((_, i) => (typeof row[`c${i}`] === 'string' ? String(row[`c${i}`]) : '')),
    values: Object.fromEntries(read.map((column, i) => [column.id, row[`c${show.length + i}`] ?? null])),
  }));
}
