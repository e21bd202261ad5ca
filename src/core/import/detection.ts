import type { PersonalData, Table } from '../table/model';
import type { DateOrder } from './formats/date';
import type { DecimalSign } from './formats/number';

/** What reading sheets proposes, as plain data: it is kept with the import, shown as sentences, and printed by `npm run -s detect`. */
export interface Detection {
  readonly sheets: readonly DetectedSheet[];
  readonly relations: readonly DetectedRelation[];
  /** Tables of a Data Package of ours, which are made as they are; there are no sheets then. */
  readonly packaged?: readonly PackagedTable[];
}

export interface PackagedTable {
  readonly table: Table;
  /** Where its rows stand in the archive. */
  readonly path: string;
}

/** One of the first rows of a sheet: its number in the file, and how it begins. */
export interface TopRow {
  readonly row: number;
  readonly text: string;
}

export interface TotalsRow extends TopRow {
  /** How many of its numbers are the sum of what stands above them. */
  readonly sums: number;
  /** Columns it has nothing in. */
  readonly blank: readonly string[];
}

export interface DetectedSheet {
  readonly name: string;
  /** The row of the headings, counted from 1; null where the sheet has none. */
  readonly headerRow: number | null;
  /** The first rows of the sheet, whatever they are; left out of what is printed. */
  readonly top?: readonly TopRow[];
  /** Rows with anything in them, below the headings. */
  readonly rows: number;
  readonly columns: readonly DetectedColumn[];
  /** The last row, where it adds up the others and so is no record; it is not among the rows. */
  readonly totals?: TotalsRow | null;
  /** Sets of columns by which every row can be told from every other, the likeliest first. */
  readonly keys: readonly (readonly string[])[];
  readonly repeatedGroups: readonly RepeatedGroup[];
  readonly numberedColumns: readonly NumberedColumns[];
}

export const detectedKinds = [
  'text',
  'whole',
  'decimal',
  'money',
  'date',
  'date-time',
  'time',
  'yes-no',
  'choice',
  'e-mail',
  'web-address',
  'phone',
] as const;
export type DetectedKind = (typeof detectedKinds)[number];

export interface DetectedColumn {
  /** The heading, unique in its sheet. */
  readonly name: string;
  /** Where it stands in the sheet, counted from 0. */
  readonly at: number;
  readonly kind: DetectedKind;
  readonly required: boolean;
  readonly unique: boolean;
  readonly filled: number;
  readonly blank: number;
  readonly distinct: number;
  /** The values there are, most frequent first, when they are few; null otherwise. */
  readonly choices: readonly DetectedChoice[] | null;
  readonly personal: PersonalData | null;
  readonly reading: Reading;
  /** What cannot be told from the values alone, and is asked. */
  readonly ask: Ask | null;
  /** How many filled cells are not of the kind, and the first of them. */
  readonly misfits: number;
  readonly misfitCells: readonly CellAt[];
  readonly examples: readonly string[];
  /** Why it is text although it looks like numbers. */
  readonly keptAsText: 'leading-zeros' | 'long-digits' | 'mixed' | null;
  /** Words such as `n/a` that may stand for nothing; with `taken`, they are not counted as filled. */
  readonly emptyWords?: EmptyWords;
}

export interface EmptyWords {
  readonly words: readonly { readonly text: string; readonly count: number }[];
  /** Whether they are taken so unless somebody says otherwise. */
  readonly taken: boolean;
}

/** How the texts of a column are read. */
export interface Reading {
  readonly decimalSign?: DecimalSign;
  readonly decimals?: number;
  readonly unit?: string;
  readonly currency?: string;
  readonly dateOrder?: DateOrder;
  /** Which words mean yes and no. */
  readonly yesNo?: number;
  /** Words that stand for nothing, without case, spaces and accents. */
  readonly empty?: readonly string[];
}

export interface Ask {
  readonly t: 'date-order' | 'decimal-sign';
  readonly examples: readonly string[];
  /** What the rest of the sheet suggests; null when nothing does. */
  readonly suggested: DateOrder | DecimalSign | null;
}

export interface DetectedChoice {
  readonly value: string;
  readonly count: number;
  /** Other ways it is written, in case, spaces or accents. */
  readonly spellings: readonly string[];
}

export interface CellAt {
  readonly row: number;
  readonly text: string;
}

/** Columns that are repeated together: whoever knows `by` knows the others. */
export interface RepeatedGroup {
  readonly by: string;
  readonly columns: readonly string[];
  readonly records: number;
  readonly rows: number;
  /** Rows in which it does not hold, and the first of them. */
  readonly exceptions: number;
  readonly exceptionCells: readonly CellAt[];
}

/** `item1, qty1, item2, qty2`: rows written beside one another. */
export interface NumberedColumns {
  /** By stem, its columns in order; all stems have as many. */
  readonly stems: readonly { readonly stem: string; readonly columns: readonly string[] }[];
  readonly times: number;
  /** How many rows they would become. */
  readonly rows: number;
}

export interface ColumnRef {
  readonly sheet: string;
  readonly column: string;
}

/**
 * The column that the values of another are looked up in: of a sheet, or of a table there is already, which
 * goes by its id and that of its column.
 */
export interface Named {
  readonly to: ColumnRef;
  readonly table: { readonly id: string; readonly column: string } | null;
}

/** Values of one column found in the key of another sheet or of a table there is. Counts are of different values. */
export interface DetectedRelation extends Named {
  readonly from: ColumnRef;
  readonly covered: number;
  readonly missed: number;
  readonly misses: readonly CellAt[];
  /** Found only after case, spaces or accents were left out. */
  readonly tolerant: number;
  /** The column that names the same record already, so that this one says nothing new; null for most. */
  readonly alongWith: string | null;
}
