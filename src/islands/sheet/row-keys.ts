import type { KeyboardEvent } from 'react';
import type { RowState } from '../../core/form/cells';
import { isTyped, type RowsQuestion } from '../../core/form/design';
import { controlId } from './sheet-model';
import type { Hand } from './use-fill';

type Cell = readonly [group: string, row: string, question: string];

/** The cell that something stands in, by the ids of the controls. */
function cellOf(group: RowsQuestion, rows: readonly { id: string }[], target: EventTarget): Cell | null {
  if (!(target instanceof Element)) return null;
  for (const { id: row } of rows)
    for (const { id } of group.columns)
      if (target.closest(`#${CSS.escape(controlId([group.id, row, id]))}`) !== null)
        return [group.id, row, id];
  return null;
}

export function focusCell(cell: Cell): void {
  const control = document.getElementById(controlId(cell));
  const inner = control?.matches('input, button, textarea')
    ? control
    : control?.querySelector<HTMLElement>('input, textarea, button, [role="spinbutton"]');
  inner?.focus();
}

/**
 * The keys of repeating rows, as in a sheet: Enter goes on below, Alt with an arrow moves the row, Ctrl D
 * takes what stands above. What a control means by a key comes first: a list that is open keeps its arrows
 * and its Enter.
 */
export function pressed(
  event: KeyboardEvent,
  group: RowsQuestion,
  rows: readonly RowState[],
  { sheet, changed }: Hand,
): void {
  if (event.defaultPrevented) return;
  const cell = cellOf(group, rows, event.target);
  if (cell === null) return;
  const [, row, question] = cell;
  const at = rows.findIndex(({ id }) => id === row);
  const { key, altKey, ctrlKey, metaKey, shiftKey } = event;
  if (altKey && (key === 'ArrowUp' || key === 'ArrowDown')) {
    event.preventDefault();
    sheet.moveRow(group.id, row, at + (key === 'ArrowUp' ? -1 : 1));
    changed();
    requestAnimationFrame(() => focusCell(cell));
    return;
  }
  const above = rows[at - 1];
  if ((ctrlKey || metaKey) && key.toLowerCase() === 'd' && !shiftKey) {
    // The browser would put the page among its bookmarks.
    event.preventDefault();
    const column = group.columns.find(({ id }) => id === question);
    if (above === undefined || column === undefined || !isTyped(column) || column.kind === 'files') return;
    sheet.set(cell, above.raw.get(question) ?? null);
    changed();
    return;
  }
  const box = event.target instanceof HTMLInputElement ? event.target : null;
  const next = rows[at + (shiftKey ? -1 : 1)];
  if (key !== 'Enter' || altKey || ctrlKey || metaKey || box === null || next === undefined) return;
  if (box.getAttribute('aria-expanded') === 'true') return;
  event.preventDefault();
  focusCell([group.id, next.id, question]);
}
