import { memo, type ReactNode } from 'react';
import type { Column } from '../../core/table/model';
import { ChevronDown, ChevronRight, CircleX } from '../kit/icons';
import { NUMBER_WIDTH, type Arrangement, type DrawnColumn, type Stays } from './arrangement';
import type { GridLine } from './grid-lines';
import { cellId, type Spot } from './grid-spots';
import { shownCell } from './record-cells';
import { isNumeric } from './record-text';
import { useFresh } from './use-fresh';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly grid: string;
  readonly index: number;
  readonly top: number;
  readonly line: GridLine;
  readonly arrangement: Arrangement;
  readonly shown: readonly DrawnColumn[];
  readonly stays: Stays;
  /** The column in hand, where this record is. */
  readonly inHand: string | null;
  /** The columns of the block that is marked. */
  readonly block: ReadonlySet<string>;
  readonly editor: ReactNode;
  readonly pick: (spot: Spot, extend: boolean) => void;
  readonly open: (spot: Spot) => void;
  readonly locked: boolean;
  /** The address of the record's own page, where its number leads there. */
  readonly page: ((number: string) => string) | null;
  /** Whether what belongs to it is open under it; null where nothing can be. */
  readonly isOpen: boolean | null;
  readonly toggle: (id: string) => void;
}

/** One record; drawn anew only when something of it changed. */
export const GridRow = memo(function GridRow(props: Props) {
  const { index, top, line, arrangement, shown, stays, inHand } = props;
  const isFresh = useFresh(line);
  const first = arrangement.columns[0]?.id ?? '';
  const cell = ({ at, style }: DrawnColumn) => {
    const column = arrangement.columns[at];
    return column === undefined ? null : (
      <GridCell key={column.id} {...props} column={column} at={at} style={style} />
    );
  };
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={inHand !== null}
      className={`grid-row ${inHand === null ? '' : 'in-hand'} ${line.state === 'remove' ? 'removed' : ''} ${isFresh ? 'fresh' : ''}`}
      style={{ transform: `translateY(${top}px)` }}
    >
      <div role="presentation" className="grid-stays" style={{ width: stays.width }}>
        <div
          role="rowheader"
          tabIndex={-1}
          aria-colindex={1}
          className="grid-number"
          style={{ width: NUMBER_WIDTH }}
          onMouseDown={(event) => {
            if (event.target instanceof Element && event.target.closest('a, button') !== null) return;
            event.preventDefault();
            props.pick({ row: line.id, column: inHand ?? first }, event.shiftKey);
          }}
        >
          {props.isOpen !== null && line.record !== null && (
            <button
              type="button"
              tabIndex={-1}
              aria-expanded={props.isOpen}
              aria-label={speak`What belongs to ${line.number}`}
              className="-ml-3 inline-grid size-6 place-items-center rounded text-slate-600 hover:bg-slate-200"
              onClick={() => props.toggle(line.id)}
            >
              {props.isOpen ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
            </button>
          )}
          {line.state === 'add' ? (
            <span className="tag bg-lichen-soft text-lichen-deep">{speak`new`}</span>
          ) : line.state === 'blank' ? (
            <span className="font-sans text-[13px] text-slate-600">{speak`type to add`}</span>
          ) : props.page === null ? (
            line.number
          ) : (
            <a href={props.page(line.number)} className="inline-flex min-h-6 items-center text-lichen-deep">
              {line.number}
            </a>
          )}
          {line.state === 'remove' && (
            <span className="tag ml-2 bg-rust-soft text-rust">{speak`to remove`}</span>
          )}
        </div>
        {stays.columns.map(cell)}
      </div>
      {shown.map(cell)}
    </div>
  );
});

function GridCell({
  grid,
  index,
  line,
  column,
  arrangement,
  at,
  style,
  inHand,
  block,
  editor,
  pick,
  open,
  locked,
}: Props & { readonly column: Column } & DrawnColumn) {
  const { cell, before, trouble } = line.cellOf(column);
  const isHere = inHand === column.id;
  const text = shownCell(column, cell);
  const spot = { row: line.id, column: column.id };
  return (
    <div
      role="gridcell"
      tabIndex={-1}
      id={cellId(grid, index, at)}
      aria-colindex={at + 2}
      aria-selected={isHere || block.has(column.id)}
      aria-invalid={trouble !== null}
      // oxlint-disable-next-line jsx-a11y/role-supports-aria-props -- WAI-ARIA 1.2 has it for cells of a grid.
      aria-readonly={
        arrangement.locked.has(column.id) ||
        line.isFixed ||
        (locked && line.state !== 'add' && line.state !== 'blank')
      }
      title={trouble ?? text}
      style={style}
      className={`grid-cell ${isNumeric(column) ? 'numeric' : ''} ${block.has(column.id) && !isHere ? 'in-block' : ''} ${isHere ? 'here' : ''} ${trouble === null ? '' : 'wrong'}`}
      onMouseDown={(event) => {
        if (isHere && editor !== null) return;
        event.preventDefault();
        pick(spot, event.shiftKey);
      }}
      onDoubleClick={() => open(spot)}
    >
      {isHere && editor !== null ? (
        editor
      ) : (
        <>
          {trouble !== null && <CircleX size={14} aria-hidden className="shrink-0 text-rust" />}
          <span className={`truncate ${before === null ? '' : 'bg-marker px-0.5'}`}>{text}</span>
          {before !== null && shownCell(column, before) !== '' && (
            <s className="truncate text-slate-600">{shownCell(column, before)}</s>
          )}
          {trouble !== null && <span className="sr-only">{trouble}</span>}
        </>
      )}
    </div>
  );
}
