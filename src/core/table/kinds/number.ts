import { writtenNumber } from '../../formats/numbers';
import Big from 'big.js';
import { NUMBER } from '../../expression/type';
import { isBig, type Value } from '../../expression/value';
import { issue, type Issue } from '../../kernel/issue';
import { fail, ok, type Result } from '../../kernel/result';
import { limits } from '../../limits';
import type { Raw } from '../../form/answers';
import type { Kind, KindFacts } from './kind';

/** Digits with a point, and spaces between thousands; a comma could mean either sign, so it is asked about, not guessed. */
const WRITTEN = /^[-+−]?(\d[\d\s\u202f\u00a0]*)?(\.\d*)?$/;

function readNumber(raw: Raw, decimals: number, { unit = '' }: KindFacts): Result<Value, Issue> {
  if (typeof raw !== 'string') return fail(issue('not-a-number', []));
  const written = withoutUnit(raw.trim(), unit);
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

/** Numbers are shown with their currency or beside their unit, so they may be typed and pasted with it. */
function withoutUnit(written: string, unit: string): string {
  if (unit === '') return written;
  const [text, mark] = [written.toLowerCase(), unit.toLowerCase()];
  if (text.startsWith(mark)) return written.slice(unit.length).trim();
  return text.endsWith(mark) ? written.slice(0, written.length - unit.length).trim() : written;
}

const digits = (value: Value, decimals: number): Raw =>
  isBig(value) ? value.toFixed(decimals, Big.roundHalfUp) : null;

/** 1 942.5, as numbers are written here: a fixed number of decimals, half up. */
export function showNumber(value: Value, decimals: number): string {
  return isBig(value) ? writtenNumber(value.toFixed(decimals, Big.roundHalfUp)) : '';
}

/** Whole numbers below ten thousand stand undivided: they may be years. */
const showWhole = (value: Value): string =>
  isBig(value) && value.abs().lt(10_000) ? value.toFixed(0) : showNumber(value, 0);

export const whole: Kind = {
  type: NUMBER,
  columnType: () => `numeric(${limits.numberDigits}, 0)`,
  read: (raw, facts) => readNumber(raw, 0, facts),
  show: showWhole,
  write: (value) => digits(value, 0),
};

export const decimal: Kind = {
  type: NUMBER,
  columnType: ({ decimals }) => `numeric(${limits.numberDigits + (decimals ?? 0)}, ${decimals ?? 0})`,
  read: (raw, facts) => readNumber(raw, facts.decimals ?? 0, facts),
  show: (value, { decimals }) => showNumber(value, decimals ?? 0),
  write: (value, { decimals }) => digits(value, decimals ?? 0),
};

/** Shown with its currency; two decimals unless the column says otherwise. */
export const money: Kind = {
  type: NUMBER,
  columnType: ({ decimals }) => `numeric(${limits.numberDigits + (decimals ?? 2)}, ${decimals ?? 2})`,
  read: (raw, facts) => readNumber(raw, facts.decimals ?? 2, facts),
  show: (value, { decimals, unit = '' }) =>
    `${unit === '' ? '' : `${unit}\u00a0`}${showNumber(value, decimals ?? 2)}`,
  write: (value, { decimals }) => digits(value, decimals ?? 2),
};
