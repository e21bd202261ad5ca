import type { Reading } from '../import/detection';
import type { MadeBy } from './found-table';
import type { SourceFault } from './source';

/** How the columns of a table here are those of a table or list outside. */
export type LinkMapping = TableMapping | ListMapping;

export interface TableMapping {
  readonly t: 'table';
  readonly schema: string;
  readonly name: string;
  readonly columns: readonly MappedColumn[];
  /** Ids of the columns by which a record is known there. */
  readonly by: readonly string[];
  /** What the rights there allow to be done from here. */
  readonly adds: boolean;
  readonly changes: boolean;
}

export interface MappedColumn {
  /** Its id here. */
  readonly column: string;
  readonly name: string;
  readonly type: string;
  /** Of a reference: the id of the column, in the table it refers to, whose value stands for the record there. */
  readonly refers: string | null;
  readonly adds: boolean;
  readonly changes: boolean;
  /** What is sent where nothing is given; null for nothing. */
  readonly preset: string | null;
  /** How a value is made where nothing is given. Left out, in none that was linked before this was known. */
  readonly made?: MadeBy | null;
}

export interface ListMapping {
  readonly t: 'list';
  /** The keys that lead to the list in what the address answers; empty when it is the list itself. */
  readonly at: readonly string[];
  readonly columns: readonly { readonly column: string; readonly field: string; readonly reading: Reading }[];
  readonly by: readonly string[];
}

/** How often a linked table is refreshed, in minutes. */
export const refreshChoices = [1, 5, 15, 60, 1440] as const;
export type RefreshEvery = (typeof refreshChoices)[number];

/** What came of the last refresh that went well. Misfits are values that could not be read, and are left empty. */
export interface Refreshed {
  readonly added: number;
  readonly changed: number;
  readonly gone: number;
  readonly same: number;
  readonly misfits: number;
}

/** How fresh a linked table is, for those who look at it. Times are ISO instants. */
export interface Freshness {
  readonly source: string;
  readonly place: string;
  readonly every: RefreshEvery;
  /** When it was last the same as its source; null before the first time. */
  readonly refreshedAt: string | null;
  readonly triedAt: string | null;
  /** Why the last attempt failed; null when it went well. */
  readonly fault: SourceFault | null;
  /** It has not answered several times in a row, and nobody waits for it until then. */
  readonly silentUntil: string | null;
  readonly refreshed: Refreshed | null;
  readonly adds: boolean;
  readonly changes: boolean;
}
