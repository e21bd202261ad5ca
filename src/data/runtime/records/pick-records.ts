import { sql, type SQL } from 'drizzle-orm';
import type { PickedRecord } from '../../../core/form/picked-record';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, tableName } from '../../identifiers';
import { titleSql } from './places-sql';
import { shownText } from './shown-text';

export interface PickFrom {
  readonly table: Table;
  readonly show: readonly Column[];
  readonly read: readonly Column[];
}

/** Records whose title or shown columns contain every word of `search`, texts and numbers alike, as people see them. What is not shown is not searched. */
export async function searchRecords(
  tx: Tx,
  from: PickFrom,
  search: string,
  most: number,
): Promise<PickedRecord[]> {
  const words = search
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, 8);
  const searched = seen(from);
  const conditions = words.map(
    (word) =>
      sql`(${sql.join(
        searched.map((one) => sql`${one} ILIKE ${`%${word.replace(/[\\%_]/g, '\\$&')}%`}`),
        sql` OR `,
      )})`,
  );
  return found(
    tx,
    from,
    sql`${sql.join([sql`t.removed_at IS NULL`, ...conditions], sql` AND `)} ORDER BY 2 LIMIT ${most}`,
  );
}

/** Records that one of these texts names: by title, number or a shown column, case aside. By text, in small letters, every record it names. */
export async function recordsNamed(
  tx: Tx,
  from: PickFrom,
  texts: readonly string[],
): Promise<Map<string, PickedRecord[]>> {
  const small = [...new Set(texts.map((text) => text.trim().toLowerCase()))].filter((text) => text !== '');
  const found = new Map<string, PickedRecord[]>(small.map((text) => [text, []]));
  if (small.length === 0) return found;
  const names = [sql`t.number`, ...seen(from)].map((one) => sql`lower(${one})`);
  const wanted = sql`${sql.param(small)}::text[]`;
  const records = await pick(
    tx,
    from,
    sql`t.removed_at IS NULL AND (${sql.join(
      names.map((name) => sql`${name} = ANY (${wanted})`),
      sql` OR `,
    )}) LIMIT ${MOST_NAMED}`,
    sql`ARRAY[${sql.join(names, sql`, `)}]`,
  );
  for (const { names: ownNames, ...record } of records)
    for (const name of new Set(ownNames)) found.get(name)?.push(record);
  return found;
}

/** A text that names hundreds of records names none. */
const MOST_NAMED = 5_000;

/** All that is seen of a record in a lookup. */
const seen = ({ table, show }: PickFrom): SQL[] => [
  titleSql(table, sql`t`),
  ...show.map((column) => shownText(column, sql`t`)),
];

export async function pickById(tx: Tx, from: PickFrom, ids: readonly string[]): Promise<PickedRecord[]> {
  if (ids.length === 0) return [];
  return found(
    tx,
    from,
    sql`t.id IN (${sql.join(
      ids.map((id) => sql`${id}::uuid`),
      sql`, `,
    )}) AND t.removed_at IS NULL`,
  );
}

const found = async (tx: Tx, from: PickFrom, where: SQL): Promise<PickedRecord[]> =>
  (await pick(tx, from, where)).map(({ names: _, ...record }) => record);

async function pick(
  tx: Tx,
  { table, show, read }: PickFrom,
  where: SQL,
  names: SQL = sql`NULL::text[]`,
): Promise<(PickedRecord & { names: readonly string[] })[]> {
  const columns = [
    ...show.map((column) => shownText(column, sql`t`)),
    ...read.map((column) => sql`t.${columnName(column)}${column.kind === 'yes-no' ? sql`` : sql`::text`}`),
  ].map((column, i) => sql`, ${column} AS ${sql.identifier(`c${i}`)}`);
  const { rows } = await tx.execute<Record<string, string | boolean | string[] | null>>(sql`
    SELECT t.id, ${titleSql(table, sql`t`)} AS title, ${names} AS names ${sql.join(columns, sql``)} FROM ${tableName(table)} AS t WHERE ${where}`);
  return rows.map((row) => ({
    id: String(row['id']),
    title: String(row['title']),
    names: Array.isArray(row['names']) ? row['names'] : [],
    shown: show.map((_, i) => (typeof row[`c${i}`] === 'string' ? String(row[`c${i}`]) : '')),
    values: Object.fromEntries(
      read.map((column, i) => [column.id, (row[`c${show.length + i}`] ?? null) as string | boolean | null]),
    ),
  }));
}
