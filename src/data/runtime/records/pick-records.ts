import { sql, type SQL } from 'drizzle-orm';
import type { PickedRecord } from '../../../core/form/picked-record';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';
import { also, joined, type Condition } from './filter-sql';
import { titleSql } from './places-sql';
import { shownText } from './shown-text';
import { isLettered } from './words-sql';

export interface PickFrom {
  readonly table: Table;
  readonly show: readonly Column[];
  readonly read: readonly Column[];
}

/**
 * Records that one of these texts names: by title or a column of it, number or a shown column, case aside. By
 * text, in small letters, every record it names.
 */
export async function recordsNamed(
  tx: Tx,
  from: PickFrom,
  texts: readonly string[],
  where: Condition | null = null,
): Promise<Map<string, PickedRecord[]>> {
  const small = [...new Set(texts.map((text) => text.trim().toLowerCase()))].filter((text) => text !== '');
  const found = new Map<string, PickedRecord[]>(small.map((text) => [text, []]));
  if (small.length === 0) return found;
  const parts = from.table.columns
    .filter((column) => from.table.title.includes(column.id) && isLettered(column))
    .map((column) => shownText(column, sql`t`));
  const names = [sql`t.number`, ...parts, ...seenOf(from)].map((one) => sql`lower(${one})`);
  const wanted = sql`${sql.param(small)}::text[]`;
  const records = await pick(
    tx,
    from,
    sql`${joined(where)} WHERE t.removed_at IS NULL${also(where)} AND (${sql.join(
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
export const seenOf = ({ table, show }: PickFrom): SQL[] => [
  titleSql(table, sql`t`),
  ...show.map((column) => shownText(column, sql`t`)),
];

/** Those of these records that are there, and of which a condition holds. */
export async function pickById(
  tx: Tx,
  from: PickFrom,
  ids: readonly string[],
  where: Condition | null = null,
): Promise<PickedRecord[]> {
  if (ids.length === 0) return [];
  return picked(
    tx,
    from,
    sql`${joined(where)} WHERE t.id = ANY (${sql.param([...ids])}::uuid[]) AND t.removed_at IS NULL${also(where)}`,
  );
}

/** Records as a lookup offers them; `rest` stands behind `FROM table AS t`, where the second column selected is the title. */
export const picked = async (tx: Tx, from: PickFrom, rest: SQL): Promise<PickedRecord[]> =>
  (await pick(tx, from, rest)).map(({ names: _, ...record }) => record);

async function pick(
  tx: Tx,
  { table, show, read }: PickFrom,
  rest: SQL,
  names: SQL = sql`NULL::text[]`,
): Promise<(PickedRecord & { names: readonly string[] })[]> {
  const columns = [
    ...show.map((column) => shownText(column, sql`t`)),
    ...read.map((column) => sql`t.${columnName(column)}${column.kind === 'yes-no' ? sql`` : sql`::text`}`),
  ].map((column, i) => sql`, ${column} AS ${sql.identifier(`c${i}`)}`);
  const { rows } = await tx.execute<Record<string, string | boolean | string[] | null>>(sql`
    SELECT t.id, ${titleSql(table, sql`t`)} AS title, ${names} AS names ${sql.join(columns, sql``)} FROM ${seenName(table)} AS t${rest}`);
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
