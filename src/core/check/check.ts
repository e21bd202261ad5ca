/**
 * What must hold of the answers of a form, or of a record of a table. `must` is FEEL as stored text; picking
 * writes it and reads it back. `on` is the question or column the message stands at.
 */
export interface Check {
  readonly id: string;
  readonly on: string;
  readonly must: string;
  readonly message: string;
  readonly otherwise: 'stop' | 'ask';
}

/**
 * What must hold among the live records of one table, this one included. Decided by the database in the transaction that keeps the record,
 * one such record after the other, so that two at once cannot both slip through. `on` is where the message stands; `same` are the
 * questions or columns by which records are held against each other (none: all of them).
 */
export interface ExistingCheck {
  readonly id: string;
  readonly on: string;
  readonly message: string;
  readonly same: readonly string[];
  readonly rule: ExistingRule;
}

export type ExistingRule =
  /** No other record has all the same answers. Where one of them is empty, nothing is the same. */
  | { readonly t: 'unique' }
  /** Their days, from one to the other and both counted, have none in common. An end that is empty has not come yet. */
  | { readonly t: 'no-overlap'; readonly from: string; readonly to: string }
  /** There are at most so many, in the same calendar day, week (from Monday), month or year of a date, or ever. */
  | { readonly t: 'at-most'; readonly most: number; readonly per: Period; readonly date: string | null };

export type Period = 'day' | 'week' | 'month' | 'year' | 'ever';

/** A check that a table has for every way its records are written. */
export type TableCheck = Check | ExistingCheck;
export const isAmongRecords = (check: TableCheck): check is ExistingCheck => 'rule' in check;
