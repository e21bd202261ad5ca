import Big from 'big.js';
import { Duration, durationText } from '../duration';
import { numberText } from '../number';
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, TEXT, TIME, YES_NO, type Type } from '../type';
import { isBig, isList, type Value } from '../value';
import { a, aListOf, type Builtin } from './builtin';

const onText = (name: string, run: (text: string) => Value, gives: Type = TEXT): Builtin => ({
  name, ways: [{ takes: [a(TEXT)], gives }], run: ([of = null]) => (typeof of === 'string' ? run(of) : null),
});
const onTexts = (name: string, gives: Type, run: (text: string, other: string) => Value): Builtin => ({
  name, ways: [{ takes: [a(TEXT), a(TEXT)], gives }],
  run: ([text = null, other = null]) => (typeof text === 'string' && typeof other === 'string' ? run(text, other) : null),
});

/** What `string()` gives of one value; null of null. */
export function textOfValue(value: Value): string | null {
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return String(value);
  if (isBig(value)) return numberText(value);
  return value instanceof Duration ? durationText(value) : null;
}

/** Characters are code points, never halves of them; the first is 1, the last -1. */
function substring(text: string, start: Big, length: Value): Value {
  const points = [...text];
  const at = start.toNumber();
  if (!Number.isInteger(at) || at === 0 || Math.abs(at) > points.length) return at !== 0 && Number.isInteger(at) ? '' : null;
  const from = at > 0 ? at - 1 : points.length + at;
  if (length === null) return points.slice(from).join('');
  const many = isBig(length) ? length.toNumber() : NaN;
  return Number.isInteger(many) && many >= 0 ? points.slice(from, from + many).join('') : null;
}

const before = (text: string, mark: string): string => text.slice(0, Math.max(0, text.indexOf(mark)));
const after = (text: string, mark: string): string => (text.includes(mark) ? text.slice(text.indexOf(mark) + mark.length) : '');

const NUMERIC = /^-?(\d+(\.\d*)?|\.\d+)$/;

/** DMN 1.5 table 73: text to number, with the sign between thousands and the decimal sign when they are not none and a point. */
function numberOf(text: string, group: Value, point: Value): Value {
  const [between, mark] = [typeof group === 'string' ? group : '', typeof point === 'string' ? point : '.'];
  if (!['', ' ', ',', '.'].includes(between) || !['.', ','].includes(mark) || between === mark) return null;
  const plain = (between === '' ? text : text.replaceAll(between, '')).replace(mark, '.').trim();
  const digits = plain.replace(/^-?0*|\./g, '').length;
  return NUMERIC.test(plain) && digits <= 34 ? new Big(plain.replace(/\.$/, '')) : null;
}

export const textFunctions: readonly Builtin[] = [
  {
    name: 'string', ways: [{ takes: [a(TEXT, NUMBER, YES_NO, DATE, TIME, DATE_TIME, DAYS, MONTHS)], gives: TEXT }],
    run: ([of = null]) => textOfValue(of),
  },
  {
    name: 'number', ways: [{ takes: [a(TEXT), a(TEXT), a(TEXT)], optional: 2, gives: NUMBER }],
    run: ([of = null, group = null, point = null]) => (typeof of === 'string' ? numberOf(of, group, point) : null),
  },
  onText('string length', (text) => new Big([...text].length), NUMBER),
  {
    name: 'substring', ways: [{ takes: [a(TEXT), a(NUMBER), a(NUMBER)], optional: 1, gives: TEXT }],
    run: ([text = null, start = null, length = null]) => (typeof text === 'string' && isBig(start) ? substring(text, start, length) : null),
  },
  onTexts('substring before', TEXT, before),
  onTexts('substring after', TEXT, after),
  onTexts('contains', YES_NO, (text, other) => text.includes(other)),
  onTexts('starts with', YES_NO, (text, other) => text.startsWith(other)),
  onTexts('ends with', YES_NO, (text, other) => text.endsWith(other)),
  onText('upper case', (text) => text.toUpperCase()),
  onText('lower case', (text) => text.toLowerCase()),
  onText('trim', (text) => text.trim()),
  {
    name: 'string join', ways: [{ takes: [aListOf(TEXT), a(TEXT)], optional: 1, gives: TEXT }],
    run: ([list = null, mark = null], _, meter) => {
      if (!isList(list) || !list.every((one) => one === null || typeof one === 'string')) return null;
      const joined = list.filter((one) => one !== null).join(typeof mark === 'string' ? mark : '');
      return (meter.spend(joined.length), joined);
    },
  },
];
