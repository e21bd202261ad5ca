import type { RecordValue } from '../expression/value';
import { issue, type Issue } from '../kernel/issue';
import { limits } from '../limits';
import type { AnswerRow, Answers } from './answers';
import { copiesOf } from './carry';
import { emptyCells, questionAt, readInto } from './cells';
import type { CompiledForm } from './compile-form';
import { groupsOf, isTyped, type FormDesign, type RowsQuestion } from './design';

/**
 * The rows that a new sheet begins with because they are the same each time, with the defaults of their
 * columns where they leave a cell out.
 */
export const sameRows = (
  design: FormDesign,
  defaults: Readonly<Record<string, AnswerRow['cells']>>,
): Answers['rows'] =>
  Object.fromEntries(
    groupsOf(design).flatMap((group) => {
      if (group.starts?.t !== 'same') return [];
      const typed = new Set(group.columns.filter(isTyped).map(({ id }) => id));
      const rows = group.starts.rows.map((cells, i): AnswerRow => ({
        id: `begun-${i + 1}`,
        cells: {
          ...defaults[group.id],
          // A column that was taken out of the design since leaves its cells behind.
          ...Object.fromEntries(Object.entries(cells).filter(([id]) => typed.has(id))),
        },
      }));
      return [[group.id, rows] as const];
    }),
  );

/** A row for each record, with what comes along from it. */
export function rowsForEach(
  form: CompiledForm,
  group: RowsQuestion,
  lookup: string,
  records: readonly RecordValue[],
  { newId, defaults = {} }: { newId: () => string; defaults?: AnswerRow['cells'] | undefined },
): AnswerRow[] {
  return records.slice(0, group.most).map((record) => {
    const id = newId();
    const copies = copiesOf(form, [group.id, id, lookup], record, null, () => null);
    return {
      id,
      cells: {
        ...defaults,
        [lookup]: record.id,
        ...Object.fromEntries(copies.map(([place, raw]) => [questionAt(place), raw])),
      },
    };
  });
}

/** What keeps rows from being begun as designed. */
export function startingIssues(group: RowsQuestion): Issue[] {
  const { starts, columns, most } = group;
  const path = [group.id, 'starts'];
  switch (starts?.t) {
    case undefined:
      return [];
    case 'empty':
      return starts.count > most ? [issue('row-limits', path, { most: limits.rows })] : [];
    case 'each':
      return columns.some(({ id, kind }) => id === starts.lookup && kind === 'lookup')
        ? []
        : [issue('starts-lookup', path)];
    case 'same':
      return [
        ...(starts.rows.length > most ? [issue('row-limits', path, { most: limits.rows })] : []),
        ...starts.rows.flatMap((cells, i) =>
          unread(group, cells).map((label) => issue('starts-unread', path, { row: i + 1, label })),
        ),
      ];
  }
}

/** The columns whose cells cannot be read. */
const unread = ({ columns }: RowsQuestion, cells: AnswerRow['cells']): string[] =>
  columns.flatMap((column) => {
    const state = emptyCells();
    if (column.kind !== 'lookup' && column.kind !== 'files')
      readInto(state, column, cells[column.id] ?? null, new Map());
    return state.faults.size > 0 ? [column.label] : [];
  });
