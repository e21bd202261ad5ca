/** A cell of the grid, by its record and its column. */
export interface Spot {
  readonly row: string;
  readonly column: string;
}

/** The cell in hand, and the one where the block that is marked began. */
export interface Marked {
  readonly at: Spot;
  readonly from: Spot;
}

/** What there is to go through, in order. */
export interface Lines {
  readonly rows: readonly string[];
  readonly columns: readonly string[];
}

export interface Step {
  readonly down?: number;
  readonly right?: number;
  /** The block grows instead of a cell being taken in hand. */
  readonly extend?: boolean;
}

export const markedAt = (spot: Spot): Marked => ({ at: spot, from: spot });

const within = (at: number, length: number): number => Math.min(Math.max(at, 0), length - 1);

/** The cell so many away; at an edge it stays. A record that is there no more is taken for the first. */
export function stepped(marked: Marked, lines: Lines, { down = 0, right = 0, extend = false }: Step): Marked {
  const row = lines.rows[within(Math.max(0, lines.rows.indexOf(marked.at.row)) + down, lines.rows.length)];
  const column =
    lines.columns[within(Math.max(0, lines.columns.indexOf(marked.at.column)) + right, lines.columns.length)];
  if (row === undefined || column === undefined) return marked;
  const at = { row, column };
  return extend ? { at, from: marked.from } : markedAt(at);
}

/** Tab: the next cell, over the end of a row to the beginning of the next. */
export function tabbed(marked: Marked, lines: Lines, by: 1 | -1): Marked {
  const column = lines.columns.indexOf(marked.at.column) + by;
  if (column >= 0 && column < lines.columns.length) return stepped(marked, lines, { right: by });
  const over = stepped(marked, lines, { down: by });
  const edge = by === 1 ? lines.columns[0] : lines.columns.at(-1);
  return over.at.row === marked.at.row || edge === undefined
    ? marked
    : markedAt({ row: over.at.row, column: edge });
}

/** The rows and columns of the block that is marked, in their order. */
export function blockIn({ at, from }: Marked, { rows, columns }: Lines): Lines {
  const between = (list: readonly string[], a: string, b: string): readonly string[] => {
    const [one, other] = [list.indexOf(a), list.indexOf(b)];
    if (one < 0 || other < 0) return [one < 0 ? b : a].filter((id) => list.includes(id));
    return list.slice(Math.min(one, other), Math.max(one, other) + 1);
  };
  return { rows: between(rows, at.row, from.row), columns: between(columns, at.column, from.column) };
}

/** The DOM id of a cell, by its grid and its places from 0. */
export const cellId = (grid: string, row: number, column: number): string => `${grid}-${row}-${column}`;

/** Where a column stands, in pixels from the left; the last reaches to the edge, however wide the grid is. */
export const placed = (start: number, size: number, isLast: boolean): { left: number; width: string } => ({
  left: start,
  width: isLast ? `max(${size}px, 100% - ${start}px)` : `${size}px`,
});
