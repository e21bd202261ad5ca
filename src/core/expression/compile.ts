import {
  addDurations,
  byDuration,
  byNumber,
  Duration,
  durationPart,
  negated,
  takeDuration,
  timesNumber,
  type DurationPart,
} from './duration';
import { builtins } from './functions/list';
import { liesIn } from './functions/ranges';
import { between as timeBetween, moved, momentPart, type MomentPart } from './moment';
import { divide, minus, plus, power, times } from './number';
import {
  filterStep,
  forStep,
  indexStep,
  quantifierStep,
  sumOfProductsStep,
  type Loop,
} from './compile-loops';
import { Budget, CountedRun, LimitReached, MEMBERS_A_STEP, type Run, type Source, type Step } from './step';
import type { Comparison, Expression, Iteration, OfOp, Sign, Test } from './tree';
import { fits } from './type';
import {
  Range,
  isBig,
  isContext,
  isList,
  isRecord,
  order,
  same,
  type ContextValue,
  type Value,
} from './value';

export type { Source } from './step';
export type Closure = (from: Source) => Value;

/** Compiled once per release; each closure only reads, so it may be shared by every sheet. */
export function compile(tree: Expression): Closure {
  const step = stepOf(tree);
  return (from) => {
    try {
      const run = new CountedRun(from.budget ?? new Budget());
      run.spend(1);
      return step(from, run);
    } catch (error) {
      if (!(error instanceof LimitReached)) throw error;
      from.gaveUp();
      return null;
    }
  };
}

function stepOf(tree: Expression): Step {
  switch (tree.op) {
    case 'literal': {
      const { value } = tree;
      return () => value;
    }
    case 'name': {
      const { id } = tree;
      return (from) => from.read(id);
    }
    case 'local': {
      const { slot } = tree;
      return (_, { slots }) => slots[slot] ?? null;
    }
    case 'column': {
      const { group, id } = tree;
      return (from) => from.column(group, id);
    }
    case 'arithmetic':
      return arithmetic(tree);
    case 'negate':
      return negate(stepOf(tree.of));
    case 'compare':
      return compare(tree.by, stepOf(tree.left), stepOf(tree.right));
    case 'between':
      return both(
        compare('>=', stepOf(tree.of), stepOf(tree.low)),
        compare('<=', stepOf(tree.of), stepOf(tree.high)),
      );
    case 'in':
      return anyTest(stepOf(tree.of), tree.tests);
    case 'and':
      return both(stepOf(tree.left), stepOf(tree.right));
    case 'or':
      return either(stepOf(tree.left), stepOf(tree.right));
    case 'if':
      return branch(stepOf(tree.when), stepOf(tree.then), stepOf(tree.otherwise));
    case 'call':
      return productsOf(tree) ?? call(tree.name, tree.args.map(stepOf));
    default:
      return structureOf(tree);
  }
}

function structureOf(
  tree: OfOp<
    | 'field'
    | 'each'
    | 'part'
    | 'list'
    | 'context'
    | 'range'
    | 'series'
    | 'index'
    | 'filter'
    | 'for'
    | 'some'
    | 'every'
    | 'instance'
  >,
): Step {
  switch (tree.op) {
    case 'field':
      return field(stepOf(tree.of), tree.id);
    case 'each':
      return each(stepOf(tree.of), tree.id);
    case 'part':
      return part(tree);
    case 'list': {
      const items = tree.items.map(stepOf);
      return (from, run) => items.map((item) => item(from, run));
    }
    case 'context':
      return context(tree);
    case 'range': {
      const [low, high] = [stepOf(tree.low), stepOf(tree.high)];
      return (from, run) => new Range(low(from, run), high(from, run), tree.lowIn, tree.highIn);
    }
    case 'index':
      return indexStep(stepOf(tree.of), stepOf(tree.at));
    case 'filter':
      return filterStep(stepOf(tree.of), tree.item.slot, stepOf(tree.where));
    case 'for':
      return forStep(tree.over.map(loopOf), tree.partial?.slot ?? null, stepOf(tree.body));
    case 'some':
    case 'every':
      return quantifierStep(tree.over.map(loopOf), tree.op === 'some', stepOf(tree.body));
    // Only a loop takes a series, and it counts instead of making a list of it.
    case 'series':
      return () => null;
    case 'instance':
      return instance(tree);
  }
}

const loopOf = ({ slot, in: source }: Iteration): Loop => ({
  slot,
  through: source.op === 'series' ? { low: stepOf(source.low), high: stepOf(source.high) } : stepOf(source),
});

/** A column of a record, a row or a context. */
function fieldOf(value: Value, id: string): Value {
  if (isContext(value)) return value.get(id) ?? null;
  return isRecord(value) ? (value.values[id] ?? null) : null;
}

function field(of: Step, id: string): Step {
  return (from, run) => fieldOf(of(from, run), id);
}

function each(of: Step, id: string): Step {
  return (from, run) => {
    const list = of(from, run);
    if (!isList(list)) return null;
    run.spend(list.length / MEMBERS_A_STEP);
    return list.map((one) => fieldOf(one, id));
  };
}

function part({ of, part: name }: OfOp<'part'>): Step {
  const step = stepOf(of);
  return (from, run) => {
    const value = step(from, run);
    if (value instanceof Duration) return durationPart(value, name as DurationPart);
    return typeof value === 'string' ? momentPart(value, name as MomentPart) : null;
  };
}

function context({ entries }: OfOp<'context'>): Step {
  const steps = entries.map(({ name, slot, value }) => ({ name, slot, step: stepOf(value) }));
  return (from, run): ContextValue =>
    new Map(steps.map(({ name, slot, step }) => [name, (run.slots[slot] = step(from, run))]));
}

function instance({ of, wanted }: OfOp<'instance'>): Step {
  const [step, suits] = [stepOf(of), fits(of.type, wanted)];
  return (from, run) => {
    const value = step(from, run);
    return value === null ? wanted.t === 'null' : wanted.t !== 'null' && suits;
  };
}

const onNumbers: Readonly<Record<Sign, typeof plus>> = {
  '+': plus,
  '-': minus,
  '*': times,
  '/': divide,
  '**': power,
};

/** Numbers come first, since almost all arithmetic is on them. */
function arithmetic(tree: OfOp<'arithmetic'>): Step {
  const [left, right, onPair] = [stepOf(tree.left), stepOf(tree.right), onNumbers[tree.sign]];
  return (from, run) => {
    const a = left(from, run);
    const b = right(from, run);
    if (isBig(a) && isBig(b)) return onPair(a, b);
    return a === null || b === null ? null : onOthers(tree.sign, a, b, run);
  };
}

function onOthers(sign: Sign, a: Value, b: Value, run: Run): Value {
  if (typeof a === 'string') {
    if (b instanceof Duration) return moved(a, sign === '-' ? negated(b) : b);
    if (typeof b !== 'string') return null;
    if (sign === '-') return timeBetween(a, b);
    return (run.spend(a.length + b.length), a + b);
  }
  if (a instanceof Duration) return onDuration(sign, a, b);
  return isBig(a) && b instanceof Duration ? timesNumber(b, a) : null;
}

function onDuration(sign: Sign, a: Duration, b: Value): Value {
  if (typeof b === 'string') return moved(b, a);
  if (isBig(b)) return sign === '*' ? timesNumber(a, b) : byNumber(a, b);
  if (!(b instanceof Duration)) return null;
  return sign === '+' ? addDurations(a, b) : sign === '-' ? takeDuration(a, b) : byDuration(a, b);
}

function negate(of: Step): Step {
  return (from, run) => {
    const value = of(from, run);
    return isBig(value) ? value.neg() : value instanceof Duration ? negated(value) : null;
  };
}

function compare(by: Comparison, left: Step, right: Step): Step {
  if (by === '=') return (from, run) => same(left(from, run), right(from, run));
  if (by === '!=') return (from, run) => !same(left(from, run), right(from, run));
  const holds = orders[by];
  return (from, run) => {
    const way = order(left(from, run), right(from, run));
    return way === null ? null : holds(way);
  };
}

const orders: Readonly<Record<Exclude<Comparison, '=' | '!='>, (way: number) => boolean>> = {
  '<': (way) => way < 0,
  '<=': (way) => way <= 0,
  '>': (way) => way > 0,
  '>=': (way) => way >= 0,
};

/** One that holds is enough; otherwise one that cannot be told leaves it open. */
function anyTest(of: Step, tests: readonly Test[]): Step {
  const each = tests.map(testOf);
  return (from, run) => {
    const value = of(from, run);
    let open = false;
    for (const test of each) {
      const holds = test(value, from, run);
      if (holds === true) return true;
      open ||= holds === null;
    }
    return open ? null : false;
  };
}

function testOf(test: Test): (value: Value, from: Source, run: Run) => Value {
  const step = stepOf(test.value);
  switch (test.t) {
    case 'is':
      return (value, from, run) => same(value, step(from, run));
    case 'compare': {
      const { by } = test;
      return (value, from, run) =>
        compare(
          by,
          () => value,
          () => step(from, run),
        )(from, run);
    }
    case 'within':
      return (value, from, run) => {
        const range = step(from, run);
        return range instanceof Range ? liesIn(value, range) : null;
      };
    case 'member':
      return (value, from, run) => {
        const list = step(from, run);
        return isList(list) ? list.some((one) => same(one, value)) : null;
      };
  }
}

/** Kleene: false wins over empty. */
function both(left: Step, right: Step): Step {
  return (from, run) => {
    const a = left(from, run);
    if (a === false) return false;
    const b = right(from, run);
    return b === false ? false : a === true && b === true ? true : null;
  };
}

function either(left: Step, right: Step): Step {
  return (from, run) => {
    const a = left(from, run);
    if (a === true) return true;
    const b = right(from, run);
    return b === true ? true : a === false && b === false ? false : null;
  };
}

function branch(when: Step, then: Step, otherwise: Step): Step {
  return (from, run) => (when(from, run) === true ? then(from, run) : otherwise(from, run));
}

/** `sum(for line in lines return line.amount * line.price)`, what forms add up most: the products are added as they come. */
function productsOf({ name, args: [arg, ...more] }: OfOp<'call'>): Step | null {
  if (name !== 'sum' || more.length > 0 || arg?.op !== 'for' || arg.partial !== null) return null;
  const { over, body } = arg;
  if (
    body.op !== 'arithmetic' ||
    body.sign !== '*' ||
    body.left.type.t !== 'number' ||
    body.right.type.t !== 'number'
  )
    return null;
  return sumOfProductsStep(over.map(loopOf), stepOf(body.left), stepOf(body.right));
}

function call(name: string, args: readonly Step[]): Step {
  const builtin = builtins.get(name);
  if (builtin === undefined) throw new Error(`no built-in ${name}`);
  return (from, run) => {
    const values = args.map((arg) => arg(from, run));
    for (const value of values) if (isList(value)) run.spend(value.length / MEMBERS_A_STEP);
    return builtin.run(values, from, run);
  };
}
