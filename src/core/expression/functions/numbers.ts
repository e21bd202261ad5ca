import Big from 'big.js';
import { modulo, root, rounded, type Rounding } from '../number';
import { NUMBER } from '../type';
import { isBig, type Value } from '../value';
import { a, type Builtin } from './builtin';

const none = new Big(0);

/** DMN 1.5 table 75: to so many places, half to even where `decimal` is asked; without places to whole numbers. */
const rounding = (name: string, way: Rounding, optional: number): Builtin => ({
  name,
  ways: [{ takes: [a(NUMBER), a(NUMBER)], optional, gives: NUMBER }],
  run: ([of = null, places = none]) => (isBig(of) && isBig(places) ? rounded(of, places, way) : null),
});

const onNumber = (name: string, run: (n: Big) => Value): Builtin => ({
  name, ways: [{ takes: [a(NUMBER)], gives: NUMBER }], run: ([of = null]) => (isBig(of) ? run(of) : null),
});

export const numberFunctions: readonly Builtin[] = [
  rounding('decimal', 'half-even', 1),
  rounding('floor', 'floor', 1),
  rounding('ceiling', 'ceiling', 1),
  rounding('round up', 'up', 1),
  rounding('round down', 'down', 1),
  rounding('round half up', 'half-up', 1),
  rounding('round half down', 'half-down', 1),
  onNumber('abs', (n) => n.abs()),
  onNumber('sqrt', root),
  {
    name: 'modulo', ways: [{ takes: [a(NUMBER), a(NUMBER)], gives: NUMBER }],
    run: ([n = null, by = null]) => (isBig(n) && isBig(by) ? modulo(n, by) : null),
  },
];
