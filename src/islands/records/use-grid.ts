import { useCallback, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { MayEdit, RecordData } from '../../contract/answers-from-server';
import { newUuid } from '../../core/kernel/ids';
import type { NewRecord, TypedCell } from '../../core/record/staged';
import type { Column, Table } from '../../core/table/model';
import type { Leave } from './leave';
import type { Arrangement } from './arrangement';
import { cleared, filledDown, isOpen, removed } from './block-edits';
import { clipboard } from './grid-clipboard';
import { pressed } from './grid-press';
import { BLANK_LINE, GridLines, newLine, writtenTo, type GridLine } from './grid-lines';
import { blockIn, markedAt, stepped, tabbed, type Lines, type Marked, type Spot } from './grid-spots';
import type { StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

interface Given {
  readonly table: Table;
  readonly arrangement: Arrangement;
  readonly may: MayEdit;
  /** What a new record here begins with. */
  readonly fresh: Omit<NewRecord, 'id'>;
  /** Whether one can be typed here: not where it would not be among those that are shown. */
  readonly hasBlank: boolean;
  readonly rows: readonly RecordData[];
  readonly isWhole: boolean;
  readonly edits: StagedEdits;
  readonly targetKey: (column: Column) => string | null;
  /** A record was taken in hand. */
  readonly onRecord: (id: string) => void;
}

/** What keys, mouse and clipboard do in the grid. */
export function useGrid(given: Given) {
  const { table, arrangement, may, fresh, hasBlank, rows, isWhole, edits, targetKey, onRecord } = given;
  const { columns, locked } = arrangement;
  const { staged, troubles, edit } = edits;
  const [marked, setMarked] = useState<Marked | null>(null);
  const [editing, setEditing] = useState<{ readonly at: Spot; readonly start: string | null } | null>(null);
  const [wantsFocus, setWantsFocus] = useState(false);
  const [isAdding, setAdding] = useState(false);
  const made = useRef(new GridLines());
  const lines = useMemo(
    () => made.current.of({ table, rows, staged, troubles, isWhole, fresh, hasBlank: hasBlank || isAdding }),
    [table, rows, staged, troubles, isWhole, fresh, hasBlank, isAdding],
  );
  const order = useMemo(
    (): Lines => ({ rows: lines.map(({ id }) => id), columns: columns.map(({ id }) => id) }),
    [lines, columns],
  );
  const block = useMemo(() => {
    const within = marked === null ? { rows: [], columns: [] } : blockIn(marked, order);
    return { rows: new Set(within.rows), columns: new Set(within.columns) };
  }, [marked, order]);

  const lineOf = (id: string): GridLine | undefined => lines.find((line) => line.id === id);
  const columnOf = (id: string): Column | undefined => columns.find((column) => column.id === id);
  const cellAt = ({ row, column }: Spot): TypedCell => {
    const known = columnOf(column);
    return (known === undefined ? undefined : lineOf(row)?.cellOf(known).cell) ?? { raw: null };
  };

  /** The margin shows the record in hand, unless it is still to be added. */
  const look = useCallback(
    (id: string) => {
      if (rows.some((row) => row.id === id)) onRecord(id);
    },
    [rows, onRecord],
  );
  const take = useCallback(
    (next: Marked) => {
      setMarked(next);
      setWantsFocus(true);
      look(next.at.row);
    },
    [look],
  );
  const pick = useCallback(
    (spot: Spot, extend: boolean) => {
      setEditing(null);
      setMarked((now) => (extend && now !== null ? { at: spot, from: now.from } : markedAt(spot)));
      setWantsFocus(true);
      look(spot.row);
    },
    [look],
  );

  const begin = (at: Spot, start: string | null) => {
    const line = lineOf(at.row);
    const why = locked.get(at.column);
    if (why !== undefined) return edits.say(why);
    if (line === undefined || !isOpen(line, may))
      return edits.say(
        line?.state === 'remove'
          ? speak`This record is to be removed; drop that first to change it.`
          : speak`You may look at these records, but not change them.`,
      );
    setEditing({ at, start });
  };
  const open = (spot: Spot) => begin(spot, null);

  /** Writes a cell of any line; the blank one becomes a record of its own, whose id is given. */
  const write = (spot: Spot, cell: TypedCell): string => {
    const [line, column] = [lineOf(spot.row), columnOf(spot.column)];
    if (line === undefined || column === undefined) return spot.row;
    const id = line.state === 'blank' ? newUuid() : line.id;
    const of = line.state === 'blank' ? newLine(fresh, id) : line;
    edit((now) => writtenTo(now, of, column, cell));
    return id;
  };
  const written = (cell: TypedCell | null, leave: Leave) => {
    const at = editing?.at;
    setEditing(null);
    setWantsFocus(true);
    if (at === undefined) return;
    const row = cell === null ? at.row : write(at, cell);
    const here = markedAt({ row, column: at.column });
    const there = {
      ...order,
      rows: row === at.row ? order.rows : order.rows.map((id) => (id === at.row ? row : id)),
    };
    if (leave === 'stay') return setMarked(here);
    if (leave === 'left' || leave === 'right') return take(tabbed(here, there, leave === 'right' ? 1 : -1));
    // Below a new record stands the next blank one.
    if (leave === 'down' && row !== at.row && isWhole)
      return take(markedAt({ row: BLANK_LINE, column: at.column }));
    take(stepped(here, there, { down: leave === 'down' ? 1 : -1 }));
  };

  const marking = {
    columns: columns.filter(({ id }) => !locked.has(id)),
    lines,
    may,
    block: { rows: [...block.rows], columns: [...block.columns] },
  };
  const remove = () =>
    may.remove
      ? edit((now) => removed(now, marking))
      : edits.say(speak`You may not remove records of this table.`);
  const press = (event: KeyboardEvent) =>
    pressed(event, {
      marked,
      order,
      take,
      begin,
      clear: () => edit((now) => cleared(now, marking)),
      fillDown: () => edit((now) => filledDown(now, marking)),
      remove,
      undo: edits.undo,
      redo: edits.redo,
    });

  const { copy, paste } = clipboard({
    columns,
    locked,
    lines,
    order,
    marked: editing === null ? marked : null,
    fresh: table.parent === null || fresh.parent !== null ? fresh : null,
    may,
    targetKey,
    edits,
  });

  /** A blank record is taken in hand, to be typed in. */
  const addOne = () => {
    const column = columns.find(({ id }) => !locked.has(id))?.id;
    if (column === undefined) return;
    const at = { row: BLANK_LINE, column };
    setAdding(true);
    setMarked(markedAt(at));
    setEditing({ at, start: null });
  };

  return {
    lines,
    marked,
    block,
    editing,
    wantsFocus,
    may,
    cellAt,
    pick,
    open,
    written,
    press,
    copy,
    paste,
    remove,
    addOne,
    focused: () => {
      const row = order.rows.find((id) => id !== BLANK_LINE) ?? order.rows[0];
      const [column = ''] = order.columns;
      if (marked === null && row !== undefined && column !== '') setMarked(markedAt({ row, column }));
    },
  };
}

export type GridHand = ReturnType<typeof useGrid>;
