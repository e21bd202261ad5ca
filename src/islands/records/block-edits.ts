import type { MayEdit } from '../../contract/answers-from-server';
import { drop, stageRemoval, type Staged } from '../../core/record/staged';
import type { Column } from '../../core/table/model';
import { blockTotal } from '../../core/record/block-total';
import { plainCell } from './record-cells';
import { isNumeric } from './record-text';
import { writtenTo, type GridLine } from './grid-lines';
import type { Lines } from './grid-spots';

/** Whether the cells of a line may be typed in. */
export const isOpen = ({ state, isFixed }: GridLine, may: MayEdit): boolean =>
  state === 'add' || state === 'blank' ? may.add : state !== 'remove' && may.change && !isFixed;

interface Marking {
  readonly columns: readonly Column[];
  readonly lines: readonly GridLine[];
  /** What is marked, in the order of the grid. */
  readonly block: Lines;
  readonly may: MayEdit;
}

/** The lines that are marked and may be typed in. A blank one has nothing in it. */
const openLines = ({ lines, block, may }: Marking): GridLine[] =>
  lines.filter((line) => block.rows.includes(line.id) && line.state !== 'blank' && isOpen(line, may));
const markedColumns = ({ columns, block }: Marking): Column[] =>
  columns.filter(({ id }) => block.columns.includes(id));

/** What the numbers that are marked come to, in words; empty for a single cell. */
export function markedTotal(
  lines: readonly GridLine[],
  columns: readonly Column[],
  block: { readonly rows: ReadonlySet<string>; readonly columns: ReadonlySet<string> },
): string {
  if (block.rows.size * block.columns.size < 2) return '';
  const numeric = columns.filter((column) => block.columns.has(column.id) && isNumeric(column));
  return blockTotal(
    lines
      .filter(({ id }) => block.rows.has(id))
      .flatMap((line) => numeric.map((column) => plainCell(column, line.cellOf(column).cell))),
  );
}

/** Empties what is marked. */
export function cleared(staged: Staged, marking: Marking): Staged {
  const columns = markedColumns(marking);
  return openLines(marking).reduce(
    (all, line) => columns.reduce((some, column) => writtenTo(some, line, column, { raw: null }), all),
    staged,
  );
}

/** Writes the first of the marked lines into the others; a single one gets what stands above it. */
export function filledDown(staged: Staged, marking: Marking): Staged {
  const { lines, block } = marking;
  const first = lines.findIndex(({ id }) => id === block.rows[0]);
  const source = lines[block.rows.length > 1 ? first : first - 1];
  if (source === undefined) return staged;
  const columns = markedColumns(marking);
  return openLines(marking)
    .filter(({ id }) => id !== source.id)
    .reduce(
      (all, line) =>
        columns.reduce((some, column) => writtenTo(some, line, column, source.cellOf(column).cell), all),
      staged,
    );
}

/** Removes the records that are marked; new ones are simply not added. */
export function removed(staged: Staged, { lines, block }: Marking): Staged {
  return lines
    .filter(({ id }) => block.rows.includes(id))
    .reduce((all, { id, state, record }) => {
      if (state === 'add') return drop(all, id);
      return record === null ? all : stageRemoval(all, record);
    }, staged);
}
