import Big from 'big.js';
import { modulo, root, rounded, type Rounding } from '../number';
import { NUMBER } from '../type';
import { isBig, type Value } from '../value';
import { sql, value, words } from '../sql/fragment';
import { a, named, type Builtin, type SqlArgument } from './builtin';

const none = new Big(0);

/** DMN 1.5 table 75: to so many places, half to even where `decimal` is asked; without places to whole numbers. */
const rounding = (name: string, way: Rounding, optional: number): Builtin => ({
  name,
  ways: [{ takes: [a(NUMBER), a(NUMBER)], optional, gives: NUMBER }],
  run: ([of = null, places = none]) => (isBig(of) && isBig(places) ? rounded(of, places, way) : null),
  sql: (args) => roundingSql(args, way),
});

/** PostgreSQL's own `round` is half-up; every other way is a function of ours. */
function roundingSql([of, places]: readonly SqlArgument[], way: Rounding) {
  if (of === undefined) return null;
  const { tree } = places ?? {};
  const fixed =
    tree === undefined
      ? 0
      : tree.op === 'literal' && isBig(tree.value) && Math.abs(tree.value.toNumber()) < 1_000
        ? tree.value.toNumber()
        : null;
  if (way === 'half-up' && fixed !== null && Number.isInteger(fixed))
    return sql`round(${of.sql()}, ${words(String(fixed))})`;
  return sql`slate.rounded(${of.sql()}, ${places?.sql() ?? value('0', 'numeric')}, '${words(way)}')`;
}

const onNumber = (name: string, run: (n: Big) => Value, inSql: string): Builtin => ({
  name,
  ways: [{ takes: [a(NUMBER)], gives: NUMBER }],
  sql: named(inSql),
  run: ([of = null]) => (isBig(of) ? run(of) : null),
});

export const numberFunctions: readonly Builtin[] = [
  rounding('decimal', 'half-even', 1),
  rounding('floor', 'floor', 1),
  rounding('ceiling', 'ceiling', 1),
  rounding('round up', 'up', 1),
  rounding('round down', 'down', 1),
  rounding('round half up', 'half-up', 1),
  rounding('round half down', 'half-down', 1),
  onNumber('abs', (n) => n.abs(), 'abs'),
  onNumber('sqrt', root, 'slate.root'),
  {
    name: 'modulo',
    sql: named('slate.modulo'),
    ways: [{ takes: [a(NUMBER), a(NUMBER)], gives: NUMBER }],
    run: ([n = null, by = null]) => (isBig(n) && isBig(by) ? modulo(n, by) : null),
  },
];
