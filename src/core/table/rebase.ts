import { mergedFields, mergedList } from '../kernel/merge';
import type { Column, Table } from './model';

/** What `mine` changed of `base`, on `theirs`: what only they changed stays theirs, what both changed is mine. */
export function rebased(base: Table, mine: Table, theirs: Table): Table {
  const { value } = mergedFields(inOneList(base), inOneList(mine), inOneList(theirs), {
    columns: (old, wanted, known) => mergedList(old, wanted, known, ({ id }) => id, mergedFields),
    checks: (old, wanted, known) => mergedList(old, wanted, known, ({ id }) => id, mergedFields),
    matches: (old, wanted, known) => mergedList(old, wanted, known, ({ id }) => id, mergedFields),
  });
  const { columns, ...table } = value;
  const those = (retired: boolean): Column[] =>
    columns.filter((one) => one.isRetired === retired).map(({ isRetired: _, ...column }) => column);
  return { ...table, columns: those(false), retired: those(true) };
}

type MaybeRetired = Column & { readonly isRetired: boolean };

/** A column that is retired, or comes back, is the same column: one list knows it in both places. */
const inOneList = ({
  columns,
  retired,
  ...table
}: Table): Omit<Table, 'columns' | 'retired'> & { readonly columns: readonly MaybeRetired[] } => ({
  ...table,
  columns: [
    ...columns.map((column) => ({ ...column, isRetired: false })),
    ...retired.map((column) => ({ ...column, isRetired: true })),
  ],
});
