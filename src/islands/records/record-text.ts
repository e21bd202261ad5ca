import Big from 'big.js';
import type { Column, Table } from '../../core/table/model';
import { kinds } from '../../core/table/kinds/list';

/** A stored cell as people read it. References come as titles already. */
export function cellText(column: Column, cell: string | boolean | null): string {
  if (cell === null) return '';
  if (column.kind === 'reference') return String(cell);
  const isNumber = kinds[column.kind].type.t === 'number';
  return kinds[column.kind].show(isNumber && typeof cell === 'string' ? new Big(cell) : cell, column);
}

export const isNumeric = (column: Column): boolean => kinds[column.kind].type.t === 'number';
export const heading = (column: Column): string =>
  column.unit === '' || column.kind === 'money' ? column.label : `${column.label}, ${column.unit}`;

/** By which of its columns a table refers to another, where several do. */
export function referringBy(
  { table, column }: { readonly table: Table; readonly column: string | null },
  to: Pick<Table, 'id'>,
): string | null {
  const all = table.columns.filter(({ target }) => target === to.id);
  return all.length > 1 ? (all.find(({ id }) => id === column)?.label ?? null) : null;
}
