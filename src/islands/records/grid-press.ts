import type { KeyboardEvent } from 'react';
import { markedAt, stepped, tabbed, type Lines, type Marked, type Spot } from './grid-spots';

/** What keys do, in the grid they are pressed in. */
export interface Pressed {
  readonly marked: Marked | null;
  readonly order: Lines;
  readonly take: (next: Marked) => void;
  /** Opens the cell for typing; `start` is what was typed over it. */
  readonly begin: (at: Spot, start: string | null) => void;
  readonly clear: () => void;
  readonly fillDown: () => void;
  readonly remove: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** Lines a page key goes by. */
const PAGE = 15;

type Work = (grid: Pressed, marked: Marked, shift: boolean) => void;

const going =
  (down: number, right: number): Work =>
  ({ order, take }, marked, extend) =>
    take(stepped(marked, order, { down, right, extend }));
/** Further than any grid is long or wide: it stops at the edge. */
const FAR = 1e9;

const all: Work = ({ order, take }) => {
  const [[row, column], [lastRow, lastColumn]] = [
    [order.rows[0], order.columns[0]],
    [order.rows.at(-1), order.columns.at(-1)],
  ];
  if (row === undefined || column === undefined || lastRow === undefined || lastColumn === undefined) return;
  take({ at: { row, column }, from: { row: lastRow, column: lastColumn } });
};

/** By the name of the key, after `ctrl ` where that is held. */
const works: Readonly<Record<string, Work>> = {
  arrowdown: going(1, 0),
  arrowup: going(-1, 0),
  arrowright: going(0, 1),
  arrowleft: going(0, -1),
  pagedown: going(PAGE, 0),
  pageup: going(-PAGE, 0),
  home: going(0, -FAR),
  end: going(0, FAR),
  'ctrl arrowdown': going(FAR, 0),
  'ctrl arrowup': going(-FAR, 0),
  'ctrl arrowright': going(0, FAR),
  'ctrl arrowleft': going(0, -FAR),
  'ctrl home': going(-FAR, -FAR),
  'ctrl end': going(FAR, FAR),
  enter: ({ begin }, { at }) => begin(at, null),
  f2: ({ begin }, { at }) => begin(at, null),
  delete: ({ clear }) => clear(),
  backspace: ({ clear }) => clear(),
  'ctrl delete': ({ remove }) => remove(),
  'ctrl backspace': ({ remove }) => remove(),
  escape: ({ take }, { at }) => take(markedAt(at)),
  'ctrl d': ({ fillDown }) => fillDown(),
  'ctrl a': all,
  'ctrl z': ({ undo, redo }, _, shift) => (shift ? redo() : undo()),
  'ctrl y': ({ redo }) => redo(),
};

export function pressed(event: KeyboardEvent, grid: Pressed): void {
  const { marked, order } = grid;
  // The headings have buttons of their own.
  if (marked === null || (event.target instanceof Element && event.target.closest('button') !== null)) return;
  const control = event.ctrlKey || event.metaKey;
  const work = works[`${control ? 'ctrl ' : ''}${event.key.toLowerCase()}`];
  if (work !== undefined) {
    event.preventDefault();
    return work(grid, marked, event.shiftKey);
  }
  if (event.key === 'Tab') {
    const next = tabbed(marked, order, event.shiftKey ? -1 : 1);
    // At the ends, Tab leaves the grid.
    if (next === marked) return;
    event.preventDefault();
    return grid.take(next);
  }
  if (event.key.length !== 1 || control || event.altKey) return;
  event.preventDefault();
  grid.begin(marked.at, event.key);
}
