import type { Table } from '../table/model';

/**
 * A table to somebody of whom some of its columns are kept: as if it had never had them. The database holds
 * the same (`slate.sees_column`): whatever asks for them by their names is told nothing. A check that reads
 * one is asked by the server, which looks at the whole record.
 */
export function withoutHidden(table: Table, isHidden: (column: string) => boolean): Table {
  const isShown = ({ id }: { readonly id: string }): boolean => !isHidden(id);
  const hidden = [...table.columns, ...table.retired].filter((column) => !isShown(column));
  const reads = (text: string): boolean => hidden.some(({ id }) => text.includes(id));
  // To the role that owns it every table is read as it is.
  const guarded = table.guarded !== false && hidden.length === 0 ? 'whole' : table.guarded;
  return {
    ...table,
    guarded,
    columns: table.columns.filter(isShown),
    retired: table.retired.filter(isShown),
    together: table.together.filter((set) => !set.some(isHidden)),
    matches: table.matches.filter(({ from }) => !isHidden(from)),
    checks: table.checks.filter((check) => !reads(JSON.stringify(check))),
  };
}
