import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual';
import { useCallback, useEffect, useId, useMemo, useRef, type ReactNode } from 'react';
import { aboutColumn } from '../../core/table/about';
import type { Sort } from '../../core/record/places';
import type { Column } from '../../core/table/model';
import { NUMBER_WIDTH, pinnedColumns, type Arrangement } from './arrangement';
import { CellEditor } from './CellEditor';
import { GridHeading } from './GridHeading';
import { Panel, PANEL_HEIGHT, withPanels } from './GridPanel';
import { GridRow } from './GridRow';
import type { GridLine } from './grid-lines';
import { heading, isNumeric } from './record-text';
import { cellId, placed } from './grid-spots';
import type { GridHand } from './use-grid';
import { speak } from '../../core/wording/speak';

const ROW_HEIGHT = 36;
/** Columns that are drawn whether or not they are in sight. */
const ALL_DRAWN = 20;
/** Records beyond the last that is seen, before more are asked for. */
const SOON = 30;

interface Props {
  readonly label: string;
  readonly arrangement: Arrangement;
  readonly hand: GridHand;
  readonly sorts: readonly Sort[];
  /** `also`: after what it is sorted by already. */
  readonly onSort: (by: string, also: boolean) => void;
  readonly onWidth?: (by: string, width: number) => void;
  readonly more: () => void;
  readonly targetKey: (column: Column) => string | null;
  /** Within a page that scrolls as a whole. */
  readonly isPart?: boolean;
  /** Where the numbers of records lead, by number. */
  readonly page?: (number: string) => string;
  /** What can be opened under a record. */
  readonly under?: Under;
}

export interface Under {
  /** The records under which it is, by id. */
  readonly opened: ReadonlySet<string>;
  readonly toggle: (id: string) => void;
  readonly panel: (line: GridLine) => ReactNode;
}

/** Records as lines of a sheet: only those in sight are drawn, and so are columns. One cell is in hand, and keys go from it. */
export function Grid(props: Props) {
  const { label, arrangement, hand, sorts, onSort, onWidth, more, targetKey, isPart = false, page } = props;
  const { under } = props;
  const { columns: all, widthOf, by, pinned } = arrangement;
  const grid = useId();
  const scroller = useRef<HTMLDivElement>(null);
  const { lines } = hand;
  const shown = useMemo(() => withPanels(lines, under?.opened ?? NOTHING), [lines, under?.opened]);
  const { editing } = hand;
  const editedRow = editing === null ? -1 : lines.findIndex(({ id }) => id === editing.at.row);
  const editedPlace = shown.findIndex(({ at: row, isPanel }) => row === editedRow && !isPanel);
  const editedColumn = editing === null ? -1 : all.findIndex(({ id }) => id === editing.at.column) - pinned;
  const rows = useVirtualizer({
    rangeExtractor: useCallback((range: Range) => rangeWith(editedPlace, range), [editedPlace]),
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (shown[i]?.isPanel === true ? PANEL_HEIGHT : ROW_HEIGHT),
    overscan: 12,
    scrollPaddingStart: ROW_HEIGHT,
    scrollPaddingEnd: ROW_HEIGHT,
    initialRect: { width: 860, height: 560 },
  });
  const stays = useMemo(() => pinnedColumns(all.slice(0, pinned), widthOf), [all, pinned, widthOf]);
  const columns = useVirtualizer({
    rangeExtractor: useCallback((range: Range) => rangeWith(editedColumn, range), [editedColumn]),
    horizontal: true,
    count: all.length - pinned,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widthOf(all[i + pinned] as Column),
    // Up to so many are drawn anyway: the browser's own search and readers then find them all.
    overscan: all.length <= ALL_DRAWN ? ALL_DRAWN : 3,
    paddingStart: stays.width,
    scrollPaddingStart: stays.width + 8,
    initialRect: { width: 1_200, height: 560 },
  });
  useEffect(() => columns.measure(), [columns, all, widthOf]);
  useEffect(() => rows.measure(), [rows, shown]);
  const drawn = rows.getVirtualItems();
  const shownColumns = columns.getVirtualItems().map(({ index, start, size }) => ({
    at: index + pinned,
    style: placed(start, size, index + pinned === all.length - 1),
  }));
  const width = columns.getTotalSize();
  const last = rows.range?.endIndex ?? 0;
  useEffect(() => {
    if (last + SOON >= shown.length) more();
  }, [last, shown.length, more]);

  const { at } = hand.marked ?? { at: null };
  const atRow = at === null ? -1 : lines.findIndex(({ id }) => id === at.row);
  const atColumn = at === null ? -1 : all.findIndex(({ id }) => id === at.column);
  useEffect(() => {
    if (atRow >= 0) rows.scrollToIndex(shown.findIndex(({ at: row, isPanel }) => row === atRow && !isPanel));
    if (atColumn >= pinned) columns.scrollToIndex(atColumn - pinned);
    // The page around it scrolls as well, so that the bar at its foot does not cover the cell.
    if (isPart)
      requestAnimationFrame(() =>
        document.getElementById(cellId(grid, atRow, atColumn))?.scrollIntoView({ block: 'nearest' }),
      );
    // Only when another cell is taken in hand: whoever scrolls away from it is not brought back.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [at?.row, at?.column]);
  useEffect(() => {
    if (hand.wantsFocus && hand.editing === null) scroller.current?.focus({ preventScroll: true });
  }, [hand.wantsFocus, hand.editing, at]);

  const editor = useEditor(hand, all, targetKey);

  const headingOf = (at: number, style: { left: number; width: string }) => {
    const column = all[at];
    return column === undefined ? null : (
      <GridHeading
        key={column.id}
        label={heading(column)}
        about={aboutColumn(column)}
        by={by(column)}
        index={at + 2}
        sorts={sorts}
        onSort={onSort}
        numeric={isNumeric(column)}
        style={style}
        width={widthOf(column)}
        {...(onWidth && { onWidth })}
        className="absolute top-0"
      />
    );
  };

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={label}
      aria-rowcount={lines.length + 1}
      aria-colcount={all.length + 1}
      aria-multiselectable
      aria-readonly={!hand.may.change && !hand.may.add}
      aria-activedescendant={atRow >= 0 && atColumn >= 0 ? cellId(grid, atRow, atColumn) : undefined}
      tabIndex={0}
      className={`record-grid ${isPart ? 'part' : ''}`}
      onKeyDown={(event) => {
        if (under !== undefined && at !== null && event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
          event.preventDefault();
          return under.toggle(at.row);
        }
        hand.press(event);
      }}
      onCopy={hand.copy}
      onPaste={hand.paste}
      // Pressing a heading takes no cell in hand: bringing that into sight would move the heading away.
      onFocus={(event) => event.target === event.currentTarget && hand.focused()}
    >
      <div role="rowgroup" className="sticky top-0 z-20">
        <div
          role="row"
          aria-rowindex={1}
          className="relative h-9 border-b border-slate-300 bg-slate-50"
          style={{ width: wide(width) }}
        >
          <div
            role="presentation"
            className="sticky left-0 z-10 h-9 border-b border-slate-300 bg-slate-50"
            style={{ width: stays.width }}
          >
            <GridHeading
              label={speak`Number`}
              by="number"
              index={1}
              sorts={sorts}
              onSort={onSort}
              style={{ left: 0, width: `${NUMBER_WIDTH}px` }}
              className="absolute top-0 pl-4"
            />
            {stays.columns.map(({ at: index, style }) => headingOf(index, style))}
          </div>
          {shownColumns.map(({ at: index, style }) => headingOf(index, style))}
        </div>
      </div>
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize(), width: wide(width) }}>
        {drawn.map(({ index: place, start }) => {
          const { at: index, isPanel } = shown[place] ?? { at: -1, isPanel: false };
          const line = lines[index];
          if (line !== undefined && isPanel)
            return (
              <Panel key={`under ${line.id}`} top={start} width={scroller.current?.clientWidth ?? 0}>
                {under?.panel(line)}
              </Panel>
            );
          return line === undefined ? null : (
            <GridRow
              key={line.id}
              grid={grid}
              index={index}
              top={start}
              line={line}
              arrangement={arrangement}
              shown={shownColumns}
              stays={stays}
              inHand={at?.row === line.id ? at.column : null}
              block={hand.block.rows.has(line.id) ? hand.block.columns : NOTHING}
              editor={hand.editing?.at.row === line.id ? editor : null}
              pick={hand.pick}
              open={hand.open}
              locked={!hand.may.change}
              page={page ?? null}
              isOpen={under === undefined ? null : under.opened.has(line.id)}
              toggle={under?.toggle ?? ignored}
            />
          );
        })}
      </div>
    </div>
  );
}

const ignored = (): void => undefined;
const NOTHING: ReadonlySet<string> = new Set();
const wide = (width: number): string => `max(100%, ${width}px)`;

/** What is drawn: what is in sight, and the cell that is open, wherever it is, so that nothing typed is lost. */
const rangeWith = (open: number, range: Range): number[] => {
  const seen = defaultRangeExtractor(range);
  if (open < 0 || open >= range.count || seen.includes(open)) return seen;
  return [...seen, open].sort((a, b) => a - b);
};

/** The control of the cell in hand, while it is open. */
function useEditor(
  hand: GridHand,
  all: readonly Column[],
  targetKey: (column: Column) => string | null,
): ReactNode {
  return useMemo((): ReactNode => {
    const { editing } = hand;
    const column = all.find(({ id }) => id === editing?.at.column);
    if (editing === null || column === undefined) return null;
    return (
      <CellEditor
        key={`${editing.at.row} ${editing.at.column}`}
        column={column}
        cell={hand.cellAt(editing.at)}
        start={editing.start}
        target={targetKey(column)}
        onDone={hand.written}
      />
    );
    // The editor stands until another cell is opened.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [hand.editing, all]);
}
