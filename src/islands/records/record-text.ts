import type { RelatedTable } from '../../contract/answers-from-server';
import type { Column, Table } from '../../core/table/model';
import { kinds } from '../../core/table/kinds/list';
import { speak } from '../../core/wording/speak';

export const isNumeric = (column: Column): boolean => kinds[column.kind].type.t === 'number';
export const heading = (column: Column): string =>
  column.unit === '' || column.kind === 'money' ? column.label : `${column.label}, ${column.unit}`;

/**
 * How records of a table are related to those of another, where it must be said: by which of several columns,
 * or by what they have in common.
 */
export function relatedBy(
  { table, column, same }: Pick<RelatedTable, 'table' | 'column' | 'same'>,
  to: Pick<Table, 'id' | 'columns'>,
): string | null {
  const label = table.columns.find(({ id }) => id === column)?.label ?? null;
  if (same !== null) {
    const own = to.columns.find(({ id }) => id === same)?.label ?? '';
    return own === label ? speak`with the same ${own}` : speak`whose ${label} is the same as its ${own}`;
  }
  const all = table.columns.filter(({ target }) => target === to.id);
  return all.length > 1 && label !== null ? speak`by ${label}` : null;
}
