import { MEMBERS_A_STEP } from './step';
import { children, type Expression, type Iteration } from './tree';

/** Rows that a repeating group may have at most, by its id. */
export type MostRows = (group: string) => number;

/**
 * The steps an expression takes at worst, as far as its text and the limits of its rows tell: ranges between
 * written numbers, written lists and rows are known; what comes out of an answer or a text is not, and counts
 * as one. Infinity where a range has no bound worth writing.
 */
export function worstSteps(tree: Expression, rows: MostRows): number {
  switch (tree.op) {
    case 'for':
    case 'some':
    case 'every':
      return inLoops(tree.over, tree.body, rows);
    case 'filter':
      return worstSteps(tree.of, rows) + sizeOf(tree.of, rows) * (1 + worstSteps(tree.where, rows));
    case 'each':
      return worstSteps(tree.of, rows) + sizeOf(tree.of, rows) / MEMBERS_A_STEP;
    case 'call':
      return tree.args.reduce(
        (sum, arg) => sum + worstSteps(arg, rows) + sizeOf(arg, rows) / MEMBERS_A_STEP,
        1,
      );
    default:
      return children(tree).reduce((sum, one) => sum + worstSteps(one, rows), 1);
  }
}

/** Each further loop runs once for every turn of those before it. */
function inLoops(over: readonly Iteration[], body: Expression, rows: MostRows): number {
  const [first, ...rest] = over;
  if (first === undefined) return worstSteps(body, rows);
  return worstSteps(first.in, rows) + sizeOf(first.in, rows) * (1 + inLoops(rest, body, rows));
}

/** How many members a list has at worst; 1 for what is no list, or one whose length nothing tells. */
function sizeOf(tree: Expression, rows: MostRows): number {
  switch (tree.op) {
    case 'series':
      return seriesSize(tree.low, tree.high);
    case 'list':
      return tree.items.length;
    case 'column':
      return rows(tree.group);
    case 'name':
      return tree.type.t === 'rows' ? rows(tree.id) : 1;
    case 'filter':
    case 'each':
      return sizeOf(tree.of, rows);
    case 'for':
      return tree.over.reduce((product, one) => product * sizeOf(one.in, rows), 1);
    default:
      return 1;
  }
}

function seriesSize(low: Expression, high: Expression): number {
  const [from, to] = [written(low), written(high)];
  return from === null || to === null ? 1 : Math.abs(to - from) + 1;
}

/** A number as it is written, with a minus before it or not. */
function written(tree: Expression): number | null {
  if (tree.op === 'negate') {
    const of = written(tree.of);
    return of === null ? null : -of;
  }
  return tree.op === 'literal' && tree.type.t === 'number' ? Number(String(tree.value)) : null;
}
