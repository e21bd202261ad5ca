import type { Reading, SyntaxNode } from '../read';
import type { Comparison, Expression } from '../tree';
import { DATE, NUMBER, TEXT, YES_NO, fits } from '../type';
import { parts, textOf, typed, typedAs } from './typed';

const ordered = [NUMBER, DATE, TEXT];

/** `=`, `<` and their like, `between`, and `in` with a list or an interval. */
export function comparisonNode(node: SyntaxNode, reading: Reading): Expression | null {
  const keyword = node.firstChild?.nextSibling;
  const operands = parts(node).filter((part) => part.name !== 'CompareOp');
  if (keyword?.name === 'between') return betweenNode(node, operands, reading);
  if (keyword?.name === 'in') return inNode(node, operands, reading);
  if (operands[1]?.name === 'SimplePositiveUnaryTest') return (reading.report('double-equals', node), null);
  return compareNode(node, operands, keyword ? textOf(keyword, reading.text) : '', reading);
}

function compareNode(node: SyntaxNode, operands: SyntaxNode[], by: string, reading: Reading): Expression | null {
  const left = typed(operands[0] ?? null, reading);
  const right = typed(operands[1] ?? null, reading);
  if (left === null || right === null) return null;
  if (!isComparison(by)) return (reading.report('expression-unsupported', node, { text: by }), null);
  if (!fits(left.type, right.type) && !fits(right.type, left.type)) return mismatch(right, left, reading);
  const comparable = by === '=' || by === '!=' || [left, right].every(({ type }) => ordered.some((one) => fits(type, one)));
  if (!comparable) return (reading.report('wrong-type', left.span, { given: left.type.t, wanted: 'number or date' }), null);
  return { op: 'compare', by, left, right, type: YES_NO, span: node };
}

function mismatch(given: Expression, wanted: Expression, reading: Reading): null {
  reading.report('wrong-type', given.span, { given: given.type.t, wanted: wanted.type.t });
  return null;
}

function isComparison(by: string): by is Comparison {
  return ['=', '!=', '<', '<=', '>', '>='].includes(by);
}

function betweenNode(node: SyntaxNode, [first, second, third]: SyntaxNode[], reading: Reading): Expression | null {
  const of = typedAs(ordered, first, reading);
  const low = of && typedAs([of.type], second, reading);
  const high = of && typedAs([of.type], third, reading);
  return of && low && high && { op: 'between', of, low, high, type: YES_NO, span: node };
}

function inNode(node: SyntaxNode, [first, tests]: SyntaxNode[], reading: Reading): Expression | null {
  const of = typed(first ?? null, reading);
  if (of === null || tests === undefined) return null;
  const list: Expression[] = [];
  for (const test of tests.name === 'PositiveUnaryTests' ? parts(tests) : [tests]) {
    const inner = parts(test)[0];
    const item = inner?.name === 'List' || inner?.name === 'SimplePositiveUnaryTest' ? null : typedAs([of.type], inner, reading);
    if (item === null) {
      if (inner !== undefined && (inner.name === 'List' || inner.name === 'SimplePositiveUnaryTest')) reading.report('expression-unsupported', inner, { text: textOf(inner, reading.text) });
      return null;
    }
    list.push(item);
  }
  return { op: 'one-of', of, list, type: YES_NO, span: node };
}
