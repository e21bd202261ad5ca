/**
 * Something that is written beside the record of a sheet when that is kept, together with it or not at all:
 * columns of a record that one of its lookups picked, or a new record of another table.
 */
export type FurtherWrite = ChangePicked | AddBeside;

interface Further {
  readonly id: string;
  /** FEEL as stored text: it is written only while it is true. Left out, always. */
  readonly when?: string | undefined;
  /** The repeating group, by id, for each of whose rows it is written. Left out, once. */
  readonly each?: string | undefined;
  /** Where the form changes a record of its table as well. Left out, only where it makes a new one: a stock must not be lowered twice. */
  readonly onChange?: true | undefined;
  readonly sets: readonly ColumnSet[];
}
export interface ChangePicked extends Further {
  readonly t: 'change';
  /** The lookup, by id: of the form, or of the rows it is written for. */
  readonly lookup: string;
}
export interface AddBeside extends Further {
  readonly t: 'add';
  readonly table: string;
}

/** What becomes of one column. A number may be raised or lowered by an amount; it is never lowered below zero unless that is allowed. */
export interface ColumnSet {
  readonly column: string;
  readonly how: 'set' | 'raise' | 'lower';
  /** FEEL as stored text: the value, or the amount. */
  readonly expression: string;
  readonly belowZero?: true | undefined;
}

/** What a form does to a table: it keeps its answers there, or changes or adds records of it beside. */
export type WriteUse = 'write' | 'change' | 'add';
