import { formatsHere, type NumberForm } from './formats';

interface Signs {
  readonly group: string;
  readonly point: '.' | ',';
}

/** A narrow space that does not break. */
const SPACE = '\u202f';

const signs: Readonly<Record<NumberForm, Signs>> = {
  'space-point': { group: SPACE, point: '.' },
  'space-comma': { group: SPACE, point: ',' },
  'comma-point': { group: ',', point: '.' },
  'point-comma': { group: '.', point: ',' },
  'apostrophe-point': { group: '’', point: '.' },
};

const threes = new Intl.NumberFormat('en-GB');

/** The digits of a whole number in groups of three: -1 234 567. Of any length; a sign stays. */
export function inThrees(whole: string, form = formatsHere().numbers): string {
  const sign = whole.startsWith('-') ? '-' : '';
  return sign + threes.format(BigInt(whole.slice(sign.length))).replaceAll(',', signs[form].group);
}

/** Plain digits with a point, such as -1942.50, as they are written here. */
export function writtenNumber(plain: string, form = formatsHere().numbers): string {
  const [whole = '', decimals] = plain.split('.');
  const shown = whole === '-0' ? '-0' : inThrees(whole, form);
  return decimals === undefined ? shown : `${shown}${signs[form].point}${decimals}`;
}

/** Blanks of any width, which are nowhere anything else than what parts thousands. */
const BLANKS = /[\s\u202f\u00a0]/g;
/** A number among what it may be typed with: its currency before it, its unit after. */
const AMONG = /^([^\d.,+\-−]*)([-+−]?[\d.,][\d.,'’\s\u202f\u00a0]*)(.*)$/s;

/**
 * What was typed as everybody keeps it: digits with a point. What is no number as it is written here comes out
 * as something that is none anywhere (1.9 where the point parts thousands becomes 1,9), so that it is asked
 * about and never guessed; `numberAsTyped` is the inverse.
 */
export function numberAsKept(typed: string, form = formatsHere().numbers): string {
  const [, before = '', number, after = ''] = AMONG.exec(typed) ?? [];
  return number === undefined ? typed : `${before}${asKept(number, signs[form])}${after}`;
}

function asKept(number: string, { group, point }: Signs): string {
  const blank = /\s*$/.exec(number)?.[0] ?? '';
  const bare = number.trimEnd();
  const [, sign = '', whole = '', decimals] =
    (point === '.' ? /^([-+−]?)([^.]*)(?:\.(\d*))?$/ : /^([-+−]?)([^,]*)(?:,(\d*))?$/).exec(bare) ?? [];
  const plain = ungrouped(whole, group);
  if (plain !== null && (plain !== '' || decimals !== undefined))
    return `${sign}${plain}${decimals === undefined ? '' : `.${decimals}`}${blank}`;
  return point === '.' ? number : swapped(number);
}

/** Digits without what parts their thousands; null where it stands elsewhere than between threes. */
function ungrouped(whole: string, group: string): string | null {
  const close = whole.replace(BLANKS, '');
  if (group === SPACE) return /^\d*$/.test(close) ? close : null;
  const parts = (group === '’' ? close.replaceAll("'", '’') : close).split(group);
  const isThrees = parts.slice(1).every((part) => /^\d{3}$/.test(part));
  const [first = ''] = parts;
  if (!isThrees || !/^\d*$/.test(first)) return null;
  return parts.length > 1 && !/^\d{1,3}$/.test(first) ? null : parts.join('');
}

const swapped = (text: string): string => text.replace(/[.,]/g, (one) => (one === '.' ? ',' : '.'));

/** What is kept of a number, as it would be typed here. What is none stands as it was typed. */
export function numberAsTyped(kept: string, form = formatsHere().numbers): string {
  const [, before = '', number, after = ''] = AMONG.exec(kept) ?? [];
  return number === undefined || signs[form].point === '.' ? kept : `${before}${swapped(number)}${after}`;
}
