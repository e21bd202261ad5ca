import { issue, type Issue } from '../kernel/issue';
import { columnOf, type TableChange } from './change';
import type { Table } from './model';

/**
 * Changes that are about how a table is shown here and what is asked of those who change it from here; they
 * touch nothing of what it is where its records come from.
 */
const ours: ReadonlySet<TableChange['t']> = new Set([
  'relabel-table',
  'renumber',
  'change-duty',
  'retitle',
  'order-columns',
  'relabel-column',
  'describe-column',
  'lock-column',
  'unlock-column',
  'add-check',
  'change-check',
  'drop-check',
  'add-match',
  'drop-match',
]);

/** What a linked table is, its source decides: here its columns are named, described, ordered and checked, and no more. */
export function linkedIssues(before: Table | null, changes: readonly TableChange[]): Issue[] {
  const source = before?.linked?.source;
  if (source === undefined) return [];
  return changes
    .filter((change) => !ours.has(change.t) && !relabelled(change, before))
    .map((change) =>
      issue('linked-structure', [columnOf(change)?.id ?? 'table'], {
        label: columnOf(change)?.label ?? change.table.label,
        source,
      }),
    );
}

/** The codes stay those of the source; how they are called is said here. */
function relabelled(change: TableChange, before: Table | null): boolean {
  if (change.t !== 'change-choices' || change.column.list !== null) return false;
  const codes = (choices: readonly { code: string; retired?: boolean | undefined }[]): string =>
    choices
      .map(({ code }) => code)
      .sort()
      .join('\n');
  return (
    codes(change.column.choices) ===
    codes(before?.columns.find(({ id }) => id === change.column.id)?.choices ?? [])
  );
}
