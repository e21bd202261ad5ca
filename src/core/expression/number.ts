import Big from 'big.js';

/** 34 significant digits are what FEEL's standard asks of a number, rounded half to even. */
export const DIGITS = 34;
/** The exponents of IEEE 754 decimal128, which the standard names; beyond them there is no number. */
const [LARGEST, SMALLEST] = [6144, -6176];

Big.DP = DIGITS;
Big.RM = Big.roundHalfEven;

export const isBig = (value: unknown): value is Big => value instanceof Big;

/** A result brought back to 34 digits; null when it is too large for a number, 0 when too small. */
function settled(n: Big): Big | null {
  if (n.c.length > DIGITS) n = n.prec(DIGITS, Big.roundHalfEven);
  if (n.e > LARGEST) return null;
  return n.e < SMALLEST ? new Big(0) : n;
}

/** More digits apart than this, and the smaller cannot touch any of the 34 digits; adding exactly would cost thousands of digits. */
const APART = 3 * DIGITS;

export function plus(a: Big, b: Big): Big | null {
  const far = a.e - b.e;
  if (far > APART && a.c[0] !== 0 && b.c[0] !== 0) return settled(nudged(a, b));
  if (far < -APART && a.c[0] !== 0 && b.c[0] !== 0) return settled(nudged(b, a));
  return settled(a.plus(b));
}

/** `large` with a trace of `small` in its direction, so that a tie falls on the right side. */
function nudged(large: Big, small: Big): Big {
  const trace = new Big(small.s);
  trace.e = large.e - 2 * DIGITS;
  return large.plus(trace);
}

/**
 * A sum of many, exact until the end, so that the order makes no difference. Numbers below a million with up to eight decimals, as nearly
 * all answers are, are gathered as whole hundred-millionths in a plain number, which is exact below 2^53 and twice as quick over 50 rows;
 * products that are so are never made into numbers of their own, which is four times as quick.
 */
export class ExactSum {
  private large: Big | null = new Big(0);
  private small = 0;

  add(one: Big): void {
    const units = unitsOf(one, 0, 0);
    if (units === null) this.large = this.large && this.large.plus(one);
    else this.gather(units);
  }

  addProduct(a: Big, b: Big): void {
    const decimals = Math.max(0, b.c.length - 1 - b.e);
    const [x, y] = [unitsOf(a, decimals, b.e + 1), unitsOf(b, UNIT_PLACES - decimals, -Infinity)];
    if (x !== null && y !== null) return this.gather(x * y);
    const product = times(a, b);
    if (product === null) this.large = null;
    else this.add(product);
  }

  /** Rounded to 34 digits; null when it, or any product, was too large for a number. */
  total(): Big | null {
    if (this.large === null) return null;
    return settled(this.large.c[0] === 0 ? fromUnits(this.small) : this.large.plus(fromUnits(this.small)));
  }

  private gather(units: number): void {
    this.small += units;
    if (this.small <= MOST_UNITS && this.small >= -MOST_UNITS) return;
    this.large = this.large && this.large.plus(fromUnits(this.small));
    this.small = 0;
  }
}

/** Null of an empty list. */
export function sumOf(list: readonly Big[]): Big | null {
  const sum = new ExactSum();
  for (const one of list) sum.add(one);
  return list.length === 0 ? null : sum.total();
}

const UNIT_PLACES = 8;
/** One more of at most 10^14 still keeps below 2^53. */
const MOST_UNITS = 8.9e15;
const powers = Array.from({ length: 15 }, (_, i) => 10 ** i);

/**
 * As whole units, with `taken` of the places and `size` of the digits before the point left for what it is
 * multiplied by; null where it does not fit.
 */
function unitsOf({ c, e, s }: Big, taken: number, size: number): number | null {
  const up = UNIT_PLACES - taken - (c.length - 1 - e);
  if (up < 0 || e + size > 5) return null;
  let digits = 0;
  for (const digit of c) digits = digits * 10 + digit;
  return s * digits * (powers[up] ?? NaN);
}

function fromUnits(units: number): Big {
  const n = new Big(units);
  if (units !== 0) n.e -= UNIT_PLACES;
  return n;
}

export const minus = (a: Big, b: Big): Big | null => plus(a, b.neg());
export const times = (a: Big, b: Big): Big | null => settled(a.times(b));

/** Exact to 34 digits whatever the sizes: both are brought to one digit before the point, divided, and moved back. */
export function divide(a: Big, b: Big): Big | null {
  if (b.c[0] === 0) return null;
  if (a.c[0] === 0) return new Big(0);
  const [x, y] = [mantissa(a), mantissa(b)];
  Big.DP = x.lt(y) ? DIGITS : DIGITS - 1;
  const quotient = x.div(y);
  Big.DP = DIGITS;
  quotient.e += a.e - b.e;
  if (a.s !== b.s) quotient.s = -1;
  return settled(quotient);
}

function mantissa(n: Big): Big {
  const one = new Big(n);
  one.e = 0;
  one.s = 1;
  return one;
}

/** The square root to 34 digits; null of a number below zero. */
export function root(n: Big): Big | null {
  if (n.c[0] === 0) return new Big(0);
  if (n.s < 0) return null;
  const one = new Big(n);
  const half = Math.floor(n.e / 2);
  one.e = n.e - 2 * half;
  const result = rootBelow100(one);
  result.e += half;
  return settled(result);
}

function rootBelow100(n: Big): Big {
  Big.DP = DIGITS - 1;
  const result = n.sqrt();
  Big.DP = DIGITS;
  return result;
}

/** A whole exponent between -999 and 999 (beyond, and with a fraction, there is no exact way): null otherwise. */
export function power(base: Big, exponent: Big): Big | null {
  const n = exponent.toNumber();
  if (!Number.isInteger(n) || Math.abs(n) > 999) return null;
  let [result, factor]: [Big | null, Big | null] = [new Big(1), base];
  for (let rest = Math.abs(n); rest > 0; rest = Math.floor(rest / 2)) {
    if (rest % 2 === 1) result = result && factor && times(result, factor);
    factor = rest > 1 ? factor && times(factor, factor) : factor;
  }
  return n < 0 ? result && divide(new Big(1), result) : result;
}

/** What is left after the largest whole multiple of `b` not above `a`, with the sign of `b`: `a - b * floor(a / b)`. */
export function modulo(a: Big, b: Big): Big | null {
  if (b.c[0] === 0 || Math.abs(a.e - b.e) > LARGEST / 8) return null;
  const rest = a.mod(b);
  return rest.c[0] === 0 || rest.s === b.s ? settled(rest) : settled(rest.plus(b));
}

export type Rounding = 'up' | 'down' | 'half-up' | 'half-down' | 'half-even' | 'floor' | 'ceiling';

/** Rounded to `places` after the point; below zero, to tens and hundreds. DMN 1.5 table 75; places beyond its bounds give null. */
export function rounded(n: Big, places: Big, way: Rounding): Big | null {
  const to = places.toNumber();
  if (!Number.isInteger(to) || to > -SMALLEST || to < -LARGEST) return null;
  if (n.c.length - n.e - 1 <= to) return n;
  if (n.e < -to - 1) n = trace(n.s, to);
  switch (way) {
    case 'up':
      return settled(n.round(to, Big.roundUp));
    case 'down':
      return settled(n.round(to, Big.roundDown));
    case 'half-up':
      return settled(n.round(to, Big.roundHalfUp));
    case 'half-even':
      return settled(n.round(to, Big.roundHalfEven));
    case 'half-down':
      return settled(halfDown(n, to));
    case 'floor':
      return settled(n.round(to, n.s < 0 ? Big.roundUp : Big.roundDown));
    case 'ceiling':
      return settled(n.round(to, n.s < 0 ? Big.roundDown : Big.roundUp));
  }
}

/** Stands for any number much smaller than the last place. */
function trace(sign: number, places: number): Big {
  const one = new Big(sign);
  one.e = -places - 2;
  return one;
}

/** Half-down has no mode in big.js: a value exactly half way goes towards zero, every other to the nearest. */
function halfDown(n: Big, places: number): Big {
  const towardsZero = n.round(places, Big.roundDown);
  const half = new Big(5);
  half.e = -places - 1;
  return n.minus(towardsZero).abs().gt(half) ? n.round(places, Big.roundUp) : towardsZero;
}

/** As the standard writes a number: plain digits, no exponent, no zeros at the end. */
export const numberText = (n: Big): string => (n.c[0] === 0 ? '0' : n.toFixed());
