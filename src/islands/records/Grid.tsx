import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useId, useMemo, useRef, type ReactNode } from 'react';
import { aboutColumn } from '../../core/table/about';
import type { Column } from '../../core/table/model';
import { ArrowDown, ArrowUp } from '../kit/icons';
import { CellEditor } from './CellEditor';
import { GridRow } from './GridRow';
import { heading, isNumeric } from './record-text';
import { cellId, placed } from './grid-spots';
import type { GridHand } from './use-grid';
import type { Query } from './use-records';

const ROW_HEIGHT = 36;
const NUMBER_WIDTH = 148;
/** Columns that are drawn whether or not they are in sight. */
const ALL_DRAWN = 20;
/** Records beyond the last that is seen, before more are asked for. */
const SOON = 30;

/** In pixels; what is longer is cut, and whole in the margin. */
const widths: Readonly<Partial<Record<Column['kind'], number>>> = {
  whole: 110,
  decimal: 120,
  money: 130,
  date: 150,
  time: 90,
  'date-time': 190,
  'yes-no': 100,
  choice: 150,
  reference: 200,
};
const widthOf = ({ kind }: Column): number => widths[kind] ?? 200;

interface Props {
  readonly label: string;
  readonly columns: readonly Column[];
  readonly hand: GridHand;
  readonly query: Pick<Query, 'sort' | 'order'>;
  readonly onSort: (sort: string) => void;
  readonly more: () => void;
  readonly targetKey: (column: Column) => string | null;
  /** Within a page that scrolls as a whole. */
  readonly isPart?: boolean;
  /** Where the numbers of records lead, by number. */
  readonly page?: (number: string) => string;
}

/** Records as lines of a sheet: only those in sight are drawn, and so are columns. One cell is in hand, and keys go from it. */
export function Grid({
  label,
  columns: all,
  hand,
  query,
  onSort,
  more,
  targetKey,
  isPart = false,
  page,
}: Props) {
  const grid = useId();
  const scroller = useRef<HTMLDivElement>(null);
  const { lines } = hand;
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollPaddingStart: ROW_HEIGHT,
    scrollPaddingEnd: ROW_HEIGHT,
    initialRect: { width: 860, height: 560 },
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: all.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widthOf(all[i] as Column),
    // Up to so many are drawn anyway: the browser's own search and readers then find them all.
    overscan: all.length <= ALL_DRAWN ? ALL_DRAWN : 3,
    paddingStart: NUMBER_WIDTH,
    scrollPaddingStart: NUMBER_WIDTH + 8,
    initialRect: { width: 1_200, height: 560 },
  });
  const drawn = rows.getVirtualItems();
  const shownColumns = columns.getVirtualItems();
  const width = columns.getTotalSize();
  const last = drawn.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last + SOON >= lines.length) more();
  }, [last, lines.length, more]);

  const { at } = hand.marked ?? { at: null };
  const atRow = at === null ? -1 : lines.findIndex(({ id }) => id === at.row);
  const atColumn = at === null ? -1 : all.findIndex(({ id }) => id === at.column);
  useEffect(() => {
    if (atRow >= 0) rows.scrollToIndex(atRow);
    if (atColumn >= 0) columns.scrollToIndex(atColumn);
    // The page around it scrolls as well, so that the bar at its foot does not cover the cell.
    if (isPart)
      requestAnimationFrame(() =>
        document.getElementById(cellId(grid, atRow, atColumn))?.scrollIntoView({ block: 'nearest' }),
      );
    // Only when another cell is taken in hand: whoever scrolls away from it is not brought back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at?.row, at?.column]);
  useEffect(() => {
    if (hand.wantsFocus && hand.editing === null) scroller.current?.focus({ preventScroll: true });
  }, [hand.wantsFocus, hand.editing, at]);

  const editor = useMemo((): ReactNode => {
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
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [hand.editing, all]);

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
      onKeyDown={hand.press}
      onCopy={hand.copy}
      onPaste={hand.paste}
      onFocus={hand.focused}
    >
      <div role="rowgroup" className="sticky top-0 z-20">
        <div
          role="row"
          aria-rowindex={1}
          className="relative h-9 border-b border-slate-300 bg-slate-50"
          style={{ width: wide(width) }}
        >
          <Heading
            label="Number"
            column="number"
            index={1}
            query={query}
            onSort={onSort}
            style={{ width: NUMBER_WIDTH }}
            className="sticky left-0 z-10 border-b border-slate-300 bg-slate-50 pl-4"
          />
          {shownColumns.map(({ index, start, size }) => {
            const column = all[index] as Column;
            return (
              <Heading
                key={column.id}
                label={heading(column)}
                about={aboutColumn(column)}
                column={column.id}
                index={index + 2}
                query={query}
                onSort={onSort}
                numeric={isNumeric(column)}
                style={placed(start, size, index === all.length - 1)}
                className="absolute top-0"
              />
            );
          })}
        </div>
      </div>
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize(), width: wide(width) }}>
        {drawn.map(({ index, start }) => {
          const line = lines[index];
          return line === undefined ? null : (
            <GridRow
              key={line.id}
              grid={grid}
              index={index}
              top={start}
              line={line}
              columns={all}
              shown={shownColumns}
              numberWidth={NUMBER_WIDTH}
              inHand={at?.row === line.id ? at.column : null}
              block={hand.block.rows.has(line.id) ? hand.block.columns : NO_COLUMNS}
              editor={hand.editing?.at.row === line.id ? editor : null}
              pick={hand.pick}
              open={hand.open}
              locked={!hand.may.change}
              page={page ?? null}
            />
          );
        })}
      </div>
    </div>
  );
}

const NO_COLUMNS: ReadonlySet<string> = new Set();
const wide = (width: number): string => `max(100%, ${width}px)`;

interface HeadingProps {
  readonly label: string;
  readonly about?: string;
  readonly column: string;
  readonly index: number;
  readonly query: Pick<Query, 'sort' | 'order'>;
  readonly onSort: (sort: string) => void;
  readonly numeric?: boolean;
  readonly style: Record<string, string | number>;
  readonly className: string;
}

function Heading({
  label,
  about = '',
  column,
  index,
  query,
  onSort,
  numeric = false,
  style,
  className,
}: HeadingProps) {
  const sorted = query.sort === column;
  return (
    <div
      role="columnheader"
      aria-colindex={index}
      aria-sort={sorted ? (query.order === 'up' ? 'ascending' : 'descending') : 'none'}
      style={style}
      className={`flex h-9 items-center px-2 text-[13px] font-semibold text-slate-600 ${numeric ? 'justify-end' : ''} ${className}`}
    >
      <button
        type="button"
        title={about || label}
        onClick={() => onSort(column)}
        className="inline-flex min-w-0 items-center gap-1 rounded hover:text-ink"
      >
        <span className="truncate">{label}</span>
        {sorted &&
          (query.order === 'up' ? (
            <ArrowUp size={14} aria-hidden className="shrink-0" />
          ) : (
            <ArrowDown size={14} aria-hidden className="shrink-0" />
          ))}
      </button>
    </div>
  );
}
