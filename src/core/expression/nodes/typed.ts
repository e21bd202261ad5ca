import Big from 'big.js';
import { plainDate } from '../plain-date';
import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { DATE, EMPTY, NUMBER, TEXT, YES_NO, fits, listOf, type Type } from '../type';
import { callNode } from './call';
import { comparisonNode } from './comparison';
import { nameNode, pathNode } from './names';

type Rule = (node: SyntaxNode, reading: Reading) => Expression | null;

/** One typing rule per kind of syntax node; a kind that is not here is refused by name. */
const rules: Readonly<Record<string, Rule>> = {
  NumericLiteral: (node, { text }) => literal(node, new Big(textOf(node, text)), NUMBER),
  StringLiteral: (node, reading) => stringNode(node, reading),
  BooleanLiteral: (node, { text }) => literal(node, textOf(node, text) === 'true', YES_NO),
  null: (node) => literal(node, null, EMPTY),
  DateTimeLiteral: dateNode,
  VariableName: nameNode,
  PathExpression: pathNode,
  ArithmeticExpression: arithmeticNode,
  Comparison: comparisonNode,
  Conjunction: (node, reading) => logicNode('and', node, reading),
  Disjunction: (node, reading) => logicNode('or', node, reading),
  IfExpression: ifNode,
  FunctionInvocation: callNode,
  ParenthesizedExpression: (node, reading) => typed(parts(node)[0] ?? null, reading),
  List: listNode,
};

/** Types one node and all below it; null when something in it was reported. */
export function typed(node: SyntaxNode | null, reading: Reading): Expression | null {
  if (node === null) return null;
  if (node.type.isError) return (reading.report('expression-broken', node), null);
  const broken = brokenChild(node);
  if (broken !== null) return (reading.report('expression-broken', broken), null);
  const rule = rules[node.name];
  if (rule === undefined) return (reading.report('expression-unsupported', node, { text: textOf(node, reading.text) }), null);
  return rule(node, reading);
}

export const textOf = (node: SyntaxNode, text: string): string => text.slice(node.from, node.to);

/** The children that carry meaning: no punctuation and no keywords, which the grammar names in lower case. */
export function parts(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child !== null; child = child.nextSibling) {
    if (/^[A-Z]/.test(child.name) || child.name === 'null' || child.type.isError) found.push(child);
  }
  return found;
}

function brokenChild(node: SyntaxNode): SyntaxNode | null {
  for (let child = node.firstChild; child !== null; child = child.nextSibling) if (child.type.isError) return child;
  return null;
}

/** Types `node` and reports it unless it is of one of the wanted types. */
export function typedAs(wanted: readonly Type[], node: SyntaxNode | undefined, reading: Reading): Expression | null {
  const tree = typed(node ?? null, reading);
  if (tree === null || wanted.some((type) => fits(tree.type, type))) return tree;
  reading.report('wrong-type', tree.span, { given: tree.type.t, wanted: wanted.map((type) => type.t).join(' or ') });
  return null;
}

function literal(node: SyntaxNode, value: Big | string | boolean | null, type: Type): Expression {
  return { op: 'literal', value, type, span: node };
}

/** FEEL's string escapes are JSON's, and `\U` with six digits for a code point. */
function stringNode(node: SyntaxNode, reading: Reading): Expression | null {
  const inner = textOf(node, reading.text).slice(1, -1);
  const value = inner.replace(/\\(u[0-9a-fA-F]{4}|U[0-9a-fA-F]{6}|.)/gs, (whole, code: string) => unescaped(whole, code));
  return literal(node, value, TEXT);
}

const escapes: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r', '"': '"', '\\': '\\', "'": "'" };

function unescaped(whole: string, code: string): string {
  if (code.length === 1) return escapes[code] ?? whole;
  const point = parseInt(code.slice(1), 16);
  return point <= 0x10ffff ? String.fromCodePoint(point) : whole;
}

function dateNode(node: SyntaxNode, reading: Reading): Expression | null {
  const match = /^date\s*\(\s*"([^"]*)"\s*\)$/.exec(textOf(node, reading.text));
  if (match === null) return (reading.report('expression-unsupported', node, { text: textOf(node, reading.text) }), null);
  const date = plainDate(match[1] ?? '');
  if (date === null) return (reading.report('not-a-date', node), null);
  return literal(node, date, DATE);
}

function arithmeticNode(node: SyntaxNode, reading: Reading): Expression | null {
  const sign = node.getChild('ArithOp');
  const operands = parts(node).filter((part) => part.name !== 'ArithOp');
  const signText = sign === null ? '' : textOf(sign, reading.text);
  if (operands.length === 1) return negation(signText, operands[0], node, reading);
  const left = typedAs([NUMBER], operands[0], reading);
  const right = typedAs([NUMBER], operands[1], reading);
  if (left === null || right === null) return null;
  if (signText !== '+' && signText !== '-' && signText !== '*' && signText !== '/') {
    return (reading.report('expression-unsupported', node, { text: signText }), null);
  }
  return { op: 'arithmetic', sign: signText, left, right, type: NUMBER, span: node };
}

function negation(sign: string, operand: SyntaxNode | undefined, node: SyntaxNode, reading: Reading): Expression | null {
  const of = typedAs([NUMBER], operand, reading);
  if (of === null || sign === '-') return of && { op: 'negate', of, type: NUMBER, span: node };
  return (reading.report('expression-broken', node), null);
}

function logicNode(op: 'and' | 'or', node: SyntaxNode, reading: Reading): Expression | null {
  const [first, second] = parts(node);
  const left = typedAs([YES_NO], first, reading);
  const right = typedAs([YES_NO], second, reading);
  return left && right && { op, left, right, type: YES_NO, span: node };
}

function ifNode(node: SyntaxNode, reading: Reading): Expression | null {
  const [first, second, third] = parts(node);
  const when = typedAs([YES_NO], first, reading);
  const then = typed(second ?? null, reading);
  const otherwise = then && typedAs([then.type.t === 'null' ? NUMBER : then.type, EMPTY], third, reading);
  return when && then && otherwise && { op: 'if', when, then, otherwise, type: then.type.t === 'null' ? otherwise.type : then.type, span: node };
}

function listNode(node: SyntaxNode, reading: Reading): Expression | null {
  const items = parts(node).map((part) => typed(part, reading));
  if (!items.every((item) => item !== null)) return null;
  const of = items.find((item) => item.type.t !== 'null')?.type ?? EMPTY;
  for (const item of items) if (!fits(item.type, of)) return (reading.report('wrong-type', item.span, { given: item.type.t, wanted: of.t }), null);
  return { op: 'list', items, type: listOf(of), span: node };
}
