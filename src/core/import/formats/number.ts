/** The sign before the decimals. */
export type DecimalSign = '.' | ',';

/** A text that is a number, and what it shows of how numbers are written here. */
export interface NumberShape {
  readonly negative: boolean;
  readonly whole: string;
  readonly fraction: string;
  /**
   * The decimal sign this number gives away; null where it shows none, `either` where one separator could be
   * decimal or group thousands.
   */
  readonly sign: DecimalSign | 'either' | null;
  /** The separator that would be decimal or grouping, for `either`. */
  readonly separator: DecimalSign | null;
  readonly currency: string | null;
  readonly percent: boolean;
  readonly unit: string;
}

const CURRENCIES: Readonly<Record<string, string>> = {
  '€': 'EUR',
  $: 'USD',
  '£': 'GBP',
  '¥': 'JPY',
  '₹': 'INR',
  '₺': 'TRY',
  '₽': 'RUB',
  '₩': 'KRW',
  zł: 'PLN',
  Kč: 'CZK',
  CHF: 'CHF',
  Fr: 'CHF',
  kr: 'SEK',
};
const CODES = new Set([
  'EUR',
  'USD',
  'GBP',
  'JPY',
  'CHF',
  'SEK',
  'NOK',
  'DKK',
  'PLN',
  'CZK',
  'HUF',
  'AUD',
  'CAD',
  'NZD',
  'INR',
  'CNY',
  'TRY',
  'ZAR',
  'BRL',
  'MXN',
  'RON',
  'BGN',
  'ISK',
  'KRW',
]);
const SHAPE =
  /^(\()?\s*([-+−])?\s*([€$£¥₹₺₽₩]|[A-Z]{3}|Fr\.?|kr\.?)?\s*([-+−])?\s*(\d[\d.,'’ \u00a0\u202f]*|[.,]\d+)\s*([^\d\s()−-][^\d()]{0,11})?\s*(\))?([-−])?$/;
const START = /^(?:[-+−(\d.,€$£¥₹₺₽₩]|(?:[A-Z]{3}|Fr\.?|kr\.?)\s?[-+−\d.,])/;

/** Null when it is no number. A sign of its own (`-`), brackets, a currency, a percent sign and a unit may stand with it. */
export function numberShape(text: string): NumberShape | null {
  if (PLAIN.test(text))
    return {
      negative: text.startsWith('-'),
      whole: text.replace('-', ''),
      fraction: '',
      sign: null,
      separator: null,
      currency: null,
      percent: false,
      unit: '',
    };
  if (text.length > 40 || !START.test(text)) return null;
  const found = SHAPE.exec(text);
  if (found === null) return null;
  const [, open, minus, before = '', inner, digits = '', after = '', close, trailing] = found;
  if ((open === undefined) !== (close === undefined)) return null;
  const body = bodyOf(digits.trimEnd());
  const currency = currencyOf(before) ?? currencyOf(after.trim());
  if (body === null || (before !== '' && currencyOf(before) === null)) return null;
  const unit = currencyOf(after.trim()) === null ? after.trim() : '';
  const negative = [minus, inner, trailing].some((one) => one === '-' || one === '−') || open !== undefined;
  return { ...body, negative, currency, percent: unit === '%', unit };
}
const PLAIN = /^-?\d{1,15}$/;

const currencyOf = (text: string): string | null =>
  CODES.has(text) ? text : (CURRENCIES[text.replace(/\.$/, '')] ?? null);

type Body = Pick<NumberShape, 'whole' | 'fraction' | 'sign' | 'separator'>;

/** Which separators group thousands and which comes before the decimals, as far as the digits themselves tell. */
function bodyOf(digits: string): Body | null {
  const plain = digits.replace(/(?<=\d)[ '’\u00a0\u202f](?=\d{3}(?!\d))/g, '');
  if (/[ '’\u00a0\u202f]/.test(plain)) return null;
  const grouped = plain !== digits;
  const separators = plain.replace(/\d/g, '');
  if (separators === '') return { whole: plain, fraction: '', sign: null, separator: null };
  const last = separators.at(-1) as DecimalSign;
  if (separators.length === 1) return oneSeparator(plain, last, grouped);
  const first = separators[0] as DecimalSign;
  const groups = separators.slice(0, -1);
  if (last !== first) return [...groups].every((one) => one === first) ? split(plain, last, first) : null;
  return isGrouped(plain, first)
    ? { whole: plain.replaceAll(first, ''), fraction: '', sign: first === ',' ? '.' : ',', separator: null }
    : null;
}

function oneSeparator(plain: string, separator: DecimalSign, grouped: boolean): Body {
  const [left = '', right = ''] = plain.split(separator);
  const either = !grouped && right.length === 3 && left.length > 0 && left.length <= 3 && !/^0/.test(left);
  return { whole: left === '' ? '0' : left, fraction: right, sign: either ? 'either' : separator, separator };
}

function split(plain: string, decimal: DecimalSign, group: DecimalSign): Body | null {
  const [left = '', right = ''] = plain.split(decimal);
  return isGrouped(left, group)
    ? { whole: left.replaceAll(group, ''), fraction: right, sign: decimal, separator: null }
    : null;
}

function isGrouped(text: string, by: DecimalSign): boolean {
  const [first = '', ...rest] = text.split(by);
  return first.length >= 1 && first.length <= 3 && rest.every((one) => one.length === 3);
}

/** A number as plain digits with a point, read by the decimal sign that is used here; null when it does not fit. */
export function readNumber(shape: NumberShape, sign: DecimalSign): string | null {
  if (shape.sign !== null && shape.sign !== 'either' && shape.sign !== sign) return null;
  const groups = shape.sign === 'either' && shape.separator !== sign;
  const [whole, fraction] = groups ? [shape.whole + shape.fraction, ''] : [shape.whole, shape.fraction];
  const trimmed = whole.replace(/^0+(?=\d)/, '');
  return `${shape.negative && /[1-9]/.test(whole + fraction) ? '-' : ''}${trimmed}${fraction === '' ? '' : `.${fraction}`}`;
}

/** A code that only looks like a number: `007`, and anything with more digits than a number holds. */
export const isCodeLike = ({ whole }: NumberShape): boolean =>
  (whole.length > 1 && whole.startsWith('0')) || whole.length > 15;
