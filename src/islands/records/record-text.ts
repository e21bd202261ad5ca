import Big from 'big.js';
import type { Column } from '../../core/table/model';
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
