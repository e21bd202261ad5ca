import { sql, type SQL } from 'drizzle-orm';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName, tableName } from '../../identifiers';
import { inOrder, titleSql } from './places-sql';
import { shownText } from './shown-text';

/** What is kept about one person in records, whoever sees them; as the owner role. */

type Tables = ReadonlyMap<string, Table>;

export interface WholeRecord {
  readonly id: string;
  /** Of a row: the record it belongs to. */
  readonly parent: string | null;
  readonly number: string;
  readonly title: string;
  /** Days of the workspace. */
  readonly made: string;
  readonly changed: string;
  readonly removed: boolean;
  /** As people see it, by the id of the column. */
  readonly values: Readonly<Record<string, string | null>>;
}

/** The records in whose `columns` all of these words are seen together, by their numbers; those in the bin as well. */
export const recordsWith = (
  tx: Tx,
  tables: Tables,
  table: Table,
  { words, columns, most }: { words: readonly string[]; columns: readonly Column[]; most: number },
): Promise<WholeRecord[]> => {
  const text = sql`slate.words(ARRAY[${sql.join(
    columns.map((column) => sql`coalesce(${shownText(column, sql`t`)}, '')`),
    sql`, `,
  )}])`;
  const all = words.map((word) => sql`${text} LIKE slate.found_in(${word})`);
  return whole(
    tx,
    tables,
    table,
    columns,
    sql`${sql.join(all, sql` AND `)} ORDER BY ${inOrder(sql`t.number`)}, t.id LIMIT ${most}`,
  );
};

/** These records, or the rows of these, with all that stands in them. */
export const wholeRecords = (
  tx: Tx,
  tables: Tables,
  table: Table,
  by: 'id' | 'parent_id',
  ids: readonly string[],
): Promise<WholeRecord[]> =>
  ids.length === 0
    ? Promise.resolve([])
    : whole(
        tx,
        tables,
        table,
        [...table.columns.filter(({ formula }) => formula === ''), ...table.retired],
        sql`${by === 'id' ? sql`t.id` : sql`t.parent_id`} = ANY (${sql.param([...ids])}::uuid[]) ORDER BY ${inOrder(sql`t.number`)}, t.id`,
      );

async function whole(
  tx: Tx,
  tables: Tables,
  table: Table,
  columns: readonly Column[],
  which: SQL,
): Promise<WholeRecord[]> {
  const cells = columns.map((column, i) => sql`, ${cellOf(tables, column)} AS ${sql.identifier(`c${i}`)}`);
  const parent = table.parent === null ? sql`NULL` : sql`t.parent_id`;
  const { rows } = await tx.execute<Record<string, string | boolean | null>>(
    sql`SELECT t.id, ${parent} AS parent, t.number, ${titleSql(table, sql`t`)} AS title, t.created_at::date::text AS made, t.updated_at::date::text AS changed, t.removed_at IS NOT NULL AS removed${sql.join(cells, sql``)}
      FROM ${seenName(table)} AS t WHERE ${which}`,
  );
  return rows.map((row) => ({
    id: String(row['id']),
    parent: row['parent'] as string | null,
    number: String(row['number']),
    title: String(row['title'] ?? ''),
    made: String(row['made']),
    changed: String(row['changed']),
    removed: row['removed'] === true,
    values: Object.fromEntries(columns.map(({ id }, i) => [id, (row[`c${i}`] ?? null) as string | null])),
  }));
}

function cellOf(tables: Tables, column: Column): SQL {
  const target = column.kind === 'reference' ? tables.get(column.target ?? '') : undefined;
  return target === undefined
    ? shownText(column, sql`t`)
    : sql`(SELECT ${titleSql(target, sql`n`)} FROM ${seenName(target)} AS n WHERE n.id = t.${columnName(column)})`;
}

/** What a record was, as it stands in its history: values by the names the columns had then. */
export interface Earlier {
  readonly recordId: string;
  readonly change: string;
  readonly at: string;
  readonly by: string | null;
  readonly after: Readonly<Record<string, unknown>> | null;
}

export async function earlierOf(tx: Tx, ids: readonly string[]): Promise<Earlier[]> {
  const { rows } = await tx.execute<Earlier & Record<string, unknown>>(
    sql`SELECT h.record_id AS "recordId", h.change, to_json(h.at) #>> '{}' AS at, p.name AS by, h.after FROM slate.history h LEFT JOIN slate.person p ON p.id = h.by_id
      WHERE h.record_id = ANY (${sql.param([...ids])}::uuid[]) AND h.last_id IS NULL ORDER BY h.record_id, h.version, h.id`,
  );
  return rows;
}

/** What is to stand in a column of each record afterwards. */
export interface Emptied {
  readonly column: Column;
  readonly values: readonly (string | null)[];
}

/** What stands in columns of records as it is stored, which nobody else changes until the transaction ends. */
export async function lockedValues(
  tx: Tx,
  table: Table,
  ids: readonly string[],
  columns: readonly Column[],
): Promise<{ readonly id: string; readonly number: string; readonly values: readonly (string | null)[] }[]> {
  const cells = columns.map(
    (column, i) => sql`, t.${columnName(column)}::text AS ${sql.identifier(`c${i}`)}`,
  );
  const { rows } = await tx.execute<Record<string, string | null>>(
    sql`SELECT t.id, t.number${sql.join(cells, sql``)} FROM ${tableName(table)} AS t WHERE t.id = ANY (${sql.param([...ids])}::uuid[]) ORDER BY t.id FOR UPDATE`,
  );
  return rows.map((row) => ({
    id: String(row['id']),
    number: String(row['number']),
    values: columns.map((_, i) => row[`c${i}`] ?? null),
  }));
}

export async function emptyRecords(
  tx: Tx,
  table: Table,
  ids: readonly string[],
  emptied: readonly Emptied[],
): Promise<void> {
  if (ids.length === 0 || emptied.length === 0) return;
  const names = emptied.map((_, i) => sql.identifier(`v${i}`));
  const lists = emptied.map(({ values }) => sql`, ${sql.param([...values])}::text[]`);
  // Only what must be filled has a word in it afterwards, and that is text.
  const sets = emptied.map(
    ({ column, values }, i) =>
      sql`${columnName(column)} = ${values.every((value) => value === null) ? sql`NULL` : sql`u.${names[i] ?? sql``}`}`,
  );
  await tx.execute(
    sql`UPDATE ${tableName(table)} AS t SET ${sql.join(sets, sql`, `)} FROM unnest(${sql.param([...ids])}::uuid[]${sql.join(lists, sql``)}) AS u (id, ${sql.join(names, sql`, `)}) WHERE t.id = u.id`,
  );
}

/** Takes out of the history of records what stood in these columns, and whatever else was the very same text: a column may have had another name. */
export async function emptyHistory(
  tx: Tx,
  table: Table,
  ids: readonly string[],
  { columns, values }: { columns: readonly Column[]; values: readonly string[] },
): Promise<void> {
  const keys = sql`${sql.param(columns.map(({ key }) => key))}::text[]`;
  const texts = sql`${sql.param([...values])}::text[]`;
  const without = (side: SQL): SQL =>
    sql`CASE WHEN jsonb_typeof(${side}) = 'object' THEN (SELECT coalesce(jsonb_object_agg(e.key, e.value), '{}') FROM jsonb_each(${side}) AS e WHERE e.key <> ALL (${keys}) AND (jsonb_typeof(e.value) <> 'string' OR e.key = ANY (ARRAY['id', 'number', 'parent_id']) OR e.value #>> '{}' <> ALL (${texts}))) ELSE ${side} END`;
  await tx.execute(
    sql`UPDATE slate.history AS h SET before = ${without(sql`h.before`)}, after = ${without(sql`h.after`)} WHERE h.table_id = ${table.id}::uuid AND h.record_id = ANY (${sql.param([...ids])}::uuid[]) AND h.last_id IS NULL`,
  );
  const columnIds = sql`${sql.param(columns.map(({ id }) => id))}::text[]`;
  await tx.execute(
    sql`UPDATE slate.bulk_changed SET back = jsonb_set(jsonb_set(back, '{before}', (back->'before') - ${columnIds}), '{values}', (back->'values') - ${columnIds}) WHERE record_id = ANY (${sql.param([...ids])}::uuid[])`,
  );
}
