import { DEEPEST_EXPRESSION, type Reading, type SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { YES_NO, elementOf, fits, together, typeName, type Type } from '../type';
import { arithmeticNode } from './arithmetic';
import { callNode } from './call';
import { comparisonNode } from './comparison';
import { instanceNode } from './instance';
import { contextNode, filterNode, listNode, rangeNode } from './lists';
import { booleanNode, momentNode, nullNode, numberNode, textNode } from './literals';
import { logicNode } from './logic';
import { forNode, quantifiedNode } from './loops';
import { nameNode, pathNode } from './names';

type Rule = (node: SyntaxNode, reading: Reading) => Expression | null;

/** One typing rule per kind of syntax node; a kind that is not here is refused by name. */
const rules: Readonly<Record<string, Rule>> = {
  NumericLiteral: numberNode,
  StringLiteral: textNode,
  BooleanLiteral: booleanNode,
  null: nullNode,
  DateTimeLiteral: momentNode,
  VariableName: nameNode,
  PathExpression: pathNode,
  ArithmeticExpression: arithmeticNode,
  Comparison: comparisonNode,
  Conjunction: logicNode,
  Disjunction: logicNode,
  IfExpression: ifNode,
  FunctionInvocation: callNode,
  ParenthesizedExpression: (node, reading) => typed(parts(node)[0] ?? null, reading),
  List: listNode,
  Context: contextNode,
  SimplePositiveUnaryTest: rangeNode,
  FilterExpression: filterNode,
  ForExpression: forNode,
  QuantifiedExpression: quantifiedNode,
  InstanceOfExpression: instanceNode,
};

/** Types one node and all below it; null when something in it was reported. */
export function typed(node: SyntaxNode | null, reading: Reading): Expression | null {
  if (node === null) return null;
  if (node.type.isError) return (reading.report('expression-broken', node), null);
  const broken = brokenChild(node);
  if (broken !== null) return (reading.report('expression-broken', broken), null);
  const rule = rules[node.name];
  if (rule === undefined)
    return (reading.report('expression-unsupported', node, { text: textOf(node, reading.text) }), null);
  if (reading.depth >= DEEPEST_EXPRESSION)
    return (reading.report('expression-too-deep', node, { most: DEEPEST_EXPRESSION }), null);
  return rule(node, { ...reading, depth: reading.depth + 1 });
}

export const textOf = (node: SyntaxNode, text: string): string => text.slice(node.from, node.to);

/** The children that carry meaning: no punctuation, no comments, and no keywords, which the grammar names in lower case. */
export function parts(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child !== null; child = child.nextSibling) {
    if (
      (/^[A-Z]/.test(child.name) && !/Comment$/.test(child.name)) ||
      child.name === 'null' ||
      child.type.isError
    )
      found.push(child);
  }
  return found;
}

export function brokenChild(node: SyntaxNode): SyntaxNode | null {
  for (let child = node.firstChild; child !== null; child = child.nextSibling)
    if (child.type.isError) return child;
  return null;
}

/** Types `node` and reports it unless it is of one of the wanted types. */
export function typedAs(
  wanted: readonly Type[],
  node: SyntaxNode | undefined,
  reading: Reading,
): Expression | null {
  const tree = typed(node ?? null, reading);
  if (tree === null || wanted.some((type) => fits(tree.type, type))) return tree;
  return mismatch(tree, wanted, reading);
}

/** A list where one of its members is wanted is a slip of its own: the sentence says how to take one, or add them up. */
export function mismatch(given: Expression, wanted: readonly Type[], reading: Reading): null {
  const element = elementOf(given.type);
  const facts = { given: typeName(given.type), wanted: [...new Set(wanted.map(typeName))].join(' or ') };
  reading.report(
    element !== null && wanted.some((type) => fits(element, type)) ? 'list-where-one' : 'wrong-type',
    given.span,
    facts,
  );
  return null;
}

export const spanOf = ({ from, to }: SyntaxNode): { from: number; to: number } => ({ from, to });

function ifNode(node: SyntaxNode, reading: Reading): Expression | null {
  const [first, second, third] = parts(node);
  const when = typed(first ?? null, reading);
  const then = typed(second ?? null, reading);
  const otherwise = typed(third ?? null, reading);
  if (when === null || then === null || otherwise === null) return null;
  if (!fits(when.type, YES_NO))
    return (reading.report('not-a-condition', when.span, { given: typeName(when.type) }), null);
  const type = together([then.type, otherwise.type]);
  return type === null
    ? mismatch(otherwise, [then.type], reading)
    : { op: 'if', when, then, otherwise, type, span: spanOf(node) };
}
