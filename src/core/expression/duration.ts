import Big from 'big.js';
import { divide, minus, numberText, plus, times } from './number';

/** A length of time, in whole months or in seconds; the two are never mixed, for months differ in days. */
export class Duration {
  constructor(
    readonly unit: 'months' | 'seconds',
    readonly amount: Big,
  ) {}
}

const MONTHS = /^(-)?P(?:(\d+)Y)?(?:(\d+)M)?$/;
const SECONDS = /^(-)?P(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?)?$/;
/** Ten thousand years: the calendar here has no more, and longer texts are slips. */
const LONGEST = { months: 12 * 10_000, seconds: 86_400 * 366 * 10_000 };

/** An ISO 8601 duration of one of the two kinds: `P1Y2M`, `P3DT4H5M6.5S`, `-P1D`; null when it is neither. */
export function readDuration(text: string): Duration | null {
  if (/[PT]$/.test(text)) return null;
  const [months, seconds] = [MONTHS.exec(text), SECONDS.exec(text)];
  if (months !== null)
    return signed('months', new Big(months[2] ?? 0).times(12).plus(months[3] ?? 0), months[1]);
  if (seconds === null) return null;
  const [, sign, d = 0, h = 0, m = 0, s = 0] = seconds;
  return signed(
    'seconds',
    new Big(d).times(86_400).plus(new Big(h).times(3_600)).plus(new Big(m).times(60)).plus(s),
    sign,
  );
}

function signed(unit: Duration['unit'], amount: Big, sign: string | undefined): Duration | null {
  return bounded(unit, sign === '-' ? amount.neg() : amount);
}

const bounded = (unit: Duration['unit'], amount: Big | null): Duration | null =>
  amount === null || amount.abs().gt(LONGEST[unit]) ? null : new Duration(unit, amount);

/** The canonical ISO text: `P1Y2M`, `P1DT2H`, `PT0S`, with a minus before it where it goes back. */
export function durationText({ unit, amount }: Duration): string {
  const sign = amount.lt(0) ? '-' : '';
  const size = amount.abs();
  if (unit === 'months') {
    const [years, months] = [wholes(size, 12), size.mod(12)];
    return `${sign}P${years.eq(0) ? '' : `${numberText(years)}Y`}${months.eq(0) && !years.eq(0) ? '' : `${numberText(months)}M`}`;
  }
  const [d, h, m, s] = [
    wholes(size, 86_400),
    wholes(size.mod(86_400), 3_600),
    wholes(size.mod(3_600), 60),
    size.mod(60),
  ];
  const time = [
    [h, 'H'],
    [m, 'M'],
    [s, 'S'],
  ]
    .filter(([n]) => !(n as Big).eq(0))
    .map(([n, letter]) => `${numberText(n as Big)}${letter as string}`)
    .join('');
  if (size.eq(0)) return 'PT0S';
  return `${sign}P${d.eq(0) ? '' : `${numberText(d)}D`}${time === '' ? '' : `T${time}`}`;
}

const wholes = (n: Big, unit: number): Big => n.div(unit).round(0, Big.roundDown);

export const addDurations = (a: Duration, b: Duration): Duration | null =>
  bounded(a.unit, plus(a.amount, b.amount));
export const takeDuration = (a: Duration, b: Duration): Duration | null =>
  bounded(a.unit, minus(a.amount, b.amount));
export const negated = (of: Duration): Duration => new Duration(of.unit, of.amount.neg());
/** Months are whole: a part of a month is cut off. */
export const timesNumber = (of: Duration, n: Big): Duration | null =>
  bounded(of.unit, whole(of.unit, times(of.amount, n)));
export const byNumber = (of: Duration, n: Big): Duration | null =>
  bounded(of.unit, whole(of.unit, divide(of.amount, n)));
/** How many times `b` goes into `a`. */
export const byDuration = (a: Duration, b: Duration): Big | null => divide(a.amount, b.amount);

const whole = (unit: Duration['unit'], n: Big | null): Big | null =>
  n !== null && unit === 'months' ? n.round(0, Big.roundDown) : n;

export type DurationPart = 'years' | 'months' | 'days' | 'hours' | 'minutes' | 'seconds';
const sizes: Readonly<Record<DurationPart, readonly [each: number, of: number]>> = {
  years: [12, 0],
  months: [1, 12],
  days: [86_400, 0],
  hours: [3_600, 86_400],
  minutes: [60, 3_600],
  seconds: [1, 60],
};

/** A component with the sign of the whole: `-PT90M` has -1 hours and -30 minutes. */
export function durationPart({ amount }: Duration, part: DurationPart): Big {
  const [each, of] = sizes[part];
  const rest = of === 0 ? amount : amount.mod(of);
  return part === 'seconds' ? rest : rest.div(each).round(0, Big.roundDown);
}
