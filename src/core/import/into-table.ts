import { keptColumns, type Column, type Table } from '../table/model';
import { fold, tidy } from './cell';
import type { DetectedSheet } from './detection';
import { labelAndUnit } from './heading';

/** Rows of a sheet on their way into a table there is. */
export interface Into {
  readonly table: string;
  /** Ids of the columns by which a row is known to be a record there is, or `number`; none: it is, when everything agrees. */
  readonly by: readonly string[];
  /** By heading: the column it fills, or `number` for the records' own numbers. */
  readonly columns: Readonly<Record<string, string>>;
  /** An empty cell leaves what is there, or empties it. */
  readonly blanks: 'leave' | 'empty';
  readonly what: (typeof intoWays)[number];
}

export const intoWays = ['add-and-change', 'add', 'change'] as const;

/** Stands for the records' own numbers among columns. */
export const NUMBER = 'number';

/** What the headings of a sheet match in a table, and by what its rows are best known. */
export function intoTable(sheet: DetectedSheet, table: Table): Into {
  const columns: Record<string, string> = {};
  const taken = new Set<string>();
  for (const { name } of sheet.columns) {
    const found =
      keptColumns(table).find((column) => !taken.has(column.id) && isCalled(column, name))?.id ??
      (NUMBER_WORDS.has(fold(name)) && !taken.has(NUMBER) ? NUMBER : undefined);
    if (found === undefined) continue;
    columns[name] = found;
    taken.add(found);
  }
  return {
    table: table.id,
    by: keyOf(sheet, table, columns),
    columns,
    blanks: 'leave',
    what: 'add-and-change',
  };
}

const NUMBER_WORDS = new Set(['number']);

function isCalled({ label, key }: Column, heading: string): boolean {
  const [words] = labelAndUnit(heading);
  const names = new Set([fold(tidy(heading)), fold(tidy(words))]);
  return [label, labelAndUnit(label)[0], key, key.replaceAll('_', ' ')].some((name) =>
    names.has(fold(tidy(name))),
  );
}

function keyOf(sheet: DetectedSheet, table: Table, columns: Readonly<Record<string, string>>): string[] {
  const mapped = new Set(Object.values(columns));
  if (mapped.has(NUMBER)) return [NUMBER];
  const headingOf = (id: string) => sheet.columns.find(({ name }) => columns[name] === id);
  const key =
    table.columns.find(({ id, unique }) => unique && (headingOf(id)?.blank ?? 1) === 0) ??
    table.columns.find(({ id, unique }) => unique && mapped.has(id));
  return key === undefined ? [] : [key.id];
}

/** Tables a sheet may well belong to: two headings at least, and half of all, are columns of it. Rows of other records are left aside. */
export function likelyTables(
  sheet: DetectedSheet,
  tables: readonly Table[],
): { table: Table; matched: number }[] {
  return tables
    .filter(({ parent }) => parent === null)
    .map((table) => ({ table, matched: Object.keys(intoTable(sheet, table).columns).length }))
    .filter(({ matched }) => matched >= 2 && matched * 2 >= sheet.columns.length)
    .sort((a, b) => b.matched - a.matched);
}
