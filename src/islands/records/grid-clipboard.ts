import type { ClipboardEvent } from 'react';
import type { MayEdit } from '../../contract/answers-from-server';
import type { NewRecord } from '../../core/record/staged';
import type { Column } from '../../core/table/model';
import { textOf } from '../kit/clipboard-block';
import { BLANK_LINE, type GridLine } from './grid-lines';
import { blockIn, type Lines, type Marked } from './grid-spots';
import { pasteInto } from './paste-block';
import { typedCell } from './record-cells';
import type { StagedEdits } from './use-staged';

interface Given {
  readonly columns: readonly Column[];
  readonly locked: ReadonlyMap<string, string>;
  readonly lines: readonly GridLine[];
  readonly order: Lines;
  /** Null where nothing is marked, or a cell is open. */
  readonly marked: Marked | null;
  /** What a new record here begins with; null where none can be added. */
  readonly fresh: Omit<NewRecord, 'id'> | null;
  readonly may: MayEdit;
  readonly targetKey: (column: Column) => string | null;
  readonly edits: StagedEdits;
}

/** Blocks of cells, to other programs and from them. */
export function clipboard({ columns, locked, lines, order, marked, fresh, may, targetKey, edits }: Given) {
  const copy = (event: ClipboardEvent) => {
    if (marked === null) return;
    event.preventDefault();
    const block = blockIn(marked, order);
    const taken = columns.filter(({ id }) => block.columns.includes(id));
    const cells = lines
      .filter(({ id }) => block.rows.includes(id) && id !== BLANK_LINE)
      .map((line) => taken.map((column) => typedCell(column, line.cellOf(column).cell)));
    event.clipboardData.setData('text/plain', textOf(cells));
  };
  const paste = (event: ClipboardEvent) => {
    if (marked === null) return;
    event.preventDefault();
    const text = event.clipboardData.getData('text/plain');
    const { rows, columns: across } = blockIn(marked, order);
    const [row, column] = [rows[0], across[0]];
    if (row === undefined || column === undefined) return;
    const from = { row, column };
    void pasteInto({ text, from, lines, order, columns, locked, fresh, may, targetKey }).then(
      ({ change, words }) => {
        edits.edit(change);
        edits.say(words);
      },
    );
  };
  return { copy, paste };
}
