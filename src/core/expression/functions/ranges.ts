import { YES_NO, elementOf, fits, type Type } from '../type';
import { Range, order, type Value } from '../value';
import { anything, type Builtin, type Want } from './builtin';

const boundOf = (type: Type): Type => (type.t === 'range' ? type.of : type);
const aRange: Want = { words: ['range'], takes: (given) => given.t === 'range' || given.t === 'null' };
/** A range beside a range of the same, or a point beside one. */
const alike: Want = {
  words: ['range of the same kind'],
  takes: (given, [first]) =>
    aRange.takes(given, []) &&
    (first === undefined || elementOf(first) === null) &&
    fits(boundOf(first ?? given), boundOf(given)),
};

/** Whether a value lies in a range; null when either cannot be told. */
export function liesIn(value: Value, { low, high, lowIn, highIn }: Range): boolean | null {
  const [above, below] = [order(value, low), order(value, high)];
  const [fromLow, toHigh] = [
    above === null ? null : above > 0 || (lowIn && above === 0),
    below === null ? null : below < 0 || (highIn && below === 0),
  ];
  return fromLow === false || toHigh === false ? false : fromLow === null || toHigh === null ? null : true;
}

/** DMN 1.5 table 78. */
function liesWithin(inner: Range, outer: Range): boolean | null {
  const [low, high] = [order(inner.low, outer.low), order(inner.high, outer.high)];
  if (low === null || high === null) return null;
  return (
    (low > 0 || (low === 0 && (outer.lowIn || !inner.lowIn))) &&
    (high < 0 || (high === 0 && (outer.highIn || !inner.highIn)))
  );
}

function meet(a: Range, b: Range): boolean | null {
  const [first, second] = [order(a.high, b.low), order(b.high, a.low)];
  if (first === null || second === null) return null;
  return (
    (first > 0 || (first === 0 && a.highIn && b.lowIn)) &&
    (second > 0 || (second === 0 && b.highIn && a.lowIn))
  );
}

const during = (of: Value, range: Value): Value =>
  !(range instanceof Range) ? null : of instanceof Range ? liesWithin(of, range) : liesIn(of, range);

export const rangeFunctions: readonly Builtin[] = [
  {
    name: 'during',
    ways: [{ takes: [anything, alike], gives: YES_NO }],
    run: ([of = null, range = null]) => during(of, range),
  },
  {
    name: 'includes',
    ways: [{ takes: [aRange, anything], gives: YES_NO }],
    run: ([range = null, of = null]) => during(of, range),
  },
  {
    name: 'overlaps',
    ways: [{ takes: [aRange, alike], gives: YES_NO }],
    run: ([a = null, b = null]) => (a instanceof Range && b instanceof Range ? meet(a, b) : null),
  },
];
