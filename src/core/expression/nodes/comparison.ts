import type { Reading, SyntaxNode } from '../read';
import type { Comparison, Expression, Test } from '../tree';
import {
  DATE,
  DATE_TIME,
  DAYS,
  MONTHS,
  NUMBER,
  TEXT,
  TIME,
  YES_NO,
  elementOf,
  fits,
  type Type,
} from '../type';
import { logicNode } from './logic';
import { brokenChild, mismatch, parts, spanOf, textOf, typed, typedAs } from './typed';

/** The types that have a before and an after. */
export const orderedTypes: readonly Type[] = [NUMBER, DATE, TEXT, TIME, DATE_TIME, DAYS, MONTHS];

/** `=`, `<` and their like, `between`, and `in` with values, comparisons, ranges and lists. */
export function comparisonNode(node: SyntaxNode, reading: Reading): Expression | null {
  const keyword = keywordOf(node);
  const operands = parts(node).filter((part) => part.name !== 'CompareOp');
  if (keyword?.name === 'between') return betweenNode(node, operands, reading);
  if (keyword?.name === 'in') return inNode(node, operands, reading);
  return compareNode(node, operands, keyword === null ? '' : textOf(keyword, reading.text), reading);
}

const keywordOf = (node: SyntaxNode): SyntaxNode | null =>
  node.getChild('between') ?? node.getChild('in') ?? node.getChild('CompareOp');

function compareNode(
  node: SyntaxNode,
  operands: SyntaxNode[],
  by: string,
  reading: Reading,
): Expression | null {
  const left = typed(operands[0] ?? null, reading);
  const right = typed(operands[1] ?? null, reading);
  if (left === null || right === null) return null;
  if (!isComparison(by)) return (reading.report('expression-unsupported', node, { text: by }), null);
  return comparable(by, left, right, reading)
    ? { op: 'compare', by, left, right, type: YES_NO, span: spanOf(node) }
    : null;
}

function comparable(by: Comparison, left: Expression, right: Expression, reading: Reading): boolean {
  if (!fits(left.type, right.type) && !fits(right.type, left.type)) {
    const leftIsList = elementOf(left.type) !== null && elementOf(right.type) === null;
    return (
      leftIsList ? mismatch(left, [right.type], reading) : mismatch(right, [left.type], reading),
      false
    );
  }
  if (by === '=' || by === '!=') return true;
  const odd = [left, right].find(({ type }) => !orderedTypes.some((one) => fits(type, one)));
  return odd === undefined || (mismatch(odd, [NUMBER, DATE], reading), false);
}

const isComparison = (by: string): by is Comparison => ['=', '!=', '<', '<=', '>', '>='].includes(by);

function betweenNode(
  node: SyntaxNode,
  [first, second, third]: SyntaxNode[],
  reading: Reading,
): Expression | null {
  const of = typedAs(orderedTypes, first, reading);
  const low = of && typedAs(of.type.t === 'null' ? orderedTypes : [of.type], second, reading);
  const high = of && low && typedAs([low.type.t === 'null' ? of.type : low.type], third, reading);
  return of && low && high && { op: 'between', of, low, high, type: YES_NO, span: spanOf(node) };
}

function inNode(node: SyntaxNode, [first, after]: SyntaxNode[], reading: Reading): Expression | null {
  const of = typed(first ?? null, reading);
  if (of === null || after === undefined) return null;
  if (joinedTest(node) !== null) return logicNode(node, reading);
  const nodes = after.name === 'PositiveUnaryTests' ? parts(after) : [after];
  const tests = nodes.map((test) => testNode(parts(test)[0], of, reading));
  return tests.every((test) => test !== null)
    ? { op: 'in', of, tests, type: YES_NO, span: spanOf(node) }
    : null;
}

/**
 * The grammar takes all of `[1..5] and b` for what stands after `in`; by the standard the test ends before the `and`.
 * Gives the join that was swallowed, or null when none was.
 */
export function joinedTest(node: SyntaxNode): SyntaxNode | null {
  const test =
    node.name === 'Comparison' && node.getChild('in') !== null ? node.getChild('PositiveUnaryTest') : null;
  const [only] = test === null ? [] : parts(test);
  return only !== undefined && isJoin(only) ? only : null;
}

export const isJoin = (node: SyntaxNode): boolean =>
  node.name === 'Conjunction' || node.name === 'Disjunction';

/** The comparison with the one test that is its own. */
export function inWith(node: SyntaxNode, test: SyntaxNode, reading: Reading): Expression | null {
  const of = typed(parts(node)[0] ?? null, reading);
  const own = of && testNode(test, of, reading);
  return of && own && { op: 'in', of, tests: [own], type: YES_NO, span: { from: node.from, to: test.to } };
}

/**
 * Unary tests as a condition on what they are asked of. A test that is a condition itself, as `? > 5 and ? <
 * 7` is, holds where it is true.
 */
export function unaryTests(node: SyntaxNode, of: Expression, reading: Reading): Expression | null {
  const broken = brokenChild(node);
  if (broken !== null) return (reading.report('expression-broken', broken), null);
  const list = node.getChild('PositiveUnaryTests');
  const tests = (list === null ? [] : parts(list)).map((one) => conditionOf(one, of, reading));
  const [first, ...rest] = tests;
  if (first === undefined || tests.includes(null)) return null;
  const span = spanOf(node);
  const any = rest.reduce((all, one) => all && one && eitherOf(all, one), first);
  return any !== null && node.getChild('not') !== null
    ? { op: 'call', name: 'not', args: [any], type: YES_NO, span }
    : any;
}

const eitherOf = (left: Expression, right: Expression): Expression =>
  left.op === 'in' && right.op === 'in'
    ? { ...left, tests: [...left.tests, ...right.tests], span: { ...left.span, to: right.span.to } }
    : { op: 'or', left, right, type: YES_NO, span: { ...left.span, to: right.span.to } };

function conditionOf(node: SyntaxNode, of: Expression, reading: Reading): Expression | null {
  const broken = brokenChild(node);
  if (broken !== null) return (reading.report('expression-broken', broken), null);
  const [inner] = parts(node);
  const own = inner !== undefined && asCondition.has(inner.name) && of.type.t !== 'yes-no' ? inner : null;
  if (own !== null) {
    const tree = typed(own, reading);
    if (tree === null || fits(tree.type, YES_NO)) return tree;
  }
  const test = testNode(inner, of, reading);
  return test && { op: 'in', of, tests: [test], type: YES_NO, span: spanOf(node) };
}

/** What may be a condition by itself instead of a value to equal. */
const asCondition: ReadonlySet<string> = new Set([
  'Comparison',
  'Conjunction',
  'Disjunction',
  'FunctionInvocation',
  'QuantifiedExpression',
  'InstanceOfExpression',
]);

function testNode(node: SyntaxNode | undefined, of: Expression, reading: Reading): Test | null {
  if (node === undefined) return null;
  const by = node.name === 'SimplePositiveUnaryTest' ? node.getChild('CompareOp') : null;
  if (by !== null) {
    const text = textOf(by, reading.text);
    const value = typed(parts(node).find((part) => part.name !== 'CompareOp') ?? null, reading);
    return value !== null && isComparison(text) && comparable(text, of, value, reading)
      ? { t: 'compare', by: text, value }
      : null;
  }
  const value = typed(node, reading);
  if (value === null) return null;
  if (value.type.t === 'range')
    return fits(of.type, value.type.of) ? { t: 'within', value } : mismatch(of, [value.type.of], reading);
  const element = elementOf(value.type);
  if (element !== null && elementOf(of.type) === null)
    return fits(of.type, element) || fits(element, of.type)
      ? { t: 'member', value }
      : mismatch(of, [element], reading);
  return fits(value.type, of.type) || fits(of.type, value.type)
    ? { t: 'is', value }
    : mismatch(value, [of.type], reading);
}
