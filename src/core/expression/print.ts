import { durationText } from './duration';
import { numberText } from './number';
import { quotedText } from './nodes/literals';
import { Duration } from './duration';
import type { Expression, Iteration, OfOp, Test } from './tree';
import { isBig } from './value';
import { typeText } from './type-text';

/** How tightly each form binds, loosest first; a piece that binds looser than its place is put in brackets. */
const strengths: Readonly<Record<Expression['op'], number>> = {
  for: 0,
  if: 0,
  some: 0,
  every: 0,
  or: 1,
  and: 2,
  compare: 3,
  between: 3,
  in: 3,
  arithmetic: 4,
  negate: 7,
  instance: 8,
  literal: 9,
  name: 9,
  local: 9,
  field: 9,
  each: 9,
  column: 9,
  part: 9,
  list: 9,
  context: 9,
  range: 9,
  series: 9,
  index: 9,
  filter: 9,
  call: 9,
};
const signStrengths = { '+': 4, '-': 4, '*': 5, '/': 5, '**': 6 } as const;

const strengthOf = (tree: Expression): number =>
  tree.op === 'arithmetic'
    ? signStrengths[tree.sign]
    : tree.op === 'literal' && isBig(tree.value) && tree.value.lt(0)
      ? 7
      : strengths[tree.op];
const at = (least: number, tree: Expression): string =>
  strengthOf(tree) < least ? `(${print(tree)})` : print(tree);

/** The expression as FEEL text with the names it was read with, brackets only where they are needed. Reading it gives the same tree. */
export function print(tree: Expression): string {
  switch (tree.op) {
    case 'literal':
      return literalText(tree);
    case 'name':
    case 'local':
      return tree.name;
    case 'column':
      return `${tree.groupName}.${tree.name}`;
    case 'field':
    case 'each':
      return `${at(9, tree.of)}.${tree.name}`;
    case 'part':
      return `${at(9, tree.of)}.${tree.part}`;
    case 'negate':
      return `-${at(8, tree.of)}`;
    case 'arithmetic':
      return arithmeticText(tree);
    case 'compare':
      return `${at(4, tree.left)} ${tree.by} ${at(4, tree.right)}`;
    case 'between':
      return `${at(4, tree.of)} between ${at(4, tree.low)} and ${at(4, tree.high)}`;
    case 'in':
      return `${at(4, tree.of)} in ${testsText(tree.tests)}`;
    case 'and':
      return `${at(2, tree.left)} and ${at(3, tree.right)}`;
    case 'or':
      return `${at(1, tree.left)} or ${at(2, tree.right)}`;
    case 'if':
      return `if ${print(tree.when)} then ${print(tree.then)} else ${print(tree.otherwise)}`;
    case 'instance':
      return `${at(9, tree.of)} instance of ${typeText(tree.wanted)}`;
    case 'call':
      return `${tree.name}(${tree.args.map(print).join(', ')})`;
    default:
      return structureText(tree);
  }
}

function structureText(
  tree: OfOp<'list' | 'context' | 'range' | 'series' | 'index' | 'filter' | 'for' | 'some' | 'every'>,
): string {
  switch (tree.op) {
    case 'list':
      return `[${tree.items.map(print).join(', ')}]`;
    case 'context':
      return `{${tree.entries.map(({ name, value }) => `${/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name) ? name : quotedText(name)}: ${print(value)}`).join(', ')}}`;
    case 'range':
      return `${tree.lowIn ? '[' : '('}${at(4, tree.low)}..${at(4, tree.high)}${tree.highIn ? ']' : ')'}`;
    case 'series':
      return `${at(4, tree.low)}..${at(4, tree.high)}`;
    case 'index':
      return `${at(9, tree.of)}[${print(tree.at)}]`;
    case 'filter':
      return `${at(9, tree.of)}[${print(tree.where)}]`;
    case 'for':
      return `for ${loopsText(tree.over)} return ${print(tree.body)}`;
    case 'some':
    case 'every':
      return `${tree.op} ${loopsText(tree.over)} satisfies ${print(tree.body)}`;
  }
}

const loopsText = (over: readonly Iteration[]): string =>
  over.map((one) => `${one.name} in ${print(one.in)}`).join(', ');

/** Equal signs bind to the left, so the right side wants one more. */
function arithmeticText({ sign, left, right }: OfOp<'arithmetic'>): string {
  const strength = signStrengths[sign];
  return `${at(strength, left)} ${sign} ${at(strength + 1, right)}`;
}

/** One test that is no mere value stands alone; values and several tests in brackets. */
function testsText(tests: readonly Test[]): string {
  const [first] = tests;
  const texts = tests.map((test) =>
    test.t === 'compare' ? `${test.by} ${at(4, test.value)}` : at(4, test.value),
  );
  return tests.length === 1 && first !== undefined && first.t !== 'is'
    ? texts.join('')
    : `(${texts.join(', ')})`;
}

function literalText({ value, type }: OfOp<'literal'>): string {
  if (isBig(value)) return value.lt(0) ? `-${numberText(value.abs())}` : numberText(value);
  if (value instanceof Duration) return `duration("${durationText(value)}")`;
  const name = type.t === 'date-time' ? 'date and time' : type.t;
  if (type.t === 'date' || type.t === 'time' || type.t === 'date-time')
    return value === null ? `${name}("")` : `${name}("${String(value)}")`;
  return typeof value === 'string' ? quotedText(value) : String(value);
}
