/** A designed table: a real table of schema `records`, with what is known about it. */
export interface Table {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly prefix: string;
  /** The table whose records own these rows; removing a parent removes them with it. */
  readonly parent: string | null;
  readonly columns: readonly Column[];
  /** Ids of the columns that name a record to people; its number when there are none. */
  readonly title: readonly string[];
}

/** What counts as data about a person; null where a column holds none. */
export const personalKinds = ['name', 'address', 'phone', 'e-mail', 'birth', 'bank'] as const;
export type PersonalData = (typeof personalKinds)[number];

export const columnKinds = ['text', 'whole', 'decimal', 'money', 'date', 'time', 'date-time', 'yes-no', 'choice', 'reference', 'e-mail', 'web-address', 'phone'] as const;
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
  readonly choices: readonly { readonly code: string; readonly label: string }[];
  /** The table a reference points to. */
  readonly target: string | null;
  /** What it holds, in the owner's words; shown wherever the column is. */
  readonly description: string;
  readonly personal: PersonalData | null;
}

/** The columns every designed table has by itself, in the order they stand. */
export const stampKeys = ['id', 'number', 'created_at', 'created_by', 'updated_at', 'updated_by', 'version', 'submission_id', 'removed_at'] as const;
export type StampKey = (typeof stampKeys)[number];
