import { useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react';
import type { Sort } from '../../core/record/places';
import { ArrowDown, ArrowUp } from '../kit/icons';
import { LEAST_WIDTH, MOST_WIDTH } from './arrangement';

interface Props {
  readonly label: string;
  readonly about?: string;
  /** What it is sorted by. */
  readonly by: string;
  readonly index: number;
  readonly sorts: readonly Sort[];
  readonly onSort: (by: string, also: boolean) => void;
  readonly numeric?: boolean;
  readonly style: CSSProperties;
  readonly className: string;
  /** Pixels. */
  readonly width?: number;
  readonly onWidth?: (by: string, width: number) => void;
}

/** Pixels by which a key widens a column. */
const STEP = 20;

/**
 * The heading of a column: pressed, it sorts by it, with Shift after the others; its edge is drawn to make it
 * wider, with the keyboard by Alt and arrows.
 */
export function GridHeading(props: Props) {
  const { label, about = '', by, index, sorts, onSort, numeric = false, style, className } = props;
  const { width = 0, onWidth } = props;
  const at = sorts.findIndex((sort) => sort.by === by);
  const sort = sorts[at];
  const Arrow = sort?.descending === true ? ArrowDown : ArrowUp;
  const widen = (next: number) =>
    onWidth?.(by, Math.round(Math.min(MOST_WIDTH, Math.max(LEAST_WIDTH, next))));
  const press = (event: KeyboardEvent) => {
    const steps: Readonly<Record<string, number>> = { ArrowLeft: -STEP, ArrowRight: STEP };
    const by = steps[event.key];
    if (!event.altKey || by === undefined || onWidth === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    widen(width + by);
  };
  return (
    <div
      role="columnheader"
      aria-colindex={index}
      aria-sort={sort === undefined ? 'none' : sort.descending ? 'descending' : 'ascending'}
      style={style}
      className={`flex h-9 items-center px-2 text-[13px] font-semibold text-slate-600 ${numeric ? 'justify-end' : ''} ${className}`}
    >
      <button
        type="button"
        title={about || label}
        onClick={(event) => onSort(by, event.shiftKey)}
        onKeyDown={press}
        className="inline-flex min-h-6 min-w-0 items-center gap-1 rounded hover:text-ink"
      >
        <span className="truncate">{label}</span>
        {sort !== undefined && <Arrow size={14} aria-hidden className="shrink-0" />}
        {sort !== undefined && sorts.length > 1 && <span className="font-mono text-[11px]">{at + 1}</span>}
      </button>
      {onWidth !== undefined && <Edge width={width} onWidth={widen} />}
    </div>
  );
}

/** The edge of a heading, to be drawn by mouse or finger. */
function Edge({ width, onWidth }: { readonly width: number; readonly onWidth: (width: number) => void }) {
  const from = useRef<{ readonly x: number; readonly width: number } | null>(null);
  const move = (event: PointerEvent) => {
    if (from.current !== null) onWidth(from.current.width + event.clientX - from.current.x);
  };
  return (
    <span
      aria-hidden
      className="absolute top-1.5 right-0 h-6 w-2 cursor-col-resize touch-none border-r border-slate-300 hover:border-lichen"
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width };
      }}
      onPointerMove={move}
      onPointerUp={() => (from.current = null)}
      onPointerCancel={() => (from.current = null)}
    />
  );
}
