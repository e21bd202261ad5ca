import Big from 'big.js';
import type { Reading, SyntaxNode } from '../read';
import type { Expression, Sign } from '../tree';
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, TEXT, TIME, type ScalarName, type Type } from '../type';
import { isBig } from '../value';
import { mismatch, parts, spanOf, textOf, typed, typedAs } from './typed';

type Way = readonly [left: Type, right: Type, gives: Type];
const [shift, same] = [
  (moment: Type, ...by: Type[]): Way[] => by.map((duration): Way => [moment, duration, moment]),
  (type: Type): Way => [type, type, type],
];

/** Every pair of types a sign takes, and what comes of it. Whatever is not here is refused when the rule is written. */
const ways: Readonly<Record<Sign, readonly Way[]>> = {
  '+': [
    same(NUMBER),
    same(TEXT),
    ...shift(DATE, DAYS, MONTHS),
    ...shift(DATE_TIME, DAYS, MONTHS),
    ...shift(TIME, DAYS),
    same(DAYS),
    same(MONTHS),
    [DAYS, DATE, DATE],
    [MONTHS, DATE, DATE],
    [DAYS, DATE_TIME, DATE_TIME],
    [MONTHS, DATE_TIME, DATE_TIME],
    [DAYS, TIME, TIME],
  ],
  '-': [
    same(NUMBER),
    [DATE, DATE, DAYS],
    [DATE_TIME, DATE_TIME, DAYS],
    [TIME, TIME, DAYS],
    ...shift(DATE, DAYS, MONTHS),
    ...shift(DATE_TIME, DAYS, MONTHS),
    ...shift(TIME, DAYS),
    same(DAYS),
    same(MONTHS),
  ],
  '*': [
    same(NUMBER),
    [DAYS, NUMBER, DAYS],
    [NUMBER, DAYS, DAYS],
    [MONTHS, NUMBER, MONTHS],
    [NUMBER, MONTHS, MONTHS],
  ],
  '/': [
    same(NUMBER),
    [DAYS, NUMBER, DAYS],
    [MONTHS, NUMBER, MONTHS],
    [DAYS, DAYS, NUMBER],
    [MONTHS, MONTHS, NUMBER],
  ],
  '**': [same(NUMBER)],
};

export function arithmeticNode(node: SyntaxNode, reading: Reading): Expression | null {
  const sign = node.getChild('ArithOp');
  const operands = parts(node).filter((part) => part.name !== 'ArithOp');
  const signText = sign === null ? '' : textOf(sign, reading.text);
  if (operands.length === 1) return negation(signText, operands[0], node, reading);
  const left = typed(operands[0] ?? null, reading);
  const right = typed(operands[1] ?? null, reading);
  if (left === null || right === null) return null;
  if (!isSign(signText)) return (reading.report('expression-unsupported', node, { text: signText }), null);
  const type = resultOf(signText, left.type, right.type);
  return type === null
    ? refused(signText, left, right, reading)
    : { op: 'arithmetic', sign: signText, left, right, type, span: spanOf(node) };
}

const isSign = (text: string): text is Sign => text in ways;

/** An empty literal takes whatever type the other side wants. */
function resultOf(sign: Sign, left: Type, right: Type): Type | null {
  const suits = (given: Type, wanted: Type) => given.t === 'null' || given.t === wanted.t;
  return ways[sign].find(([l, r]) => suits(left, l) && suits(right, r))?.[2] ?? null;
}

/** The side that is wrong is the one for which the other leaves no way; when neither can take part, the left. */
function refused(sign: Sign, left: Expression, right: Expression, reading: Reading): null {
  const beside = ways[sign].filter(([l]) => l.t === left.type.t).map(([, r]) => r);
  return beside.length > 0
    ? mismatch(right, beside, reading)
    : mismatch(
        left,
        ways[sign]
          .filter(([, r]) => r.t === right.type.t)
          .map(([l]) => l)
          .concat(NUMBER)
          .slice(0, 1),
        reading,
      );
}

const negatable: readonly Type[] = [NUMBER, DAYS, MONTHS];

function negation(
  sign: string,
  operand: SyntaxNode | undefined,
  node: SyntaxNode,
  reading: Reading,
): Expression | null {
  if (sign !== '-') return (reading.report('expression-broken', node), null);
  const of = typedAs(negatable, operand, reading);
  if (of === null) return null;
  // -5 is a number, whether the grammar takes its sign for its own or not.
  if (of.op === 'literal' && isBig(of.value))
    return { ...of, value: of.value.eq(0) ? new Big(0) : of.value.neg(), span: spanOf(node) };
  return { op: 'negate', of, type: of.type.t === 'null' ? NUMBER : of.type, span: spanOf(node) };
}

/** For those who make trees at random: the ways of a sign by the names of their types. */
export const arithmeticWays = (
  sign: Sign,
): readonly { left: ScalarName; right: ScalarName; gives: ScalarName }[] =>
  ways[sign].map(([left, right, gives]) => ({
    left: left.t as ScalarName,
    right: right.t as ScalarName,
    gives: gives.t as ScalarName,
  }));
