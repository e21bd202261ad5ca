import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { TypedCell } from '../../core/record/staged';
import { inOrder } from '../../core/table/kinds/choices';
import { listStored, storedList } from '../../core/table/kinds/stored-list';
import { offered } from '../../core/table/choice-list';
import type { Column } from '../../core/table/model';
import { leaveBy, type Leave } from './leave';

interface Props {
  readonly column: Column;
  readonly cell: TypedCell;
  readonly onDone: (cell: TypedCell | null, leave: Leave) => void;
}

/** Several choices in a cell: ticked with the space bar or the mouse, gone through with the arrows, written with Enter or Tab. */
export function SeveralEditor({ column, cell, onDone }: Props) {
  const was = typeof cell.raw === 'string' ? (listStored(cell.raw) ?? []) : [];
  const [chosen, setChosen] = useState<readonly string[]>(was);
  const frame = useRef<HTMLDivElement>(null);
  const done = useRef(false);
  useEffect(() => frame.current?.querySelector('input')?.focus({ preventScroll: true }), []);
  const leave = (way: Leave, keep = true) => {
    if (done.current) return;
    done.current = true;
    const raw = storedList(inOrder(new Set(chosen), column.choices));
    onDone(keep && raw !== cell.raw ? { raw } : null, way);
  };
  const move = (by: 1 | -1) => {
    const boxes = [...(frame.current?.querySelectorAll('input') ?? [])];
    const at = boxes.findIndex((box) => box === document.activeElement);
    boxes[(at + by + boxes.length) % boxes.length]?.focus();
  };
  const press = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === ' ') return;
    event.preventDefault();
    if (event.key === 'Escape') leave('stay', false);
    const way = leaveBy(event);
    if (way !== null) leave(way);
    if (event.key === 'ArrowDown') move(1);
    if (event.key === 'ArrowUp') move(-1);
  };
  const toggle = (code: string, on: boolean) =>
    setChosen(on ? [...chosen, code] : chosen.filter((one) => one !== code));
  return (
    <div
      ref={frame}
      role="presentation"
      className="cell-editor bg-sheet max-h-72 overflow-y-auto p-1.5!"
      onKeyDown={press}
      onBlur={({ relatedTarget }) => {
        if (!frame.current?.contains(relatedTarget)) leave('stay');
      }}
    >
      {offered(column.choices).map(({ code, label }) => (
        <label key={code} className="flex items-start gap-2 px-1 py-0.5">
          <input
            type="checkbox"
            checked={chosen.includes(code)}
            onChange={({ target }) => toggle(code, target.checked)}
            className="mt-1 size-4 shrink-0 accent-lichen"
          />
          {label}
        </label>
      ))}
    </div>
  );
}
