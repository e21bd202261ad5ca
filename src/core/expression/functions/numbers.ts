import Big from 'big.js';
import { NUMBER } from '../type';
import { isBig, type Value } from '../value';
import type { Builtin } from './builtin';

const rounding = (name: string, mode: 0 | 1 | 2 | 3): Builtin => ({
  name,
  takes: [NUMBER, NUMBER],
  optional: 1,
  gives: NUMBER,
  run: ([of = null, places = new Big(0)]) => (isBig(of) && isBig(places) ? roundTo(of, places.toNumber(), mode) : null),
});

/** DMN 1.5 table 75: a negative scale rounds to tens, hundreds; big.js takes it as it is. */
function roundTo(of: Big, places: number, mode: 0 | 1 | 2 | 3): Value {
  return Number.isInteger(places) && Math.abs(places) <= 100 ? of.round(places, mode) : null;
}

/** Half-down has no mode in big.js: a value exactly half way goes towards zero, every other to the nearest. */
function halfDown(of: Big, places: number): Value {
  const towardsZero = of.round(places, Big.roundDown);
  const rest = of.minus(towardsZero).abs();
  const half = new Big(10).pow(-places).div(2);
  return rest.gt(half) ? of.round(places, Big.roundUp) : towardsZero;
}

export const roundHalfUp = rounding('round half up', 1);
export const roundUp = rounding('round up', 3);
export const roundDown = rounding('round down', 0);
export const decimal = rounding('decimal', 2);
export const roundHalfDown: Builtin = {
  ...rounding('round half down', 0),
  run: ([of = null, places = new Big(0)]) => (isBig(of) && isBig(places) ? halfDown(of, places.toNumber()) : null),
};
export const abs: Builtin = { name: 'abs', takes: [NUMBER], gives: NUMBER, run: ([of = null]) => (isBig(of) ? of.abs() : null) };
