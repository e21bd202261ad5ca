import { sql, type SQL } from 'drizzle-orm';
import { identifier as named, type SqlFragment } from '../core/expression/sql/fragment';
import type { Column, StampKey, Table } from '../core/table/model';

/** The one place where the name of a table or column becomes SQL. Drizzle quotes; PostgreSQL cuts at 63 bytes, so length is checked. */
function identifier(name: string): SQL {
  if (name === '' || Buffer.byteLength(name) > 63 || name.includes('\u0000'))
    throw new Error('an identifier must be 1 to 63 bytes');
  return sql`${sql.identifier(name)}`;
}

export const tableName = (table: Pick<Table, 'key'>): SQL =>
  sql`${identifier('records')}.${identifier(table.key)}`;
/**
 * The same table as whoever asks sees it, to be read: where some of its columns are restricted, a view in
 * which those are empty that are not for them, or one for whoever sees all of it (`slate.settle_shown`).
 */
export const seenName = (table: Pick<Table, 'key' | 'guarded'>): SQL =>
  sql`${identifier(placeOf(table))}.${identifier(table.key)}`;
const placeOf = ({ guarded }: Pick<Table, 'guarded'>): 'records' | 'shown' | 'whole' =>
  guarded === false ? 'records' : guarded === 'partly' ? 'shown' : 'whole';
export const columnName = (column: Pick<Column, 'key'>): SQL => identifier(column.key);
/** The function that works out a calculated column of a record. */
export const calculatedName = (column: Pick<Column, 'key'>): SQL =>
  sql`${identifier('calculated')}.${identifier(column.key)}`;
export const stampName = (key: StampKey | 'parent_id' | 'position'): SQL => identifier(key);
/** The function that holds a record of a table against the rules of whoever asks; see `slate.is_within`. */
export const withinFunction = (table: Pick<Table, 'id'>): SQL =>
  sql`${identifier('rights')}.${identifier(`within_${table.id.replaceAll('-', '')}`)}`;
/**
 * A source as PostgreSQL knows it, and a linked table as it stands there: all of its columns, or those that
 * are given when a record is added.
 */
export const serverName = (source: string): SQL => identifier(`source_${source.replaceAll('-', '')}`);
export const outsideTable = (table: Pick<Table, 'id'>, adding = false): SQL =>
  sql`${identifier('outside')}.${identifier(`${adding ? 'a' : 't'}_${table.id.replaceAll('-', '')}`)}`;
export const sendingFunction = (table: Pick<Table, 'id'>): SQL =>
  sql`${identifier('outside')}.${identifier(`send_${table.id.replaceAll('-', '')}`)}`;
/** A column by the name it has elsewhere. */
export const foreignName = (name: string): SQL => identifier(name);
/** A column of a table's file, by its physical name. */
export const packagedName = (key: string): SQL => identifier(key);
export const alias = (index: number): SQL => identifier(`r${index}`);

/** A constraint or index of a column, named by the column's id, so that a broken one finds its question. */
export const constraintName = (
  column: Pick<Column, 'id'>,
  what: ConstraintKind,
  table: Pick<Table, 'id'>,
): SQL => identifier(constraintText(column, what, table));
export const constraintText = (
  column: Pick<Column, 'id'>,
  what: ConstraintKind,
  table: Pick<Table, 'id'>,
): string => `${column.id}_${what}_${table.id.slice(-12)}`;
type ConstraintKind = 'choice' | 'fkey' | 'key' | 'idx' | 'check' | `w${string}`;
/** The index by which a large table is sorted. */
export const sortIndexText = (table: Pick<Table, 'id'>, column: string, descending: boolean): string =>
  `${column}_${descending ? 'down' : 'up'}_${table.id.slice(-12)}`;
export const sortIndexName = (...of: Parameters<typeof sortIndexText>): SQL =>
  identifier(sortIndexText(...of));
/** The index by which words are found in a large table; `version` says of which columns. */
export const wordsIndexText = (table: Pick<Table, 'id'>, version: string): string =>
  `words_${version}_${table.id.slice(-12)}`;
export const wordsIndexName = (...of: Parameters<typeof wordsIndexText>): SQL =>
  identifier(wordsIndexText(...of));
export const wordsIndexesLike = (table: Pick<Table, 'id'>): string => `words\\_%\\_${table.id.slice(-12)}`;
/** As a text that PostgreSQL looks a table up by. */
export const fullTableName = (table: Pick<Table, 'key'>): string =>
  `records."${table.key.replaceAll('"', '""')}"`;
export const tableConstraint = (table: Pick<Table, 'id'>, what: string): SQL =>
  identifier(`t${table.id.replaceAll('-', '')}_${what}`);

/** The id of the column whose constraint has this name. */
export const columnOfConstraint = (name: string): string | null =>
  /^(.+)_(choice|fkey|key|w[0-9a-z]+)_[0-9a-f]{12}$/.exec(name)?.[1] ?? null;

/** The id of the check of a table that is held by a constraint of this name. */
export const checkOfConstraint = (name: string): string | null =>
  /^(.+)_check_[0-9a-f]{12}$/.exec(name)?.[1] ?? null;

/** The same names within a fragment that the expression compiler goes on building, to be read. */
export const seenFragment = (table: Pick<Table, 'key' | 'guarded'>): SqlFragment =>
  named(placeOf(table), table.key);
export const columnFragment = (from: string, column: Pick<Column, 'key'>): SqlFragment =>
  named(from, column.key);

/** A fragment as a query of the library's: its values become parameters. */
export function rendered(fragment: SqlFragment): SQL {
  return sql.join(
    fragment.map((part) => {
      if (typeof part === 'string') return sql.raw(part);
      if ('names' in part) return sql.join(part.names.map(identifier), sql`.`);
      return sql`${part.value}::${sql.raw(part.cast)}`;
    }),
    sql``,
  );
}
