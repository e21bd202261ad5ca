import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { YES_NO, fits } from '../type';
import { inWith, isJoin, joinedTest } from './comparison';
import { mismatch, parts, typed } from './typed';

/** What stands between the `and`s and `or`s, as it is written from left to right. */
interface Chain {
  readonly operands: readonly (() => Expression | null)[];
  readonly signs: readonly ('and' | 'or')[];
}

/**
 * `and` binds tighter than `or`. The chain is taken apart and put together again by that rule, because the grammar lets a test after `in`
 * swallow what follows it, and so loses the order.
 */
export function logicNode(node: SyntaxNode, reading: Reading): Expression | null {
  const { operands, signs } = chainOf(node, reading);
  const sides = operands.map((operand) => yesNo(operand(), reading));
  if (!sides.every((side) => side !== null)) return null;
  const groups: Expression[][] = [[]];
  sides.forEach((side, i) => {
    if (i > 0 && signs[i - 1] === 'or') groups.push([]);
    groups.at(-1)?.push(side);
  });
  return joined(
    'or',
    groups.map((group) => joined('and', group)),
  );
}

function yesNo(tree: Expression | null, reading: Reading): Expression | null {
  return tree === null || fits(tree.type, YES_NO) ? tree : mismatch(tree, [YES_NO], reading);
}

const joined = (op: 'and' | 'or', sides: readonly Expression[]): Expression =>
  sides.reduce((left, right) => ({
    op,
    left,
    right,
    type: YES_NO,
    span: { from: left.span.from, to: right.span.to },
  }));

function chainOf(node: SyntaxNode, reading: Reading): Chain {
  if (isJoin(node)) {
    const [first, second] = parts(node);
    return append(node, first === undefined ? none : chainOf(first, reading), second, reading);
  }
  const swallowed = joinedTest(node);
  return swallowed === null
    ? { operands: [() => typed(node, reading)], signs: [] }
    : testChain(node, swallowed, reading);
}

const none: Chain = { operands: [() => null], signs: [] };

function append(join: SyntaxNode, left: Chain, second: SyntaxNode | undefined, reading: Reading): Chain {
  const right = second === undefined ? none : chainOf(second, reading);
  return {
    operands: [...left.operands, ...right.operands],
    signs: [...left.signs, join.name === 'Conjunction' ? 'and' : 'or', ...right.signs],
  };
}

/** The innermost left of what was swallowed is the test; the rest follows in its order. */
function testChain(comparison: SyntaxNode, node: SyntaxNode, reading: Reading): Chain {
  if (!isJoin(node)) return { operands: [() => inWith(comparison, node, reading)], signs: [] };
  const [first, second] = parts(node);
  return append(node, first === undefined ? none : testChain(comparison, first, reading), second, reading);
}
