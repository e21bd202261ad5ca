import { sql, type SQL } from 'drizzle-orm';
import type { Into } from '../../../core/import/into-table';
import { NUMBER } from '../../../core/import/into-table';
import type { Merged, RefusedCell } from '../../../core/import/import';
import type { Column, Table } from '../../../core/table/model';
import type { TableCheck } from '../../../core/check/check';
import { checksOf } from '../../../core/check/table-checks';
import type { World } from '../../../core/expression/functions/builtin';
import { identifier as named, sql as fragment, words } from '../../../core/expression/sql/fragment';
import type { SqlNames } from '../../../core/expression/sql/names';
import { toSql } from '../../../core/expression/sql/to-sql';
import { asksForReason } from '../../../core/record/own-checks';
import { rowsNamed } from '../../../core/record/table-scope';
import { defaultSql } from '../../../core/table/default-value';
import type { Tx } from '../../connect';
import { undone } from '../../transaction';
import { brokenBy, CHECKED, waitForAll } from '../records/existing-checks';
import { recordNames } from '../tables/form-names';
import { columnName, rendered, tableName } from '../../identifiers';
import type { CopyInto } from '../../transaction';
import { columnType, defaultOf } from '../tables/change-sql';
import { insertRecords } from '../records/insert-records';
import { copyLines, escapedValues } from './load-rows';

/** A row that was refused when it met the records there are. */
export type RefusedRow = Pick<RefusedCell, 'row' | 'column' | 'text' | 'code' | 'message'>;

type Moment = Pick<World, 'today' | 'now'>;

/** Rows of a sheet beside the table they come into: `columns` are those they fill, the records' own number among them. */
export interface Merging {
  readonly table: Table;
  readonly into: Into;
  readonly columns: readonly Column[];
  /** Nothing of it will stay, so the counter of numbers, which others wait for, is left alone. */
  readonly trying: boolean;
  /** What the table demands of its records; null for what follows a source, which is as it is there. */
  readonly checks: { readonly tables: ReadonlyMap<string, Table>; readonly world: Moment } | null;
}

/** A row of a sheet, and its values in the order of the columns as PostgreSQL reads them. */
export interface StagedRow {
  readonly row: number;
  readonly id: string;
  readonly values: readonly (string | null)[];
}

const staged = (i: number): SQL => sql`${sql.identifier(`c${i}`)}`;

/** Makes the place beside the table where rows wait. It lasts as long as the connection, or until the next is made. */
export async function makeStage(tx: Tx, { columns }: Pick<Merging, 'columns'>): Promise<void> {
  await dropStage(tx);
  const cells = columns.map(
    (column, i) => sql`${staged(i)} ${column.id === NUMBER ? sql`text` : columnType(column)}`,
  );
  await tx.execute(
    sql`CREATE TEMP TABLE bringing (row integer PRIMARY KEY, id uuid NOT NULL, matched uuid, out boolean NOT NULL DEFAULT false${sql.join(
      cells.map((cell) => sql`, ${cell}`),
      sql``,
    )})`,
  );
}

export async function dropStage(tx: Tx): Promise<void> {
  await tx.execute(sql`DROP TABLE IF EXISTS pg_temp.bringing`);
}

export const stagedColumns = (columns: readonly Column[]): SQL =>
  sql.join([sql`row`, sql`id`, ...columns.map((_, i) => staged(i))], sql`, `);

/** Copies rows beside the table; gives how many there were. */
export async function stageRows(
  tx: Tx,
  copy: CopyInto,
  { columns }: Pick<Merging, 'columns'>,
  rows: AsyncIterable<readonly StagedRow[]>,
): Promise<number> {
  await makeStage(tx, { columns });
  const names = stagedColumns(columns);
  const count = await copyLines(
    copy(sql`COPY pg_temp.bringing (${names}) FROM STDIN`),
    rows,
    ({ row, id, values }) => `${row}\t${id}${escapedValues(values)}\n`,
  );
  await tx.execute(sql`ANALYZE pg_temp.bringing`);
  return count;
}

/** Holds the staged rows against the records there are, adds and changes, and says what was refused. */
export async function mergeRows(
  tx: Tx,
  merging: Merging,
): Promise<{ merged: Merged; refused: RefusedRow[] }> {
  const refused = [
    ...(await twiceInSheet(tx, merging)),
    ...(await matched(tx, merging)),
    ...(await missing(tx, merging)),
    ...(await usedElsewhere(tx, merging)),
    ...(await breakingChecks(tx, merging)),
    ...(await breakingAmong(tx, merging)),
  ];
  const counts = await tx.execute<{ fresh: number; differs: number; same: number }>(sql`
    SELECT count(*) FILTER (WHERE b.matched IS NULL)::int AS fresh, count(*) FILTER (WHERE b.matched IS NOT NULL AND ${differs(merging)})::int AS differs,
      count(*) FILTER (WHERE b.matched IS NOT NULL AND NOT ${differs(merging)})::int AS same
    FROM pg_temp.bringing b LEFT JOIN ${tableName(merging.table)} t ON t.id = b.matched WHERE NOT b.out`);
  const { fresh = 0, differs: changing = 0, same = 0 } = counts.rows[0] ?? {};
  const [adds, changes] = [merging.into.what !== 'change', merging.into.what !== 'add'];
  if (changes && changing > 0) await changeThere(tx, merging);
  if (adds && fresh > 0) await addNew(tx, merging, fresh);
  return {
    merged: {
      added: adds ? fresh : 0,
      changed: changes ? changing : 0,
      same,
      leftOut: (adds ? 0 : fresh) + (changes ? 0 : changing),
    },
    refused,
  };
}

/**
 * Records that were taken away and come again are the same records as before; those that come no more are
 * taken away. Gives how many each.
 */
export async function bringBack(tx: Tx, merging: Merging): Promise<number> {
  const { rowCount } = await tx.execute(
    sql`UPDATE ${tableName(merging.table)} AS t SET removed_at = NULL FROM pg_temp.bringing b WHERE t.removed_at IS NOT NULL AND ${sameKeys(merging)}`,
  );
  return rowCount ?? 0;
}

export async function takeAway(tx: Tx, merging: Merging): Promise<number> {
  const { rowCount } = await tx.execute(
    sql`UPDATE ${tableName(merging.table)} AS t SET removed_at = now() WHERE t.removed_at IS NULL AND NOT EXISTS (SELECT 1 FROM pg_temp.bringing b WHERE ${sameKeys(merging)})`,
  );
  return rowCount ?? 0;
}

const sameKeys = (merging: Merging): SQL =>
  sql.join(
    keysOf(merging).map(({ column, at }) => sql`t.${columnName(column)} = b.${staged(at)}`),
    sql` AND `,
  );

const placeOf = ({ columns }: Merging, id: string): number => columns.findIndex((column) => column.id === id);
/** The columns by which rows are known, with their places. */
const keysOf = (merging: Merging): { column: Column; at: number }[] =>
  merging.into.by.flatMap((id) => {
    const at = placeOf(merging, id);
    const column = merging.columns[at];
    return column === undefined ? [] : [{ column, at }];
  });
const own = (merging: Merging): { column: Column; at: number }[] =>
  merging.columns.flatMap((column, at) => (column.id === NUMBER ? [] : [{ column, at }]));

/** A row is one record; where nothing but everything tells them apart, a row that comes again says nothing new. */
async function twiceInSheet(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const keys = keysOf(merging);
  const by = keys.length > 0 ? keys : own(merging);
  const filled =
    keys.length > 0
      ? sql`WHERE ${sql.join(
          keys.map(({ at }) => sql`${staged(at)} IS NOT NULL`),
          sql` AND `,
        )}`
      : sql``;
  const { rows } = await tx.execute<{ row: number; text: string }>(sql`
    UPDATE pg_temp.bringing b SET out = true FROM (
      SELECT row, row_number() OVER (PARTITION BY ${sql.join(
        by.map(({ at }) => staged(at)),
        sql`, `,
      )} ORDER BY row) AS n FROM pg_temp.bringing ${filled}) AS again
    WHERE again.row = b.row AND again.n > 1 RETURNING b.row, ${staged(by[0]?.at ?? 0)}::text AS text`);
  return keys.length === 0
    ? []
    : rows.map(({ row, text }) => ({ row, text, column: labelsOf(keys), code: 'twice' as const }));
}

const labelsOf = (keys: readonly { column: Column }[]): string =>
  keys.map(({ column }) => column.label).join(' and ');

async function matched(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const { table } = merging;
  const keys = keysOf(merging);
  const agree =
    keys.length > 0
      ? keys.map(({ column, at }) =>
          column.id === NUMBER
            ? sql`t.number = b.${staged(at)}`
            : sql`t.${columnName(column)} = b.${staged(at)}`,
        )
      : [sameInAll(own(merging))];
  const found = await tx.execute<{ row: number; text: string }>(sql`
    WITH agreeing AS (SELECT b.row, min(t.id::text)::uuid AS id, count(*) AS n FROM pg_temp.bringing b JOIN ${tableName(table)} t ON ${sql.join(agree, sql` AND `)} WHERE t.removed_at IS NULL AND NOT b.out GROUP BY b.row)
    UPDATE pg_temp.bringing b SET matched = a.id, out = (a.n > 1 AND ${keys.length > 0}) FROM agreeing a WHERE a.row = b.row RETURNING b.row, b.out, ${keys[0] === undefined ? sql`''` : sql`b.${staged(keys[0].at)}::text`} AS text`);
  const several = found.rows.filter((row) => 'out' in row && row.out === true);
  const refused: RefusedRow[] = several.map(({ row, text }) => ({
    row,
    text,
    column: labelsOf(keys),
    code: 'several-agree',
  }));
  for (const { column, at } of keys) {
    // What a row is known by must be there; a number nobody gave is no new record.
    const lost =
      column.id === NUMBER ? sql`${staged(at)} IS NOT NULL AND matched IS NULL` : sql`${staged(at)} IS NULL`;
    const { rows } = await tx.execute<{ row: number; text: string | null }>(
      sql`UPDATE pg_temp.bringing SET out = true WHERE NOT out AND ${lost} RETURNING row, ${staged(at)}::text AS text`,
    );
    refused.push(
      ...rows.map(({ row, text }): RefusedRow => ({
        row,
        text: text ?? '',
        column: column.label,
        code: column.id === NUMBER ? 'not-found-there' : 'required',
      })),
    );
  }
  return refused;
}

/** New records must have what is required, unless it comes by itself; those there are must not lose it. */
async function missing(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const refused: RefusedRow[] = [];
  if (merging.into.what === 'change' && merging.into.blanks === 'leave') return refused;
  for (const column of merging.table.columns.filter(({ required }) => required)) {
    const at = placeOf(merging, column.id);
    const isNew = column.default === '' && merging.into.what !== 'change' ? sql`matched IS NULL` : sql`false`;
    const lost = at >= 0 && merging.into.blanks === 'empty' ? sql`matched IS NOT NULL` : sql`false`;
    const { rows } = await tx.execute<{ row: number }>(
      sql`UPDATE pg_temp.bringing SET out = true WHERE NOT out AND (${isNew} OR ${lost}) AND ${at < 0 ? sql`true` : sql`${staged(at)} IS NULL`} RETURNING row`,
    );
    refused.push(
      ...rows.map(({ row }) => ({ row, column: column.label, text: '', code: 'required' as const })),
    );
  }
  return refused;
}

/** What must be different in every record, and is another's already, there or in the sheet. */
async function usedElsewhere(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const refused: RefusedRow[] = [];
  for (const { column, at } of own(merging).filter(
    (one) => one.column.unique && !merging.into.by.includes(one.column.id),
  )) {
    const value = staged(at);
    const { rows } = await tx.execute<{ row: number; text: string; there: boolean }>(sql`
      UPDATE pg_temp.bringing b SET out = true FROM (
        SELECT b.row, t.id IS NOT NULL AS there, row_number() OVER (PARTITION BY b.${value} ORDER BY b.row) AS n FROM pg_temp.bringing b
        LEFT JOIN ${tableName(merging.table)} t ON t.${columnName(column)} = b.${value} AND t.id IS DISTINCT FROM b.matched AND NOT EXISTS (SELECT 1 FROM pg_temp.bringing o WHERE o.matched = t.id AND NOT o.out AND o.${value} IS DISTINCT FROM b.${value})
        WHERE b.${value} IS NOT NULL AND NOT b.out) AS used
      WHERE used.row = b.row AND (used.there OR used.n > 1) RETURNING b.row, b.${value}::text AS text, used.there`);
    refused.push(
      ...rows.map(({ row, text, there }) => ({
        row,
        text,
        column: column.label,
        code: there ? ('already-used' as const) : ('twice' as const),
      })),
    );
  }
  return refused;
}

/** Rows whose record would break a check of the table: as it would be with them, beside what is there. */
async function breakingChecks(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const { table, checks, into } = merging;
  if (checks === null) return [];
  const refused: RefusedRow[] = [];
  const adds = into.what === 'change' ? sql`false` : sql`b.matched IS NULL`;
  const changes = into.what === 'add' ? sql`false` : sql`(b.matched IS NOT NULL AND ${differs(merging)})`;
  for (const { check, tree } of checksOf(table, checks.tables).conditions) {
    const written = toSql(tree, namesBeside(merging, checks));
    if (!written.ok) throw new Error(`the check ${check.id} cannot be said in SQL`);
    const { joins, expression } = written.value;
    const at = placeOf(merging, check.on);
    const { rows } = await tx.execute<{ row: number; text: string | null }>(sql`
      UPDATE pg_temp.bringing o SET out = true FROM (
        SELECT b.row FROM pg_temp.bringing b LEFT JOIN ${tableName(table)} t ON t.id = b.matched ${rendered(joins)}
        WHERE NOT b.out AND (${adds} OR ${changes}) AND (${rendered(expression)}) IS FALSE) AS broken
      WHERE broken.row = o.row RETURNING o.row, ${at < 0 ? sql`NULL` : sql`o.${staged(at)}::text`} AS text`);
    refused.push(...rows.map(({ row, text }) => refusedBy(merging, check, row, text)));
  }
  return refused;
}

const refusedBy = ({ table }: Merging, check: TableCheck, row: number, text: string | null): RefusedRow => ({
  row,
  text: text ?? '',
  column: table.columns.find(({ id }) => id === check.on)?.label ?? '',
  // A reason is given for a record, by whoever knows it: not for a sheet.
  code: asksForReason(check) ? 'reason-needed' : 'check-stops',
  message: check.message,
});

/** The columns of a record as it would be once a row is in it: the row's own, else what is there or comes by itself. */
function namesBeside(merging: Merging, { tables, world }: NonNullable<Merging['checks']>): SqlNames {
  const { table, into } = merging;
  const names = recordNames(table, tables, 't', (id) => rowsNamed(id, tables), world);
  return {
    ...names,
    name: (id) => {
      const there = names.name(id);
      const column = table.columns.find((one) => one.id === id);
      if (there === null || column === undefined) return there;
      const at = placeOf(merging, id);
      const preset = defaultSql(column);
      const fresh = words((preset.ok ? preset.value : null) ?? 'NULL');
      const row = at < 0 ? null : named('b', `c${at}`);
      const added = row === null ? fresh : fragment`coalesce(${row}, ${fresh})`;
      const kept =
        into.blanks === 'leave' ? fragment`coalesce(${row ?? there.sql}, ${there.sql})` : (row ?? there.sql);
      return {
        ...there,
        sql: fragment`CASE WHEN ${named('b', 'matched')} IS NULL THEN ${added} ELSE ${kept} END`,
      };
    },
  };
}

/** What cannot be beside the records there are, or beside other rows: told by writing all of it, looking, and taking it back. */
async function breakingAmong(tx: Tx, merging: Merging): Promise<RefusedRow[]> {
  const { table, checks } = merging;
  const among = checks === null ? [] : checksOf(table, checks.tables).among;
  if (among.length === 0) return [];
  await waitForAll(tx, among);
  const broken = await undone(tx, async (inner) => {
    await write(inner, { ...merging, trying: true }, 0);
    const found: RefusedRow[] = [];
    for (const check of among) {
      const at = placeOf(merging, check.on);
      const { rows } = await inner.execute<{ row: number; text: string | null }>(
        sql`SELECT b.row, ${at < 0 ? sql`NULL` : sql`b.${staged(at)}::text`} AS text FROM pg_temp.bringing b JOIN ${tableName(table)} ${CHECKED} ON ${CHECKED}.id = coalesce(b.matched, b.id) WHERE NOT b.out AND ${brokenBy(check, table)} ORDER BY b.row`,
      );
      found.push(...rows.map(({ row, text }) => refusedBy(merging, check, row, text)));
    }
    return found;
  });
  const numbers = broken.map(({ row }) => row);
  if (numbers.length > 0)
    await tx.execute(
      sql`UPDATE pg_temp.bringing SET out = true WHERE row = ANY(${sql.param(numbers)}::int[])`,
    );
  return broken;
}

async function write(tx: Tx, merging: Merging, fresh: number): Promise<void> {
  const { what } = merging.into;
  if (what !== 'add') await changeThere(tx, merging);
  if (what !== 'change') await addNew(tx, merging, fresh);
}

/**
 * That two rows agree in every column, blanks too. As one text of both it is an equality, which can be
 * hashed: held column by column, every row would be looked at beside every record.
 */
function sameInAll(columns: readonly { column: Column; at: number }[]): SQL {
  const row = (cells: SQL[]): SQL => sql`ROW(${sql.join(cells, sql`, `)})::text`;
  return sql`${row(columns.map(({ column }) => sql`t.${columnName(column)}`))} = ${row(columns.map(({ at }) => sql`b.${staged(at)}`))}`;
}

/** Whether a row says something else than its record. */
function differs(merging: Merging): SQL {
  const parts = own(merging)
    .filter(({ column }) => !merging.into.by.includes(column.id))
    .map(({ column, at }) =>
      merging.into.blanks === 'leave'
        ? sql`(b.${staged(at)} IS NOT NULL AND b.${staged(at)} IS DISTINCT FROM t.${columnName(column)})`
        : sql`b.${staged(at)} IS DISTINCT FROM t.${columnName(column)}`,
    );
  return parts.length === 0 ? sql`false` : sql`(${sql.join(parts, sql` OR `)})`;
}

/** Only records that differ are touched: each gets a new version, and a line of its history. */
async function changeThere(tx: Tx, merging: Merging): Promise<void> {
  const columns = own(merging).filter(({ column }) => !merging.into.by.includes(column.id));
  if (columns.length === 0) return;
  const sets = columns.map(
    ({ column, at }) =>
      sql`${columnName(column)} = ${merging.into.blanks === 'leave' ? sql`coalesce(b.${staged(at)}, t.${columnName(column)})` : sql`b.${staged(at)}`}`,
  );
  await tx.execute(
    sql`UPDATE ${tableName(merging.table)} AS t SET ${sql.join(sets, sql`, `)} FROM pg_temp.bringing b WHERE t.id = b.matched AND NOT b.out AND ${differs(merging)}`,
  );
}

/** `many` is how many there are; their numbers are taken at once. */
async function addNew(tx: Tx, merging: Merging, many: number): Promise<void> {
  const columns = own(merging);
  await insertRecords(tx, merging.table, {
    from: sql`(SELECT *, row_number() OVER (ORDER BY row) AS place FROM pg_temp.bringing WHERE matched IS NULL AND NOT out) AS u`,
    names: columns.map(({ column }) => columnName(column)),
    values: columns.map(({ column, at }) => {
      const preset = defaultOf(column);
      return preset === null ? sql`u.${staged(at)}` : sql`coalesce(u.${staged(at)}, ${preset})`;
    }),
    number: merging.trying ? sql`'tried ' || u.row` : null,
    many,
  });
}
