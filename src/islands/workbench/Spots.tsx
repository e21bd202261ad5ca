import { useDraggable, useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import { GripVertical } from '../kit/icons';
import type { Home } from '../../core/form/change/arrange';
import { speak } from '../../core/wording/speak';

/** What is dragged: the questions of a line, or a column. */
export interface Dragged {
  readonly ids: readonly string[];
  readonly words: string;
}

/** The handle of a line: it is taken by the mouse, by a finger, or with Space and the arrows. */
export function Handle({ id, dragged, children }: { id: string; dragged: Dragged; children: ReactNode }) {
  const { setNodeRef, attributes, listeners } = useDraggable({ id: `drag:${id}`, data: { dragged } });
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      aria-label={speak`Move ${dragged.words}`}
      className="group/handle inline-flex min-h-6 min-w-6 cursor-grab touch-none items-center justify-end gap-0.5 rounded text-slate-600"
    >
      <GripVertical
        size={14}
        aria-hidden
        className="text-slate-400 opacity-0 group-hover/line:opacity-100 group-focus-visible/handle:opacity-100"
      />
      {children}
    </button>
  );
}

/** A place where what is dragged may be put; a stroke shows it. */
export function LineSpot({
  id,
  home,
  children,
  className = '',
}: {
  id: string;
  home: Home;
  children: ReactNode;
  className?: string;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `spot:${id}`, data: { home } });
  return (
    <div ref={setNodeRef} className={`relative ${className}`}>
      {isOver && <span aria-hidden className="absolute inset-x-3 -top-0.5 z-10 h-1 rounded bg-lichen" />}
      {children}
    </div>
  );
}

/** A column's head: it can be dragged, and others put before it. */
export function ColumnSpot({
  id,
  group,
  words,
  children,
}: {
  id: string;
  group: string;
  words: string;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `spot:${id}`, data: { home: { group, before: id } } });
  const drag = useDraggable({ id: `drag:${id}`, data: { dragged: { ids: [id], words } } });
  return (
    <th ref={setNodeRef} className="group/line relative p-0!">
      {isOver && <span aria-hidden className="absolute inset-y-0 left-0 w-1 rounded bg-lichen" />}
      <button
        type="button"
        ref={drag.setNodeRef}
        {...drag.attributes}
        {...drag.listeners}
        aria-label={speak`Move ${words}`}
        className="absolute top-1/2 -left-2.5 grid min-h-6 min-w-4.5 -translate-y-1/2 cursor-grab touch-none place-items-center rounded opacity-0 group-hover/line:opacity-100 focus-visible:opacity-100"
      >
        <GripVertical size={13} aria-hidden className="text-slate-500" />
      </button>
      {children}
    </th>
  );
}
