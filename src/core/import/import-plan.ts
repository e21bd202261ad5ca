import type { Column, Table } from '../table/model';
import type { DetectedSheet, Reading } from './detection';
import type { Into } from './into-table';

/** What an accepted import makes, as data: the tables, and for each where its rows and cells come from. Tables referred to come first. */
export interface ImportPlan {
  readonly tables: readonly PlannedTable[];
  /** Before them all: records that tables there are get for what new ones name and is not found in them. */
  readonly named: readonly PlannedTable[];
}

export interface PlannedTable {
  readonly table: Table;
  readonly sheet: string;
  readonly rows: RowSource;
  readonly columns: readonly PlannedColumn[];
  /** How they come into a table there is; null for a new one. */
  readonly into: Into | null;
}

export type RowSource =
  | { readonly t: 'each' }
  /** One for every different value of the column that stands at `by`; `unless` it is known already as a name under that column. */
  | { readonly t: 'distinct'; readonly by: number; readonly unless?: string }
  /** As many as there are numbered columns for each row of the sheet; those with nothing in them are left out. */
  | { readonly t: 'numbered'; readonly times: number };

export interface PlannedColumn {
  readonly column: Column;
  /** Where its cells stand in the sheet; of numbered columns one place for each time. */
  readonly at: readonly number[];
  readonly reading: Reading;
  /** For a reference: the table and column its values are looked up in, and whether those that are not there become records of it. */
  readonly finds: {
    readonly table: string;
    readonly column: string;
    readonly label: string;
    readonly adds: boolean;
  } | null;
}

/** Where the names of a table's records are found, whatever column they come from. */
export const namesOf = (table: string): string => `names/${table}`;

/**
 * Tables that an earlier one refers to, or they themselves, or that get records for what is not found in
 * them: what their rows are named by must be known before the first of all is made.
 */
export function namedBeforeMade({ tables }: ImportPlan): PlannedTable[] {
  return tables.filter(
    ({ table, into, rows }, at) =>
      into === null &&
      rows.t === 'each' &&
      tables.some(({ columns }, other) =>
        columns.some(({ finds }) => finds?.table === table.id && (other <= at || finds.adds)),
      ),
  );
}

/** Whether words of a column of a sheet are taken for nothing; null where the column is not taken at all. */
export function takesWordsForNothing(
  { tables }: ImportPlan,
  sheet: DetectedSheet,
  heading: string,
): boolean | null {
  const at = sheet.columns.find(({ name }) => name === heading)?.at ?? -1;
  const planned = tables
    .filter((one) => one.sheet === sheet.name)
    .flatMap(({ columns }) => columns.filter((one) => one.at.includes(at)));
  return planned.length === 0 ? null : planned.some(({ reading }) => reading.empty !== undefined);
}

/** The tables there are that columns of new tables name. */
export function namedTables({ tables }: ImportPlan): string[] {
  const own = new Set(tables.map(({ table }) => table.id));
  return [
    ...new Set(
      tables
        .filter(({ into }) => into === null)
        .flatMap(({ columns }) =>
          columns.flatMap(({ finds }) => (finds === null || own.has(finds.table) ? [] : [finds.table])),
        ),
    ),
  ];
}

/** Where the values stand that become records of the table of a column when they are not found in it, and which of them are none. */
export function namesFor(
  { tables }: ImportPlan,
  column: string,
): { sheet: string; at: readonly number[]; empty: readonly string[] }[] {
  return tables.flatMap(({ sheet, columns }) =>
    columns
      .filter(({ finds }) => finds?.adds === true && finds.column === column)
      .map(({ at, reading }) => ({ sheet, at, empty: reading.empty ?? [] })),
  );
}
