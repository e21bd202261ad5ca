import Big from 'big.js';
import { NUMBER } from '../../expression/type';
import { isBig, type Value } from '../../expression/value';
import { issue, type Issue } from '../../kernel/issue';
import { fail, ok, type Result } from '../../kernel/result';
import { limits } from '../../limits';
import type { Raw } from '../../form/answers';
import type { Kind } from './kind';

/** Digits with a point, and spaces between thousands; a comma could mean either sign, so it is asked about, not guessed. */
const WRITTEN = /^[-+−]?(\d[\d\s\u202f\u00a0]*)?(\.\d*)?$/;

function readNumber(raw: Raw, decimals: number): Result<Value, Issue> {
  if (typeof raw !== 'string') return fail(issue('not-a-number', []));
  const written = raw.trim();
  if (!WRITTEN.test(written) || !/\d/.test(written))
    return fail(issue('not-a-number', [], { comma: written.includes(',') }));
  const [whole = '', part = ''] = written
    .replace(/[\s\u202f\u00a0+]/g, '')
    .replace('−', '-')
    .split('.');
  if (whole.replace('-', '').replace(/^0+/, '').length > limits.numberDigits)
    return fail(issue('number-too-large', [], { most: limits.numberDigits }));
  if (part.replace(/0+$/, '').length > decimals) {
    return fail(decimals === 0 ? issue('not-whole', []) : issue('too-many-decimals', [], { most: decimals }));
  }
  return ok(
    new Big(`${whole === '' || whole === '-' ? whole + '0' : whole}${part === '' ? '' : '.' + part}`),
  );
}

/** 1 942.5: thousands parted by a thin space that does not break, a fixed number of decimals, half up. */
export function showNumber(value: Value, decimals: number): string {
  if (!isBig(value)) return '';
  const [whole = '', part] = value.toFixed(decimals, Big.roundHalfUp).split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, '\u202f');
  return part === undefined ? grouped : `${grouped}.${part}`;
}

/** Whole numbers below ten thousand stand undivided: they may be years. */
const showWhole = (value: Value): string =>
  isBig(value) && value.abs().lt(10_000) ? value.toFixed(0) : showNumber(value, 0);

export const whole: Kind = {
  type: NUMBER,
  columnType: () => `numeric(${limits.numberDigits}, 0)`,
  read: (raw) => readNumber(raw, 0),
  show: showWhole,
};

export const decimal: Kind = {
  type: NUMBER,
  columnType: ({ decimals }) => `numeric(${limits.numberDigits + (decimals ?? 0)}, ${decimals ?? 0})`,
  read: (raw, { decimals }) => readNumber(raw, decimals ?? 0),
  show: (value, { decimals }) => showNumber(value, decimals ?? 0),
};

/** Shown with its currency; two decimals unless the column says otherwise. */
export const money: Kind = {
  type: NUMBER,
  columnType: ({ decimals }) => `numeric(${limits.numberDigits + (decimals ?? 2)}, ${decimals ?? 2})`,
  read: (raw, { decimals }) => readNumber(raw, decimals ?? 2),
  show: (value, { decimals, unit = '' }) =>
    `${unit === '' ? '' : `${unit}\u00a0`}${showNumber(value, decimals ?? 2)}`,
};
