import { roundsOf } from './path';
import { speak } from '../wording/speak';

/** A step as a drawing of its path shows it. */
export interface DrawnStep {
  readonly id: string;
  readonly label: string;
  readonly beside?: true | undefined;
  /** Whom it asks and how, in words. */
  readonly says: string;
  /** Where it is asked, in words; null where always. */
  readonly where: string | null;
}

export interface DrawnNode {
  readonly id: string;
  readonly t: 'start' | 'end' | 'task' | 'keep' | 'exclusive' | 'parallel';
  readonly name: string;
  readonly says?: string;
  /** The upper left corner, and the size. */
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

export interface DrawnFlow {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly name: string;
  readonly points: readonly (readonly [x: number, y: number])[];
}

export interface Drawing {
  readonly nodes: readonly DrawnNode[];
  readonly flows: readonly DrawnFlow[];
}

/** Widths and heights by kind, and the room between what follows one another and what stands side by side. */
const sizes: Readonly<Record<DrawnNode['t'], readonly [w: number, h: number]>> = {
  start: [36, 36],
  end: [36, 36],
  task: [130, 80],
  keep: [130, 80],
  exclusive: [50, 50],
  parallel: [50, 50],
};
const GAP = 60;
const LANE = 190;

/**
 * The path of a form as it is drawn, from left to right: each step a task, steps that are asked at the same
 * time between two parallel gateways, one with a condition behind an exclusive one. From each, *declined*
 * leads to an end, and *sent back* to whoever sent it, and on to the beginning.
 */
export function drawnPath(steps: readonly DrawnStep[], kept: string): Drawing {
  const pen = new Pen();
  const most = Math.max(1, ...roundsOf(steps).map((round) => round.length));
  const middle = 80 + (most * LANE) / 2;
  const start = pen.node('start', 'start', speak`Sent`, 0, middle);
  const merge = pen.node('begin', 'exclusive', '', pen.right(start), middle);
  pen.flow(start, merge);
  const again =
    steps.length === 0
      ? null
      : pen.node('again', 'task', speak`Sender looks at it again`, 0, middle + (most * LANE) / 2 + 90);
  if (again !== null) pen.flow(again, merge, '', 'below');
  let last = merge;
  for (const round of roundsOf(steps)) last = roundDrawn(pen, round, last, middle, again);
  const keep = pen.node('keep', 'keep', speak`Kept in ${kept}`, pen.right(last), middle);
  pen.flow(last, keep);
  pen.flow(keep, pen.node('end', 'end', speak`Kept`, pen.right(keep), middle));
  return pen.drawing();
}

function roundDrawn(
  pen: Pen,
  round: readonly DrawnStep[],
  before: DrawnNode,
  middle: number,
  again: DrawnNode | null,
): DrawnNode {
  const [only] = round;
  if (only === undefined) return before;
  if (round.length === 1) return stepDrawn(pen, only, before, middle, again);
  const split = pen.node(`${only.id}_split`, 'parallel', '', pen.right(before), middle);
  pen.flow(before, split);
  const ends = round.map((step, i) =>
    stepDrawn(pen, step, split, middle + (i - (round.length - 1) / 2) * LANE, again),
  );
  const join = pen.node(
    `${only.id}_join`,
    'parallel',
    '',
    Math.max(...ends.map((one) => pen.right(one))),
    middle,
  );
  for (const end of ends) pen.flow(end, join);
  return join;
}

/** A step between what it follows and the gateway by which it is left when it is approved. */
function stepDrawn(
  pen: Pen,
  { id, label, says, where }: DrawnStep,
  before: DrawnNode,
  y: number,
  again: DrawnNode | null,
): DrawnNode {
  const asked =
    where === null ? before : pen.node(`${id}_asked`, 'exclusive', speak`Asked?`, pen.right(before), y);
  if (asked !== before) pen.flow(before, asked);
  const task = pen.node(id, 'task', label, pen.right(asked), y, says);
  pen.flow(asked, task, where ?? '');
  const decided = pen.node(`${id}_decided`, 'exclusive', speak`Approved?`, pen.right(task), y);
  pen.flow(task, decided);
  const declined = pen.node(`${id}_declined`, 'end', speak`Declined`, decided.x + 7, y + 75);
  pen.flow(decided, declined, 'declined', 'down');
  if (again !== null) pen.flow(decided, again, speak`sent back`, 'under');
  if (asked === before) return decided;
  const passed = pen.node(`${id}_passed`, 'exclusive', '', pen.right(decided), y);
  pen.flow(decided, passed, 'approved');
  pen.flow(asked, passed, 'else', 'over');
  return passed;
}

/** Draws what follows one another at a height, and lines between. */
class Pen {
  private readonly nodes: DrawnNode[] = [];
  private readonly flows: DrawnFlow[] = [];

  right({ x, w }: DrawnNode): number {
    return x + w + GAP;
  }

  /** `y` is the middle of it. */
  node(id: string, t: DrawnNode['t'], name: string, x: number, y: number, says?: string): DrawnNode {
    const [w, h] = sizes[t];
    const made = { id, t, name, x, y: y - h / 2, w, h, ...(says !== undefined && { says }) };
    this.nodes.push(made);
    return made;
  }

  flow(
    from: DrawnNode,
    to: DrawnNode,
    name = '',
    way: 'straight' | 'down' | 'over' | 'under' | 'below' = 'straight',
  ): void {
    this.flows.push({
      id: `${from.id}_to_${to.id}`,
      from: from.id,
      to: to.id,
      name,
      points: line(from, to, way),
    });
  }

  drawing = (): Drawing => ({ nodes: this.nodes, flows: this.flows });
}

function line(from: DrawnNode, to: DrawnNode, way: string): [number, number][] {
  const [out, into] = [from.x + from.w / 2, to.x + to.w / 2];
  const [high, low] = [from.y + from.h / 2, to.y + to.h / 2];
  switch (way) {
    case 'down':
      return [
        [out, from.y + from.h],
        [out, to.y],
      ];
    case 'over':
      return [
        [out, from.y],
        [out, from.y - 35],
        [into, from.y - 35],
        [into, to.y],
      ];
    case 'under':
      return [
        [from.x + from.w, high],
        [from.x + from.w + GAP / 2, high],
        [from.x + from.w + GAP / 2, low],
        [to.x + to.w, low],
      ];
    case 'below':
      return [
        [into, from.y],
        [into, to.y + to.h],
      ];
    default: {
      // Right before what it leads to: lines that leave the path turn right behind what they come from.
      const turn = to.x - GAP / 2;
      const straight: [number, number][] = [
        [from.x + from.w, high],
        [to.x, low],
      ];
      return high === low
        ? straight
        : [
            [from.x + from.w, high],
            [turn, high],
            [turn, low],
            [to.x, low],
          ];
    }
  }
}
