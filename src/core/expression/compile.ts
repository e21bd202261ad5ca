import type Big from 'big.js';
import type { World } from './functions/builtin';
import { builtins } from './functions/list';
import type { Comparison, Expression, Sign } from './tree';
import { isBig, isRecord, order, same, type Value } from './value';

/** Where a compiled expression finds its names. The sheet makes one per row it evaluates. */
export interface Source extends World {
  read(id: string): Value;
  /** The answers of one column in all rows that have anything in them. */
  column(group: string, id: string): readonly Value[];
}

export type Closure = (from: Source) => Value;

/** Compiled once per release; each closure only reads, so it may be shared by every sheet. */
export function compile(tree: Expression): Closure {
  switch (tree.op) {
    case 'literal': {
      const { value } = tree;
      return () => value;
    }
    case 'name': {
      const { id } = tree;
      return (from) => from.read(id);
    }
    case 'column': {
      const { group, id } = tree;
      return (from) => from.column(group, id);
    }
    case 'field': return field(compile(tree.of), tree.id);
    case 'arithmetic': return arithmetic(tree.sign, compile(tree.left), compile(tree.right));
    case 'negate': {
      const of = compile(tree.of);
      return (from) => onNumber(of(from), (n) => n.neg());
    }
    case 'compare': return compare(tree.by, compile(tree.left), compile(tree.right));
    case 'between': return between(compile(tree.of), compile(tree.low), compile(tree.high));
    case 'one-of': return oneOf(compile(tree.of), tree.list.map(compile));
    case 'and': return both(compile(tree.left), compile(tree.right));
    case 'or': return either(compile(tree.left), compile(tree.right));
    case 'if': return branch(compile(tree.when), compile(tree.then), compile(tree.otherwise));
    case 'list': {
      const items = tree.items.map(compile);
      return (from) => items.map((item) => item(from));
    }
    case 'call': return call(tree.name, tree.args.map(compile));
  }
}

const onNumber = (value: Value, run: (n: Big) => Value): Value => (isBig(value) ? run(value) : null);

function field(of: Closure, id: string): Closure {
  return (from) => {
    const record = of(from);
    return isRecord(record) ? (record.values[id] ?? null) : null;
  };
}

const signs: Readonly<Record<Sign, (a: Big, b: Big) => Value>> = {
  '+': (a, b) => a.plus(b),
  '-': (a, b) => a.minus(b),
  '*': (a, b) => a.times(b),
  '/': (a, b) => (b.eq(0) ? null : a.div(b)),
};

function arithmetic(sign: Sign, left: Closure, right: Closure): Closure {
  const run = signs[sign];
  return (from) => {
    const a = left(from);
    const b = right(from);
    return isBig(a) && isBig(b) ? run(a, b) : null;
  };
}

function compare(by: Comparison, left: Closure, right: Closure): Closure {
  if (by === '=') return (from) => same(left(from), right(from));
  if (by === '!=') return (from) => !same(left(from), right(from));
  const holds = orders[by];
  return (from) => {
    const way = order(left(from), right(from));
    return way === null ? null : holds(way);
  };
}

const orders: Readonly<Record<Exclude<Comparison, '=' | '!='>, (way: number) => boolean>> = {
  '<': (way) => way < 0,
  '<=': (way) => way <= 0,
  '>': (way) => way > 0,
  '>=': (way) => way >= 0,
};

function between(of: Closure, low: Closure, high: Closure): Closure {
  return both(compare('>=', of, low), compare('<=', of, high));
}

function oneOf(of: Closure, list: readonly Closure[]): Closure {
  return (from) => {
    const value = of(from);
    return list.some((one) => same(value, one(from)));
  };
}

/** Kleene: false wins over empty. */
function both(left: Closure, right: Closure): Closure {
  return (from) => {
    const a = left(from);
    if (a === false) return false;
    const b = right(from);
    return b === false ? false : a === true && b === true ? true : null;
  };
}

function either(left: Closure, right: Closure): Closure {
  return (from) => {
    const a = left(from);
    if (a === true) return true;
    const b = right(from);
    return b === true ? true : a === false && b === false ? false : null;
  };
}

function branch(when: Closure, then: Closure, otherwise: Closure): Closure {
  return (from) => (when(from) === true ? then(from) : otherwise(from));
}

function call(name: string, args: readonly Closure[]): Closure {
  const builtin = builtins.get(name);
  if (builtin === undefined) throw new Error(`no built-in ${name}`);
  return (from) => builtin.run(args.map((arg) => arg(from)), from);
}
