import { compile } from './compile';
import type { Source } from './step';
import { children, nodesOf, type Expression } from './tree';
import type { Value } from './value';

/** A piece of an expression that stands for itself, and what it is worth. The whole has depth 0. */
export interface Part {
  readonly text: string;
  readonly depth: number;
  readonly value: Value;
}

/** More is not read by anybody; what stands deepest is left out first. */
const MOST_PARTS = 14;

/**
 * What each piece of an expression is worth, the whole first and each with its pieces after it. Numbers and words that stand as they are
 * are left out, so is what has a value only while a list is gone through, and the branch of an `if` that was not taken.
 * `text` is what the tree was read from.
 */
export function partsOf(tree: Expression, text: string, from: Source): Part[] {
  const seen = new Set<string>();
  const found: Part[] = [];
  const visit = (node: Expression, depth: number): void => {
    const own = text.slice(node.span.from, node.span.to);
    const shown = node.op !== 'literal' && !readsPassing(node) && !seen.has(own);
    if (shown) {
      seen.add(own);
      found.push({ text: own, depth, value: compile(node)(from) });
    }
    for (const child of piecesOf(node, from)) visit(child, shown ? depth + 1 : depth);
  };
  visit(tree, 0);
  return fewest(found);
}

function piecesOf(node: Expression, from: Source): readonly Expression[] {
  // `bed.area` is one name to whoever wrote it.
  if (node.op === 'field' || node.op === 'each') return isPath(node.of) ? [] : [node.of];
  if (node.op === 'if') return [node.when, compile(node.when)(from) === true ? node.then : node.otherwise];
  return children(node);
}

function isPath(node: Expression): boolean {
  if (node.op === 'field' || node.op === 'each') return isPath(node.of);
  return node.op === 'name' || node.op === 'column';
}

/** Whether it reads a name that lives only in a piece around it. */
function readsPassing(node: Expression): boolean {
  const nodes = [...nodesOf(node)];
  const own = new Set(nodes.flatMap(slotsOf));
  return nodes.some((one) => one.op === 'local' && !own.has(one.slot));
}

function slotsOf(node: Expression): readonly number[] {
  switch (node.op) {
    case 'filter':
      return [node.item.slot];
    case 'for':
      return [...node.over.map(({ slot }) => slot), ...(node.partial === null ? [] : [node.partial.slot])];
    case 'some':
    case 'every':
      return node.over.map(({ slot }) => slot);
    case 'context':
      return node.entries.map(({ slot }) => slot);
    default:
      return [];
  }
}

function fewest(parts: readonly Part[]): Part[] {
  let deepest = Math.max(...parts.map(({ depth }) => depth), 0);
  let kept = [...parts];
  while (kept.length > MOST_PARTS && deepest > 1) kept = kept.filter(({ depth }) => depth < deepest--);
  return kept.slice(0, MOST_PARTS);
}
