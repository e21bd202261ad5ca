import Big from 'big.js';
import { NUMBER } from '../type';
import { isBig, order, type Value } from '../value';
import type { Builtin } from './builtin';

const given = (args: readonly Value[]): readonly Value[] => (args.length === 1 && Array.isArray(args[0]) ? (args[0] as Value[]) : args);

/** FEEL: an empty list sums to null, and so does a list with an empty in it. */
export const sum: Builtin = {
  name: 'sum', takes: [NUMBER], listOf: ['number'], gives: NUMBER,
  run(args) {
    const list = given(args);
    if (list.length === 0) return null;
    let total = new Big(0);
    for (const one of list) {
      if (!isBig(one)) return null;
      total = total.plus(one);
    }
    return total;
  },
};

export const count: Builtin = {
  name: 'count', takes: [NUMBER], listOf: ['number', 'text', 'date', 'yes-no', 'record', 'null', 'rows'], gives: NUMBER,
  run: (args) => new Big(given(args).length),
};

const extreme = (name: string, wanted: 1 | -1): Builtin => ({
  name, takes: [NUMBER], listOf: ['number', 'text', 'date'],
  gives: (args) => (args[0]?.t === 'list' ? args[0].of : (args[0] ?? NUMBER)),
  run(args) {
    let best: Value | undefined;
    for (const one of given(args)) {
      if (one === null) return null;
      if (best === undefined || order(one, best) === wanted) best = one;
    }
    return best ?? null;
  },
});
export const min = extreme('min', -1);
export const max = extreme('max', 1);
