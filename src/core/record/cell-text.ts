import Big from 'big.js';
import { kinds } from '../table/kinds/list';
import { listStored } from '../table/kinds/stored-list';
import type { Column } from '../table/model';

/** A stored cell as people read it. References come as titles already. */
export function cellText(column: Column, cell: string | boolean | null): string {
  if (cell === null) return '';
  if (column.kind === 'reference') return String(cell);
  if (column.kind === 'choices' || column.kind === 'files')
    return kinds[column.kind].show(listStored(String(cell)) ?? [], column);
  const isNumber = kinds[column.kind].type.t === 'number';
  return kinds[column.kind].show(isNumber && typeof cell === 'string' ? new Big(cell) : cell, column);
}
