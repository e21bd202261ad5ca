import Big from 'big.js';
import { sql } from '../sql/fragment';
import { divide, plus, sumOf } from '../number';
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, TEXT, TIME, elementOf, listOf, type Type } from '../type';
import { isBig, isList, order, type Value } from '../value';
import { a, aList, aListOf, anything, isKeptList, ordered, type Builtin, type Way } from './builtin';

/** `sum(list)` and `sum(a, b, c)` are the same. */
const given = (args: readonly Value[]): readonly Value[] | null => {
  const [first] = args;
  return args.length === 1 && first !== undefined && isList(first)
    ? first
    : args.length === 1 && first === null
      ? null
      : args;
};
const numbers: readonly Way[] = [
  { takes: [aListOf(NUMBER)], gives: NUMBER },
  { takes: [a(NUMBER)], rest: true, gives: NUMBER },
];
const member = ([first]: readonly Type[]): Type =>
  first === undefined ? NUMBER : (elementOf(first) ?? first);

/** All of them, when every one is a number and there is at least one: FEEL has no sum of nothing, and none with an empty in it. */
function allNumbers(args: readonly Value[]): readonly Big[] | null {
  const list = given(args);
  return list !== null && list.length > 0 && list.every(isBig) ? list : null;
}

function middle(list: readonly Big[]): Value {
  const sorted = [...list].sort((x, y) => x.cmp(y));
  const [low, high] = [sorted[Math.ceil(sorted.length / 2) - 1], sorted[Math.floor(sorted.length / 2)]];
  const both = low && high && plus(low, high);
  return both ? divide(both, new Big(2)) : null;
}

/** The most frequent, smallest first; of an empty list an empty list. */
function commonest(list: readonly Big[]): Value {
  const counts = new Map<string, { n: Big; times: number }>();
  for (const n of list) {
    const known = counts.get(n.toString()) ?? { n, times: 0 };
    counts.set(n.toString(), { n: known.n, times: known.times + 1 });
  }
  const most = Math.max(...[...counts.values()].map(({ times }) => times));
  return [...counts.values()]
    .filter(({ times }) => times === most)
    .map(({ n }) => n)
    .sort((x, y) => x.cmp(y));
}

const onNumbers = (name: string, run: (list: readonly Big[]) => Value): Builtin => ({
  name,
  ways: numbers,
  run: (args) => {
    const list = allNumbers(args);
    return list === null ? null : run(list);
  },
});

const extreme = (name: string, wanted: 1 | -1): Builtin => ({
  name,
  ways: [
    { takes: [aListOf(NUMBER, TEXT, DATE, TIME, DATE_TIME, DAYS, MONTHS)], gives: member },
    { takes: [ordered], rest: true, gives: member },
  ],
  run(args) {
    let best: Value | undefined;
    for (const one of given(args) ?? []) {
      if (one === null) return null;
      if (best === undefined || Math.sign(order(one, best) ?? 0) === wanted) best = one;
    }
    return best ?? null;
  },
});

export const statisticsFunctions: readonly Builtin[] = [
  onNumbers('sum', sumOf),
  onNumbers('mean', (list) => {
    const sum = sumOf(list);
    return sum && divide(sum, new Big(list.length));
  }),
  onNumbers('median', middle),
  {
    name: 'mode',
    ways: numbers.map((way) => ({ ...way, gives: listOf(NUMBER) })),
    run: (args) => {
      const list = given(args);
      return list === null || !list.every(isBig) ? null : list.length === 0 ? [] : commonest(list);
    },
  },
  extreme('min', -1),
  extreme('max', 1),
  {
    name: 'count',
    ways: [
      { takes: [aList], gives: NUMBER },
      { takes: [anything, anything], rest: true, gives: NUMBER },
    ],
    run: (args) => asCount(given(args)),
    sql: ([list, other]) =>
      list !== undefined && other === undefined && isKeptList(list.tree)
        ? sql`cardinality(${list.sql()})::numeric`
        : null,
  },
];

const asCount = (list: readonly Value[] | null): Value => (list === null ? null : new Big(list.length));
