import { keyColumns } from '../table/key-columns';
import type { Table } from '../table/model';
import { columnPath, type Decisions } from './decisions';
import type { ColumnRef, DetectedRelation, Detection, Named } from './detection';

/** The relations as they were found, save where somebody said that a column names other records, or names some at all. */
export function relationsOf({ relations, sheets }: Detection, { columns }: Decisions): DetectedRelation[] {
  const said = sheets.flatMap(({ name, columns: all }) =>
    all.flatMap(({ name: column }): DetectedRelation[] => {
      const names = columns[columnPath(name, column)]?.names;
      if (names === undefined) return [];
      const found = relations.find(
        ({ from, ...one }) => from.sheet === name && from.column === column && isSame(one, names),
      );
      return [
        found ?? {
          from: { sheet: name, column },
          ...names,
          covered: 0,
          missed: 0,
          misses: [],
          tolerant: 0,
          alongWith: null,
        },
      ];
    }),
  );
  const isSaid = ({ from }: DetectedRelation): boolean => said.some((one) => isColumn(one.from, from));
  return [...relations.filter((one) => !isSaid(one)), ...said];
}

const isColumn = (a: ColumnRef, b: ColumnRef): boolean => a.sheet === b.sheet && a.column === b.column;

export const isSame = (a: Named, b: Named): boolean =>
  isColumn(a.to, b.to) && a.table?.id === b.table?.id && a.table?.column === b.table?.column;

/** What a column of a sheet may be said to name: whatever tells the rows of a sheet that is taken apart, or the records of a table. */
export function nameable(
  detection: Detection,
  decisions: Decisions,
  tables: readonly Table[],
  from: ColumnRef,
): Named[] {
  const taken = detection.sheets.filter(
    ({ name }) => decisions.sheets[name]?.leaveOut !== true && decisions.sheets[name]?.into === undefined,
  );
  const inSheets = taken.flatMap(({ name, columns }) =>
    columns
      .filter(
        (column) => column.unique && decisions.columns[columnPath(name, column.name)]?.leaveOut !== true,
      )
      .map((column): Named => ({ to: { sheet: name, column: column.name }, table: null })),
  );
  const inTables = tables.flatMap((table) =>
    keyColumns(table).map((column): Named => ({
      to: { sheet: table.label, column: column.label },
      table: { id: table.id, column: column.id },
    })),
  );
  return [...inSheets.filter(({ to }) => !isColumn(to, from)), ...inTables];
}

/** How many records a sheet's table gets for values that are not found in it, counted for each column that names them. */
export function addedTo(detection: Detection, decisions: Decisions, sheet: string): number {
  return relationsOf(detection, decisions)
    .filter((one) => one.to.sheet === sheet && one.table === null && isAdding(one, decisions, []))
    .reduce((sum, { missed }) => sum + missed, 0);
}

/** The columns whose values become records of a table there is, when they are not found in it. */
export function addedThere(
  detection: Detection,
  decisions: Decisions,
  tables: readonly Table[],
): DetectedRelation[] {
  return relationsOf(detection, decisions).filter(
    (one) => one.table !== null && isAdding(one, decisions, tables),
  );
}

/** Whether values that are not found become records of the table they name. */
export const isAdding = (
  relation: DetectedRelation,
  { adds = [], declined }: Decisions,
  tables: readonly Table[],
): boolean =>
  adds.includes(relationId(relation)) && !declined.includes(relationId(relation)) && mayAdd(relation, tables);

/** A table that is made here leaves room for records of which only a name is known; one that is there must have it. */
export function mayAdd(relation: DetectedRelation, tables: readonly Table[]): boolean {
  const { table, alongWith } = relation;
  const there = tables.find(({ id }) => id === table?.id);
  return (
    alongWith === null &&
    (table === null ||
      (there?.parent === null && there.linked === null && neededBesides(relation, tables).length === 0))
  );
}

/** What a record of the table there is must have besides its name: labels of columns. */
export function neededBesides({ table }: DetectedRelation, tables: readonly Table[]): string[] {
  const columns = tables.find(({ id }) => id === table?.id)?.columns ?? [];
  return columns
    .filter((column) => column.id !== table?.column && column.required && column.default === '')
    .map(({ label }) => label);
}

export const relationId = ({ from }: Pick<DetectedRelation, 'from'>): string =>
  `relation:${columnPath(from.sheet, from.column)}`;
