import Big from 'big.js';
import { dayNumber } from '../expression/moment';
import { print } from '../expression/print';
import type { Comparison, Expression, OfOp } from '../expression/tree';
import { Duration } from '../expression/duration';
import { isBig, isList } from '../expression/value';
import type { Constraint, Term } from './constraints';

/**
 * The ways an expression can come out true, each as constraints that hold together (a disjunctive normal form).
 * Nothing is claimed of what is not understood: it becomes an opaque constraint. Null when there are too many ways to look at.
 */
export type Cases = readonly (readonly Constraint[])[];

const MOST_CASES = 128;
const ANY: Cases = [[]];
const NONE: Cases = [];

export const casesTrue = (tree: Expression, wholes: ReadonlySet<string>): Cases | null =>
  bounded(cases(tree, true, wholes));
export const casesFalse = (tree: Expression, wholes: ReadonlySet<string>): Cases | null =>
  bounded(cases(tree, false, wholes));

const bounded = (found: Cases | null): Cases | null =>
  found === null || found.length > MOST_CASES ? null : found;
const either = (...all: (Cases | null)[]): Cases | null =>
  all.every((one) => one !== null) ? bounded(all.flat()) : null;

/** Both: every way of one with every way of the other. */
export function both(a: Cases | null, b: Cases | null): Cases | null {
  if (a === null || b === null || a.length * b.length > MOST_CASES) return null;
  return a.flatMap((one) => b.map((other) => [...one, ...other]));
}

function cases(tree: Expression, wanted: boolean, wholes: ReadonlySet<string>): Cases | null {
  const of = (part: Expression, want: boolean) => cases(part, want, wholes);
  switch (tree.op) {
    case 'literal':
      return tree.value === wanted ? ANY : NONE;
    case 'and':
      return wanted
        ? both(of(tree.left, true), of(tree.right, true))
        : either(of(tree.left, false), of(tree.right, false));
    case 'or':
      return wanted
        ? either(of(tree.left, true), of(tree.right, true))
        : both(of(tree.left, false), of(tree.right, false));
    // In the other branch the condition is false or cannot be told; of that, nothing is claimed.
    case 'if':
      return either(both(of(tree.when, true), of(tree.then, wanted)), of(tree.otherwise, wanted));
    case 'compare':
      return comparison(tree.by, tree.left, tree.right, wanted, wholes, tree);
    case 'between': {
      const [low, high] = [
        comparison('>=', tree.of, tree.low, wanted, wholes, tree),
        comparison('<=', tree.of, tree.high, wanted, wholes, tree),
      ];
      return wanted ? both(low, high) : either(low, high);
    }
    case 'in':
      return inTests(tree, wanted, wholes);
    case 'call':
      return callCases(tree, wanted, wholes);
    default:
      return yesNo(tree, wanted);
  }
}

function callCases(tree: OfOp<'call'>, wanted: boolean, wholes: ReadonlySet<string>): Cases | null {
  const [first] = tree.args;
  if (tree.name === 'not' && first !== undefined) return cases(first, !wanted, wholes);
  if (tree.name === 'is blank' && first !== undefined)
    return [
      [
        ...(wanted
          ? first.type.t === 'text'
            ? opaque(tree, true)
            : [{ t: 'empty', path: print(first) } as const]
          : [{ t: 'filled', path: print(first) } as const]),
      ],
    ];
  return [opaque(tree, wanted)];
}

const opaque = (tree: Expression, holds: boolean): Constraint[] => [
  { t: 'opaque', text: print(tree), holds },
];
/** An answer of yes or no. */
const yesNo = (tree: Expression, wanted: boolean): Cases => [
  [{ t: 'one-of', path: print(tree), values: [String(wanted)] }],
];

const opposite: Readonly<Record<Comparison, Comparison>> = {
  '=': '!=',
  '!=': '=',
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
};

function comparison(
  by: Comparison,
  left: Expression,
  right: Expression,
  wanted: boolean,
  wholes: ReadonlySet<string>,
  whole: Expression,
): Cases {
  const sign = wanted ? by : opposite[by];
  if (isNull(left) || isNull(right)) return emptiness(sign, isNull(left) ? right : left);
  const [a, b] = [termOf(left, wholes), termOf(right, wholes)];
  if (a !== null && b !== null) return ordered(sign, a, b);
  const [path, value] = isCode(right) ? [left, right] : [right, left];
  if ((sign === '=' || sign === '!=') && isCode(value))
    return [[{ t: sign === '=' ? 'one-of' : 'none-of', path: print(path), values: [codeOf(value)] }]];
  return [opaque(whole, wanted)];
}

const isNull = (tree: Expression): boolean => tree.op === 'literal' && tree.value === null;
const isCode = (tree: Expression): boolean =>
  tree.op === 'literal' &&
  (typeof tree.value === 'boolean' || (typeof tree.value === 'string' && tree.type.t === 'text'));
const codeOf = (tree: Expression): string => (tree.op === 'literal' ? String(tree.value) : '');

/** Compared with nothing, only = and != tell; the others are empty, which is neither. */
function emptiness(sign: Comparison, of: Expression): Cases {
  if (isNull(of)) return sign === '=' ? ANY : NONE;
  return sign === '='
    ? [[{ t: 'empty', path: print(of) }]]
    : sign === '!='
      ? [[{ t: 'filled', path: print(of) }]]
      : NONE;
}

function ordered(sign: Comparison, a: Term, b: Term): Cases {
  const order = (low: Term, high: Term, strict: boolean): Constraint => ({ t: 'order', low, high, strict });
  switch (sign) {
    case '=':
      return [[order(a, b, false), order(b, a, false)]];
    case '!=':
      return [[{ t: 'differs', left: a, right: b }]];
    case '<':
      return [[order(a, b, true)]];
    case '<=':
      return [[order(a, b, false)]];
    case '>':
      return [[order(b, a, true)]];
    case '>=':
      return [[order(b, a, false)]];
  }
}

function inTests(tree: OfOp<'in'>, wanted: boolean, wholes: ReadonlySet<string>): Cases | null {
  const each = tree.tests.map((test): Cases | null => {
    if (test.t === 'is') return comparison('=', tree.of, test.value, wanted, wholes, tree);
    if (test.t === 'compare') return comparison(test.by, tree.of, test.value, wanted, wholes, tree);
    if (test.t === 'within' && test.value.op === 'range') {
      const { low, high, lowIn, highIn } = test.value;
      const [above, below] = [
        comparison(lowIn ? '>=' : '>', tree.of, low, wanted, wholes, tree),
        comparison(highIn ? '<=' : '<', tree.of, high, wanted, wholes, tree),
      ];
      return wanted ? both(above, below) : either(above, below);
    }
    if (test.t === 'member' && test.value.op === 'list') {
      const items = test.value.items.map((item) => comparison('=', tree.of, item, wanted, wholes, tree));
      return wanted ? either(...items) : items.reduce<Cases | null>((all, one) => both(all, one), ANY);
    }
    return [opaque(test.value, wanted)];
  });
  return wanted ? either(...each) : each.reduce<Cases | null>((all, one) => both(all, one), ANY);
}

const ZERO: Omit<Term, 'plus'> = { path: '', whole: true };

/** A number or a day as a path and a constant; null for anything else that is compared. */
function termOf(tree: Expression, wholes: ReadonlySet<string>): Term | null {
  if (tree.type.t !== 'number' && tree.type.t !== 'date') return null;
  const { op } = tree;
  if (op === 'literal') {
    if (isBig(tree.value)) return { ...ZERO, plus: tree.value, whole: tree.value.eq(tree.value.round(0)) };
    return typeof tree.value === 'string' ? { ...ZERO, plus: new Big(dayNumber(tree.value)) } : null;
  }
  if (op === 'arithmetic' && (tree.sign === '+' || tree.sign === '-')) {
    const moved = constantOf(tree.right);
    const of = moved === null ? null : termOf(tree.left, wholes);
    if (of !== null && moved !== null)
      return {
        ...of,
        plus: tree.sign === '+' ? of.plus.plus(moved) : of.plus.minus(moved),
        whole: of.whole && moved.eq(moved.round(0)),
      };
  }
  return {
    path: print(tree),
    plus: new Big(0),
    whole: tree.type.t === 'date' || (op === 'name' && wholes.has(tree.id)),
  };
}

/** A number, or whole days, written out. */
function constantOf(tree: Expression): Big | null {
  if (tree.op !== 'literal' || tree.value === null || isList(tree.value)) return null;
  if (isBig(tree.value)) return tree.value;
  if (!(tree.value instanceof Duration) || tree.value.unit !== 'seconds') return null;
  const days = tree.value.amount.div(86_400);
  return days.eq(days.round(0)) ? days : null;
}
