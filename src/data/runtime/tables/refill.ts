import { sql, type SQL } from 'drizzle-orm';
import type { Catalogue } from '../../../core/catalogue/catalogue';
import type { Converted } from '../../../core/import/convert';
import { convertedBy, readableText, Titles, type Conversion } from '../../../core/table/convert-column';
import { hasChoices, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, constraintName, stampName, tableName } from '../../identifiers';
import { builtName, columnExtras, columnType, valueConstraints } from './change-sql';
import { titleSql } from '../records/places-sql';

/**
 * Values of a column read anew. They are filled into a column beside it, which takes its place at the end:
 * until then nothing that was there has changed, and people go on reading and writing.
 */
export interface Refill extends Conversion {
  readonly source: (stored: string | null) => string;
  readonly read: (text: string) => Converted;
}

/** A value that does not fit, with a record that holds it. */
export interface Unfit {
  readonly column: Column;
  readonly text: string;
  readonly id: string;
}

/** Tables larger than this are not matched by title, for their titles would not fit in memory. */
const MOST_TITLES = 500_000;

export async function refillOf(
  tx: Tx,
  { tables, workspace }: Pick<Catalogue, 'tables' | 'workspace'>,
  conversion: Conversion,
): Promise<Refill> {
  const titles = await titlesOf(tx, tables.get(conversion.column.target ?? ''));
  const old =
    conversion.before.target === conversion.column.target
      ? titles
      : await titlesOf(tx, tables.get(conversion.before.target ?? ''));
  return {
    ...conversion,
    source: readableText(conversion.before, old.titleOf),
    read: convertedBy(conversion, titles.find, workspace.zone),
  };
}

async function titlesOf(tx: Tx, table: Table | undefined): Promise<Titles> {
  const titles = new Titles();
  if (table === undefined) return titles;
  const { rows } = await tx.execute<{ id: string; title: string; number: string }>(
    sql`SELECT t.id, ${titleSql(table, sql`t`)} AS title, t.number FROM ${tableName(table)} AS t WHERE t.removed_at IS NULL LIMIT ${MOST_TITLES}`,
  );
  for (const { id, title, number } of rows) titles.add(id, title, number);
  return titles;
}

/** The column that is filled; its constraints go by its own name until it takes the place of the other. */
const shadowOf = (column: Column): Column => ({
  ...column,
  id: `n${column.id}`,
  key: `becoming_${column.id}`,
  required: false,
  unique: false,
});
/** The column, as it is found while the table is being filled. */
export const whileFilled = (column: Column, refills: readonly Refill[]): Column =>
  refills.some((one) => one.column.id === column.id) ? shadowOf(column) : column;

export async function addShadows(
  tx: Tx,
  table: Table,
  refills: readonly Refill[],
  keyOf: (id: string) => string,
): Promise<void> {
  for (const { column } of refills) {
    const shadow = shadowOf(column);
    const parts = [
      sql`ADD COLUMN ${columnName(shadow)} ${columnType(shadow)}`,
      ...valueConstraints(shadow, table, keyOf).map((one) => sql`ADD ${one}`),
    ];
    await tx.execute(sql`ALTER TABLE ${tableName(table)} ${sql.join(parts, sql`, `)}`);
    for (const extra of columnExtras(shadow, table)) await tx.execute(extra);
  }
}

/** From here on, whoever writes a record leaves word for `fillPending`. */
export async function watchWrites(tx: Tx, table: Table, change: string): Promise<void> {
  await tx.execute(
    sql`CREATE TRIGGER filling AFTER INSERT OR UPDATE ON ${tableName(table)} FOR EACH ROW EXECUTE FUNCTION slate.note_pending(${sql.raw(`'${change}'`)})`,
  );
}

/** Whether a change that did not end has left anything: looked at first, for taking it away keeps everybody out for a moment. */
export async function hasLeftovers(
  tx: Tx,
  table: Table,
  sets: readonly (readonly string[])[],
): Promise<boolean> {
  const { rows } = await tx.execute<{ left: boolean }>(sql`
    SELECT EXISTS (SELECT 1 FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid WHERE c.relnamespace = 'records'::regnamespace AND c.relname = ${table.key} AND a.attname LIKE 'becoming\_%' AND NOT a.attisdropped)
      OR EXISTS (SELECT 1 FROM pg_trigger g JOIN pg_class c ON c.oid = g.tgrelid WHERE c.relnamespace = 'records'::regnamespace AND c.relname = ${table.key} AND g.tgname = 'filling')
      OR EXISTS (SELECT 1 FROM pg_class c WHERE c.relnamespace = 'records'::regnamespace AND c.relkind = 'i' AND c.relname = ANY (${sql.param(sets.map((set) => builtName(set, table)))}::text[])) AS left`);
  return rows[0]?.left === true;
}

/** Takes away whatever a change that did not end has left. */
export async function clearShadows(
  tx: Tx,
  table: Table,
  columns: readonly Column[],
  change: string,
): Promise<void> {
  await tx.execute(sql`DROP TRIGGER IF EXISTS filling ON ${tableName(table)}`);
  for (const column of columns)
    await tx.execute(
      sql`ALTER TABLE ${tableName(table)} DROP COLUMN IF EXISTS ${columnName(shadowOf(column))}`,
    );
  await tx.execute(sql`DELETE FROM slate.change_pending WHERE change_id = ${change}::uuid`);
}

/** Fills the next records after `last`, by id; null when there are no more. */
export async function fillNext(
  tx: Tx,
  table: Table,
  refills: readonly Refill[],
  last: string | null,
  size: number,
): Promise<{ last: string; rows: number; unfit: Unfit[] } | null> {
  const { rows } = await tx.execute<Stored>(
    sql`SELECT id, ${sources(refills)} FROM ${tableName(table)} ${last === null ? sql`` : sql`WHERE id > ${last}::uuid`} ORDER BY id LIMIT ${size}`,
  );
  const end = rows.at(-1);
  return end === undefined
    ? null
    : { last: end.id, rows: rows.length, unfit: await fill(tx, table, refills, rows) };
}

/** Fills what was written meanwhile; gives how many records that were. */
export async function fillPending(
  tx: Tx,
  table: Table,
  refills: readonly Refill[],
  change: string,
  most: number,
): Promise<{ rows: number; unfit: Unfit[] }> {
  const taken = await tx.execute<{ id: string }>(sql`
    DELETE FROM slate.change_pending WHERE (change_id, record_id) IN (SELECT change_id, record_id FROM slate.change_pending WHERE change_id = ${change}::uuid LIMIT ${most}) RETURNING record_id AS id`);
  const ids = taken.rows.map(({ id }) => id);
  if (ids.length === 0) return { rows: 0, unfit: [] };
  const { rows } = await tx.execute<Stored>(
    sql`SELECT id, ${sources(refills)} FROM ${tableName(table)} WHERE id = ANY (${sql.param(ids)}::uuid[])`,
  );
  return { rows: ids.length, unfit: await fill(tx, table, refills, rows) };
}

type Stored = { id: string } & Record<string, string | null>;

const sources = (refills: readonly Refill[]): SQL =>
  sql.join(
    refills.map(({ before }, i) => sql`${columnName(before)}::text AS ${sql.identifier(`c${i}`)}`),
    sql`, `,
  );

/** A record that was changed between reading and filling keeps what it has, and is among those that wait to be filled again. */
async function fill(
  tx: Tx,
  table: Table,
  refills: readonly Refill[],
  rows: readonly Stored[],
): Promise<Unfit[]> {
  const unfit: Unfit[] = [];
  const made = refills.map(({ column, source, read }, i) =>
    rows.map((row) => {
      const text = source(row[`c${i}`] ?? null);
      const converted = read(text);
      if ('value' in converted) return converted.value;
      unfit.push({ column, text, id: row.id });
      return null;
    }),
  );
  if (unfit.length > 0) return unfit;
  const lists = [
    sql`${sql.param(rows.map(({ id }) => id))}::uuid[]`,
    ...refills.flatMap((_, i) => [
      sql`${sql.param(rows.map((row) => row[`c${i}`] ?? null))}::text[]`,
      sql`${sql.param(made[i] ?? [])}::text[]`,
    ]),
  ];
  const names = [
    sql`id`,
    ...refills.flatMap((_, i) =>
      [sql.identifier(`s${i}`), sql.identifier(`v${i}`)].map((one) => sql`${one}`),
    ),
  ];
  const sets = refills.map(
    ({ column }, i) =>
      sql`${columnName(shadowOf(column))} = v.${sql.identifier(`v${i}`)}::${columnType(column)}`,
  );
  const same = refills.map(
    ({ before }, i) => sql`t.${columnName(before)}::text IS NOT DISTINCT FROM v.${sql.identifier(`s${i}`)}`,
  );
  await tx.execute(sql`SELECT set_config('slate.filling', 'yes', true)`);
  await tx.execute(
    sql`UPDATE ${tableName(table)} AS t SET ${sql.join(sets, sql`, `)} FROM unnest(${sql.join(lists, sql`, `)}) AS v (${sql.join(names, sql`, `)}) WHERE t.id = v.id AND ${sql.join(same, sql` AND `)}`,
  );
  await tx.execute(sql`SELECT set_config('slate.filling', '', true)`);
  return unfit;
}

/** The filled columns take the places of the old ones, which go with all that hung on them. */
export async function swapShadows(tx: Tx, table: Table, refills: readonly Refill[]): Promise<void> {
  const name = tableName(table);
  for (const { before, column } of refills) {
    const shadow = shadowOf(column);
    await tx.execute(sql`ALTER TABLE ${name} DROP COLUMN ${columnName(before)}`);
    await tx.execute(sql`ALTER TABLE ${name} RENAME COLUMN ${columnName(shadow)} TO ${columnName(column)}`);
    for (const what of ['choice', 'fkey'] as const) {
      const has = what === 'choice' ? hasChoices(column) : column.target !== null;
      if (has)
        await tx.execute(
          sql`ALTER TABLE ${name} RENAME CONSTRAINT ${constraintName(shadow, what, table)} TO ${constraintName(column, what, table)}`,
        );
    }
    if (column.target !== null)
      await tx.execute(
        sql`ALTER INDEX records.${constraintName(shadow, 'idx', table)} RENAME TO ${constraintName(column, 'idx', table)}`,
      );
  }
}

export const rowsOf = async (tx: Tx, table: Table): Promise<number> => {
  const { rows } = await tx.execute<{ n: number }>(sql`SELECT count(*)::int AS n FROM ${tableName(table)}`);
  return rows[0]?.n ?? 0;
};

/** Nobody else reads or writes the table until the transaction ends; gives up soon, so that nobody waits behind this for long. */
export async function lockTable(tx: Tx, table: Table): Promise<void> {
  await tx.execute(sql`SET LOCAL lock_timeout = '3s'`);
  await tx.execute(sql`LOCK TABLE ${tableName(table)} IN ACCESS EXCLUSIVE MODE`);
}

/** The numbers of records, for people to find them by. */
export async function numbersOf(tx: Tx, table: Table, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const { rows } = await tx.execute<{ id: string; number: string }>(
    sql`SELECT id, ${stampName('number')} AS number FROM ${tableName(table)} WHERE id = ANY (${sql.param([...ids])}::uuid[])`,
  );
  return new Map(rows.map(({ id, number }) => [id, number]));
}
