import { unreachable } from '../kernel/result';
import type { TableCheck } from '../check/check';
import type { Column, Duty, Match, Numbering, Table } from './model';

/**
 * One change of the tables, as data: described in words before it runs, applied to what is known of the table here, and turned into SQL in
 * one place. `table` is the table, and `column` the column, as they are wanted in the end; each change takes only its own part of them.
 */
export type TableChange =
  | { readonly t: 'make-table'; readonly table: Table }
  | { readonly t: 'relabel-table'; readonly table: Table; readonly before: string }
  | {
      readonly t: 'renumber';
      readonly table: Table;
      readonly before: { readonly prefix: string; readonly numbering: Numbering };
    }
  | { readonly t: 'change-duty'; readonly table: Table; readonly before: Duty | null }
  | { readonly t: 'retitle'; readonly table: Table; readonly before: readonly string[] }
  | { readonly t: 'order-columns'; readonly table: Table; readonly before: readonly string[] }
  | { readonly t: 'keep-apart' | 'let-share'; readonly table: Table; readonly columns: readonly string[] }
  | { readonly t: CheckChange; readonly table: Table; readonly check: TableCheck }
  | { readonly t: 'add-match' | 'drop-match'; readonly table: Table; readonly match: Match }
  | { readonly t: 'add-column'; readonly table: Table; readonly column: Column }
  | {
      readonly t: 'relabel-column' | 'rename-column';
      readonly table: Table;
      readonly column: Column;
      readonly before: string;
    }
  | { readonly t: ColumnChange; readonly table: Table; readonly column: Column }
  | { readonly t: 'convert-column'; readonly table: Table; readonly column: Column; readonly before: Column };

type CheckChange = 'add-check' | 'change-check' | 'drop-check';
type ColumnChange =
  | 'describe-column'
  | 'loosen-column'
  | 'require-column'
  | 'make-unique'
  | 'let-repeat'
  | 'change-choices'
  | 'change-default'
  | 'change-formula'
  | 'lock-column'
  | 'unlock-column'
  | 'retire-column'
  | 'restore-column'
  | 'remove-column';

/** The column a change is of; null when it is of the whole table. */
export const columnOf = (change: TableChange): Column | null => ('column' in change ? change.column : null);

/** What a table is after one change. */
export function applyChange(table: Table, change: TableChange): Table {
  switch (change.t) {
    case 'make-table':
      return change.table;
    case 'relabel-table':
      return { ...table, label: change.table.label };
    case 'renumber':
      return { ...table, prefix: change.table.prefix, numbering: change.table.numbering };
    case 'change-duty':
      return { ...table, duty: change.table.duty };
    case 'retitle':
      return { ...table, title: change.table.title };
    case 'order-columns':
      return { ...table, columns: inOrderOf(table.columns, change.table) };
    case 'keep-apart':
      return { ...table, together: [...table.together, change.columns] };
    case 'let-share':
      return { ...table, together: table.together.filter((one) => !sameSet(one, change.columns)) };
    case 'add-check':
      return { ...table, checks: [...table.checks, change.check] };
    case 'change-check':
      return {
        ...table,
        checks: table.checks.map((one) => (one.id === change.check.id ? change.check : one)),
      };
    case 'drop-check':
      return { ...table, checks: table.checks.filter(({ id }) => id !== change.check.id) };
    case 'add-match':
      return { ...table, matches: [...table.matches, change.match] };
    case 'drop-match':
      return { ...table, matches: table.matches.filter(({ id }) => id !== change.match.id) };
    case 'add-column':
      return { ...table, columns: [...table.columns, change.column] };
    case 'retire-column':
      return retired(table, change.column.id);
    case 'restore-column':
      return restored(table, change.column.id);
    case 'remove-column':
      return { ...table, retired: table.retired.filter(({ id }) => id !== change.column.id) };
    default:
      return {
        ...table,
        columns: table.columns.map((column) =>
          column.id === change.column.id ? { ...column, ...partOf(change) } : column,
        ),
      };
  }
}

type OfColumn = Exclude<Extract<TableChange, { column: Column }>, { t: 'add-column' }>;

/** What a change of a column takes from the column as it is wanted. */
function partOf({ t, column }: OfColumn): Partial<Column> {
  switch (t) {
    case 'relabel-column':
      return { label: column.label };
    case 'rename-column':
      return { key: column.key };
    case 'describe-column':
      return {
        description: column.description,
        example: column.example,
        unit: column.unit,
        personal: column.personal,
      };
    case 'loosen-column':
      return { required: false };
    case 'require-column':
      return { required: true };
    case 'lock-column':
      return { locked: true };
    case 'unlock-column':
      return { locked: false };
    case 'make-unique':
      return { unique: true };
    case 'let-repeat':
      return { unique: false };
    case 'change-choices':
      return { choices: column.choices, list: column.list };
    case 'change-default':
      return { default: column.default };
    case 'change-formula':
      return { formula: column.formula, kind: column.kind, decimals: column.decimals, unit: column.unit };
    case 'convert-column':
      return {
        kind: column.kind,
        target: column.target,
        decimals: column.decimals,
        choices: column.choices,
        list: column.list,
      };
    case 'retire-column':
    case 'restore-column':
    case 'remove-column':
      return {};
    default:
      return unreachable(t);
  }
}

export const sameSet = (one: readonly string[], other: readonly string[]): boolean =>
  one.length === other.length && one.every((id) => other.includes(id));

function inOrderOf(columns: readonly Column[], wanted: Table): Column[] {
  const places = new Map(wanted.columns.map(({ id }, i) => [id, i]));
  return [...columns].sort(
    (a, b) => (places.get(a.id) ?? columns.length) - (places.get(b.id) ?? columns.length),
  );
}

/** A retired column asks nothing of its records: whoever adds one does not fill it. */
export const asRetired = (column: Column): Column => ({ ...column, required: false, default: '' });

function retired(table: Table, id: string): Table {
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined) return table;
  return {
    ...table,
    columns: table.columns.filter((one) => one.id !== id),
    retired: [...table.retired, asRetired(column)],
    title: table.title.filter((one) => one !== id),
  };
}

function restored(table: Table, id: string): Table {
  const column = table.retired.find((one) => one.id === id);
  return column === undefined
    ? table
    : {
        ...table,
        retired: table.retired.filter((one) => one.id !== id),
        columns: [...table.columns, column],
      };
}
