import { value, type SqlFragment } from './fragment';

/** The size of the numbers a column holds, so that results known to keep within 34 digits need no rounding. */
export interface NumberSize {
  /** Digits before the point. */
  readonly whole: number;
  readonly decimals: number;
}

export interface SqlColumn {
  readonly sql: SqlFragment;
  readonly size?: NumberSize;
}

/** A table beside the one asked about: a looked-up one, or the rows of a repeating group. */
export interface SqlTable {
  readonly table: SqlFragment;
  /** The column `id` under an alias; null when there is none. */
  column(alias: string, id: string): SqlColumn | null;
  /** What its rows must fulfil to count, under an alias. */
  live?(alias: string): SqlFragment;
}

export interface SqlRows extends SqlTable {
  /** The column by which a row names its parent. */
  parent(alias: string): SqlFragment;
}

/** How the names of an expression are found in the database. Whatever is null cannot be said in SQL here. */
export interface SqlNames {
  name(id: string): SqlColumn | null;
  /** What stands after a dot behind a name, where no record is to be looked up for it. */
  part?(name: string, id: string): SqlColumn | null;
  /** The id of the row that is asked about, to which child rows belong. */
  readonly rowId: SqlFragment | null;
  rows(group: string): SqlRows | null;
  records(table: string): SqlTable | null;
  readonly today: SqlFragment;
  readonly now: SqlFragment;
}

/** Today and now as values, for a question asked once. */
export const atMoment = (today: string, now: string): Pick<SqlNames, 'today' | 'now'> => ({
  today: value(today, 'date'),
  now: value(now, 'timestamp'),
});
