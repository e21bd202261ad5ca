import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  rectIntersection,
  useSensor,
  useSensors,
  type CollisionDetection,
  type KeyboardCoordinateGetter,
} from '@dnd-kit/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { type FormDesign } from '../../core/form/design';
import { linesOf, type Line } from '../../core/form/numbered-lines';
import type { Home } from '../../core/form/change/arrange';
import { AskSection } from './AskSection';
import { placeLines } from './line-edits';
import { useEscapeToLine } from './line-keys';
import { QuestionMargin } from './QuestionMargin';
import { SectionMargin } from './SectionMargin';
import { SeveralMargin } from './SeveralMargin';
import type { Dragged } from './Spots';
import type { FaceProps } from './face-props';
import type { Workbench } from './use-workbench';
import { speak, spoken } from '../../core/wording/speak';

/** A click is no drag. */
const DRAG_AFTER_PX = 5;

const noLines: readonly Line[] = [];

/** The questions as colleagues will meet them; the margin holds the settings of what is in hand. */
export function AskFace({ bench }: FaceProps) {
  const shown = useDeferredValue(bench);
  const lines = useMemo(() => linesOf(shown.design), [shown.design]);
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const announcements = useMemo(() => saidOf(shown.design), [shown.design]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_AFTER_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: nextSpot }),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={underPointer}
      accessibility={{ announcements, screenReaderInstructions: { draggable: HOW() } }}
      onDragStart={({ active }) => setDragged(draggedOf(active.data.current))}
      onDragCancel={() => setDragged(null)}
      onDragEnd={({ active, over }) => {
        setDragged(null);
        const [what, home] = [draggedOf(active.data.current), homeOf(over?.data.current)];
        if (what !== null && home !== null) placeLines(bench, what.ids, home);
      }}
    >
      <div className="sheet-frame">
        <div>
          {bench.design.sections.map((section, i) => (
            <AskSection
              key={section.id}
              bench={bench}
              shown={shown}
              section={section}
              at={i}
              lines={lines.get(section.id) ?? noLines}
            />
          ))}
        </div>
        <Margin bench={bench} />
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged !== null && (
          <span className="inline-block rounded-md border border-lichen bg-white px-3 py-1.5 font-semibold shadow-md">
            {dragged.words}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

function Margin({ bench }: { bench: Workbench }) {
  useEscapeToLine(bench.selected);
  return (
    <aside id="margin" className="margin-pane" aria-label={speak`Settings of what is in hand`}>
      {bench.hand.length > 1 ? (
        <SeveralMargin bench={bench} />
      ) : bench.section !== null ? (
        <SectionMargin bench={bench} section={bench.section} />
      ) : (
        <QuestionMargin bench={bench} />
      )}
    </aside>
  );
}

const HOW = spoken(
  () =>
    speak`Space takes it up; then the arrows move it from place to place, Space puts it down there, and Escape leaves it where it was.`,
);

// What is dragged and where it may be put are written by `Spots.tsx`.
const draggedOf = (data: Record<string, unknown> | undefined): Dragged | null =>
  (data?.['dragged'] as Dragged | undefined) ?? null;
const homeOf = (data: Record<string, unknown> | undefined): Home | null =>
  (data?.['home'] as Home | undefined) ?? null;

const wordsOf = (active: { data: { current?: Record<string, unknown> | undefined } }): string =>
  draggedOf(active.data.current)?.words ?? '';

interface Dragging {
  readonly active: { readonly data: { readonly current?: Record<string, unknown> | undefined } };
  readonly over: { readonly data: { readonly current?: Record<string, unknown> | undefined } } | null;
}

/** Where something may be put, in words: those who hear them see no stroke. */
function placeWords({ sections }: FormDesign, home: Home | null): string {
  const questions = sections.flatMap((section) => section.questions);
  const groups = questions.filter((one) => one.kind === 'rows');
  if (home === null) return speak`here`;
  if (home.before !== null) {
    const before = [...questions, ...groups.flatMap(({ columns }) => columns)].find(
      ({ id }) => id === home.before,
    );
    return speak`before ${before?.label || speak`what is here`}`;
  }
  const holds =
    'group' in home
      ? groups.find(({ id }) => id === home.group)?.label
      : sections.find(({ id }) => id === home.section)?.title;
  return speak`at the end of ${holds || speak`the section`}`;
}

function saidOf(design: FormDesign) {
  const place = ({ over }: Dragging): string => placeWords(design, homeOf(over?.data.current));
  return {
    onDragStart: ({ active }: Pick<Dragging, 'active'>) => speak`${wordsOf(active)} is taken up.`,
    onDragOver: (event: Dragging) =>
      event.over === null
        ? speak`${wordsOf(event.active)} is over no place.`
        : speak`${wordsOf(event.active)} may be put ${place(event)}.`,
    onDragEnd: (event: Dragging) =>
      event.over === null
        ? speak`${wordsOf(event.active)} stays where it was.`
        : speak`${wordsOf(event.active)} is put ${place(event)}.`,
    onDragCancel: ({ active }: Pick<Dragging, 'active'>) => speak`${wordsOf(active)} stays where it was.`,
  };
}

/** The innermost place under the pointer; by keyboard, the one it lies over. */
const underPointer: CollisionDetection = (args) => {
  const under = args.pointerCoordinates === null ? rectIntersection(args) : pointerWithin(args);
  const size = (id: string | number): number => {
    const rect = args.droppableRects.get(id);
    return rect === undefined ? Infinity : rect.width * rect.height;
  };
  return [...under].sort((a, b) => size(a.id) - size(b.id));
};

/** By keyboard from one place to the next one below or above, or beside it among the columns. */
const nextSpot: KeyboardCoordinateGetter = (event, { currentCoordinates, context }) => {
  const forward = event.code === 'ArrowDown' || event.code === 'ArrowRight';
  if (!forward && event.code !== 'ArrowUp' && event.code !== 'ArrowLeft') return undefined;
  event.preventDefault();
  const spots = [...context.droppableRects.values()].sort((a, b) => a.top - b.top || a.left - b.left);
  const isAfter = (top: number, left: number): boolean =>
    top > currentCoordinates.y + 1 || (top > currentCoordinates.y - 1 && left > currentCoordinates.x + 1);
  const isBefore = (top: number, left: number): boolean =>
    top < currentCoordinates.y - 1 || (top < currentCoordinates.y + 1 && left < currentCoordinates.x - 1);
  const next = forward
    ? spots.find(({ top, left }) => isAfter(top, left))
    : [...spots].reverse().find(({ top, left }) => isBefore(top, left));
  return next === undefined ? undefined : { x: next.left, y: next.top };
};
