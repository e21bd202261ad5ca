import type { TableCheck } from '../check/check';

/** A designed table: a real table of schema `records`, with what is known about it. */
export interface Table {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly prefix: string;
  readonly numbering: Numbering;
  /** The table whose records own these rows; removing a parent removes them with it. */
  readonly parent: string | null;
  readonly columns: readonly Column[];
  /** Ids of the columns that name a record to people; its number when there are none. */
  readonly title: readonly string[];
  /** Sets of columns, by id, whose values no two records may share together. */
  readonly together: readonly (readonly string[])[];
  /** What must hold of its records, whichever way they are written. */
  readonly checks: readonly TableCheck[];
  /** Records of other tables that belong with its own because they hold the same value, without a reference. */
  readonly matches: readonly Match[];
  /** Columns that are kept with their values but shown and asked for no more. */
  readonly retired: readonly Column[];
  /** For how long its records must be kept; null where nobody must. */
  readonly duty: Duty | null;
  /** Grows with every change of the table; a change names the version it began from. */
  readonly version: number;
  /**
   * Through which view it is read, for some of its columns are restricted: `partly`, where those are empty that
   * are not for whoever looks, or `whole`, for those from whom nothing of it is kept. To the role that owns it
   * every table is read as it is.
   */
  readonly guarded: false | 'partly' | 'whole';
  /** Where its records come from, when that is outside; null for a table of our own. */
  readonly linked: Linked | null;
}

/** A table whose records are those of a source outside: what the source is called, and what may be done with them from here. */
export interface Linked {
  readonly source: string;
  readonly adds: boolean;
  readonly changes: boolean;
}

/** That a record belongs with those of `table` that hold in their column `to` what it holds in its column `from`; seen from both sides. */
export interface Match {
  readonly id: string;
  readonly from: string;
  readonly table: string;
  readonly to: string;
}

/** How the numbers of records go on: PC-2026-0001 from 1 in each year; with the year, but going on; PC-0001, going on. */
/** Whole years from the day a record is made, and the law or rule that asks for them. */
export interface Duty {
  readonly years: number;
  readonly why: string;
}

export const numberings = ['yearly', 'running-with-year', 'running'] as const;
export type Numbering = (typeof numberings)[number];

/** The `count`th number of a table, as `slate.next_number` makes it. */
export const recordNumber = (
  table: Pick<Table, 'prefix' | 'numbering'>,
  year: number,
  count: number,
): string => `${beforeCount(table, year)}${String(count).padStart(COUNT_DIGITS, '0')}`;

/** What stands before the count in a record's number, and how many digits that has at least. */
export const beforeCount = (
  { prefix, numbering }: Pick<Table, 'prefix' | 'numbering'>,
  year: number,
): string => `${prefix}-${numbering === 'running' ? '' : `${year}-`}`;
export const COUNT_DIGITS = 4;

/** What counts as data about a person; null where a column holds none. */
export const personalKinds = ['name', 'address', 'phone', 'e-mail', 'birth', 'bank'] as const;
export type PersonalData = (typeof personalKinds)[number];

export const columnKinds = [
  'text',
  'whole',
  'decimal',
  'money',
  'date',
  'time',
  'date-time',
  'yes-no',
  'choice',
  'choices',
  'files',
  'reference',
  'e-mail',
  'web-address',
  'phone',
] as const;
export type ColumnKind = (typeof columnKinds)[number];

export interface Column {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly kind: ColumnKind;
  readonly required: boolean;
  readonly unique: boolean;
  readonly decimals: number | null;
  /** What numbers count or measure; of money, its currency (ISO 4217). */
  readonly unit: string;
  readonly choices: readonly ColumnChoice[];
  /** The choice list its choices are those of; null when they are its own. */
  readonly list: ListName | null;
  /** The table a reference points to. */
  readonly target: string | null;
  /** What it holds, in the owner's words; shown wherever the column is. */
  readonly description: string;
  /** A value it might hold, shown with the description. */
  readonly example: string;
  /** FEEL that works out what is kept where nothing is given, from nothing but the day and the time; empty for none. */
  readonly default: string;
  /**
   * FEEL by ids over the columns, what they refer to, and the rows of a record: what it comes to is shown
   * here, and nothing is typed. Empty for a column that is filled.
   */
  readonly formula: string;
  /** Written by forms and imports alone: nobody types in it where records are edited. */
  readonly locked: boolean;
  readonly personal: PersonalData | null;
  /** Seen by those who design its table, and by those of whom it is said; empty for everybody else. */
  readonly restricted: boolean;
}

/** Whether what stands in a column is one or several of some choices. */
export const hasChoices = ({ kind }: Pick<Column, 'kind'>): boolean =>
  kind === 'choice' || kind === 'choices';
/** Whether what stands in a column is worked out, and never typed. */
export const isCalculated = ({ formula }: Pick<Column, 'formula'>): boolean => formula !== '';
/** Whether it may be typed in where records are edited. */
export const isTypedIn = (column: Pick<Column, 'formula' | 'locked' | 'kind'>): boolean =>
  !isCalculated(column) && !column.locked && column.kind !== 'files';
/** Whether anything a table holds is kept from some who see its records. */
export const isGuarded = ({ columns, retired }: Pick<Table, 'columns' | 'retired'>): boolean =>
  [...columns, ...retired].some(({ restricted }) => restricted);
/** The columns that the database keeps values in. */
export const keptColumns = ({ columns }: Pick<Table, 'columns'>): Column[] =>
  columns.filter((column) => !isCalculated(column));

/** A stored code with the label people see. A retired one stands in records there are, and is offered no more. */
export interface ColumnChoice {
  readonly code: string;
  readonly label: string;
  readonly retired?: boolean | undefined;
}

/** A choice list as a column or a question names it; what it is called now, and its choices, are filled in when that is read. */
export interface ListName {
  readonly id: string;
  readonly label: string;
}

/** What a column is unless somebody says otherwise. */
export const plainColumn = {
  kind: 'text',
  required: false,
  unique: false,
  decimals: null,
  unit: '',
  choices: [],
  list: null,
  target: null,
  description: '',
  example: '',
  default: '',
  formula: '',
  locked: false,
  personal: null,
  restricted: false,
} as const satisfies Partial<Column>;
/** The same for a table. */
export const plainTable = {
  numbering: 'yearly',
  parent: null,
  columns: [],
  title: [],
  together: [],
  checks: [],
  matches: [],
  retired: [],
  duty: null,
  version: 0,
  guarded: false,
  linked: null,
} as const satisfies Partial<Table>;

/** The columns every designed table has by itself, in the order they stand. */
export const stampKeys = [
  'id',
  'number',
  'created_at',
  'created_by',
  'updated_at',
  'updated_by',
  'version',
  'submission_id',
  'removed_at',
] as const;
export type StampKey = (typeof stampKeys)[number];
