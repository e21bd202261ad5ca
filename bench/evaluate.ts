import Big from 'big.js';
import { evaluate } from 'feelin';
import { compile, type Source } from '../src/core/expression/compile';
import { read } from '../src/core/expression/read';
import { NUMBER, TEXT, YES_NO, type Scope } from '../src/core/expression/type';
import type { ContextValue, Value } from '../src/core/expression/value';
import { worldOf } from '../tests/support/workspace';
import { median, perCall } from './timing';

/** One evaluation of a rule: our closure, the same written by hand on big.js, and another evaluator of the language, which parses at each call. */
const columns = new Map([
  ['amount', { id: 'amount', type: NUMBER }],
  ['price', { id: 'price', type: NUMBER }],
  ['done', { id: 'done', type: YES_NO }],
]);
const scope: Scope = new Map([
  ['rate', { id: 'rate', type: NUMBER }],
  ['area', { id: 'area', type: NUMBER }],
  ['name', { id: 'name', type: TEXT }],
  ['closed', { id: 'closed', type: YES_NO }],
  ['lines', { id: 'lines', type: { t: 'rows', group: 'lines', columns } }],
]);
const values: Readonly<Record<string, Value>> = {
  rate: new Big('60.5'),
  area: new Big('18.5'),
  name: 'Fern house',
  closed: true,
};
const [rate, area] = [values['rate'] as Big, values['area'] as Big];

const rowsOf = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    amount: new Big(i % 97).plus('0.25'),
    price: new Big(i % 13).plus('1.5'),
    done: i % 3 !== 0,
  }));
type Rows = ReturnType<typeof rowsOf>;

function sourceOf(rows: Rows): Source {
  const lines: ContextValue[] = rows.map((row) => new Map(Object.entries(row)));
  return {
    ...worldOf('2026-11-23T10:00:00'),
    read: (id) => (id === 'lines' ? lines : (values[id] ?? null)),
    column: (_, id) => lines.map((row) => row.get(id) ?? null),
    gaveUp: () => undefined,
  };
}

interface Rule {
  readonly text: string;
  readonly byHand: (rows: Rows) => unknown;
  readonly sizes: readonly number[];
}

const rules: readonly Rule[] = [
  { text: 'rate * area <= 1200', sizes: [0], byHand: () => rate.times(area).lte(1200) },
  {
    text: 'if closed and rate > 10 then round half up(rate * area / 3, 2) else 0',
    sizes: [0],
    byHand: () => (rate.gt(10) ? rate.times(area).div(3).round(2, 1) : 0),
  },
  {
    text: 'starts with(name, "Fern") and rate between 1 and 100',
    sizes: [0],
    byHand: () => 'Fern house'.startsWith('Fern') && rate.gte(1) && rate.lte(100),
  },
  {
    text: 'sum(for x in lines return x.amount * x.price)',
    sizes: [10, 50, 500],
    byHand: (rows) => rows.reduce((sum, { amount, price }) => sum.plus(amount.times(price)), new Big(0)),
  },
  {
    text: 'count(lines[done and amount > 20])',
    sizes: [10, 50, 500],
    byHand: (rows) => rows.filter(({ done, amount }) => done && amount.gt(20)).length,
  },
];

for (const { text, sizes, byHand } of rules)
  for (const size of sizes) {
    const tree = read(text, scope);
    if (!tree.ok) throw new Error(JSON.stringify(tree.error));
    const rows = rowsOf(size);
    const [run, source] = [compile(tree.value), sourceOf(rows)];
    const plain = {
      rate: 60.5,
      area: 18.5,
      name: 'Fern house',
      closed: true,
      lines: rows.map(({ amount, price, done }) => ({
        amount: amount.toNumber(),
        price: price.toNumber(),
        done,
      })),
    };
    const rounds = Math.max(20, Math.round(4_000 / (size + 1)));
    const [ours, hand, other] = [
      median(5, () => perCall(rounds * 5, () => run(source))),
      median(5, () => perCall(rounds * 5, () => byHand(rows))),
      median(3, () => perCall(Math.max(5, Math.round(rounds / 10)), () => evaluate(text, plain))),
    ];
    console.log(
      `evaluation, ${size === 0 ? 'scalar' : `${size} rows`}, ${text}: ${us(ours)}; by hand ${us(hand)}, ratio ${(ours / hand).toFixed(2)}; feelin ${us(other)}, ${Math.round(other / ours)}x ours`,
    );
  }

function us(ms: number): string {
  return `${(ms * 1_000).toFixed(2)} µs`;
}
