import type { Fit, MadeColumn } from './convert';
import { hashOf } from './hash';
import type { TextRows } from './text-rows';

/** Ids that follow from the import, the table and the row, so that a job that is done again makes the same. */
export class RecordIds {
  /** All of an id but its last twelve digits. */
  readonly beginning: string;

  /** `index` is the table's place in its plan. */
  constructor(importId: string, index: number) {
    const hash = (hashOf(importId) % 4096).toString(16).padStart(3, '0');
    this.beginning = `${importId.slice(0, 8)}-${importId.slice(9, 13)}-7${hash}-a${index.toString(16).padStart(3, '0')}-`;
  }

  /** The record of a row in the file; of numbered columns `time` says which. */
  of(row: number, time = 0): string {
    return this.at(markOf(row, time));
  }

  at(mark: number): string {
    return this.beginning + mark.toString(16).padStart(12, '0');
  }
}

/** The last 48 bits of the id of the record of a row. */
export const markOf = (row: number, time = 0): number => row * 128 + time;

/** Records by their ids: the same beginning, and what each has of its own. */
export interface Marked {
  readonly ids: RecordIds;
  readonly marks: Float64Array;
}

/** Some rows of a table, ready to be kept, column by column: of a million rows most values are among a few that come again and again. */
export interface MadeRows extends Marked {
  /** The row of the sheet each was made of, or first made of. */
  readonly numbers: Int32Array;
  /** The records they belong to, and their places among the rows of each, from 1. */
  readonly parents: (Marked & { readonly positions: Int32Array }) | null;
  readonly columns: readonly MadeColumn[];
  /** In which cells stand that are kept as they do; null where there are none. */
  readonly text: TextRows | null;
}

/** A value as PostgreSQL reads it. All that do not fit were left out. */
function valueAt(
  { text }: Pick<MadeRows, 'text'>,
  { codes, values }: MadeColumn,
  row: number,
): string | null {
  const code = codes[row] as number;
  return code >= 0 ? (text?.textAt(code) ?? null) : (values[~code] as Fit).value;
}

/** The same, row by row: for what takes no more than that at a time. */
export function eachMade(rows: MadeRows): { row: number; id: string; values: (string | null)[] }[] {
  return Array.from(rows.numbers, (row, i) => ({
    row,
    id: rows.ids.at(rows.marks[i] ?? 0),
    values: rows.columns.map((column) => valueAt(rows, column, i)),
  }));
}

/** One row by itself. */
export interface MadeRow {
  readonly row: number;
  readonly mark: number;
  readonly parent: { readonly mark: number; readonly position: number } | null;
  readonly values: readonly Fit[];
}

/** Rows that were made one by one. */
export function gathered(
  rows: readonly MadeRow[],
  width: number,
  ids: RecordIds,
  parentIds: RecordIds | null,
): MadeRows {
  const codes = Int32Array.from(rows, (_, i) => ~i);
  return {
    ids,
    marks: Float64Array.from(rows, ({ mark }) => mark),
    numbers: Int32Array.from(rows, ({ row }) => row),
    text: null,
    parents:
      parentIds === null
        ? null
        : {
            ids: parentIds,
            marks: Float64Array.from(rows, ({ parent }) => parent?.mark ?? 0),
            positions: Int32Array.from(rows, ({ parent }) => parent?.position ?? 0),
          },
    columns: Array.from({ length: width }, (_, column) => ({
      codes,
      values: rows.map(({ values }) => values[column] as Fit),
    })),
  };
}
