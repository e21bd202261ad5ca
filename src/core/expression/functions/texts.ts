import Big from 'big.js';
import { Duration, durationText } from '../duration';
import { numberText } from '../number';
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, TEXT, TIME, YES_NO, type Type } from '../type';
import { isBig, isList, type Value } from '../value';
import { sql, value, type SqlFragment } from '../sql/fragment';
import { a, aListOf, named, type Builtin, type SqlArgument } from './builtin';

type InSql = (text: SqlFragment, other: SqlFragment) => SqlFragment;
const onBoth =
  (write: InSql) =>
  ([text, other]: readonly SqlArgument[]): SqlFragment | null =>
    text && other ? write(text.sql(), other.sql()) : null;
/** What JavaScript's `trim` takes away: the white space and line ends of Unicode. */
export const SPACES =
  ' \t\n\v\f\r\u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff';

const onText = (
  name: string,
  run: (text: string) => Value,
  inSql: (text: SqlFragment) => SqlFragment,
  gives: Type = TEXT,
): Builtin => ({
  name,
  sql: ([text]) => (text === undefined ? null : inSql(text.sql())),
  ways: [{ takes: [a(TEXT)], gives }],
  run: ([of = null]) => (typeof of === 'string' ? run(of) : null),
});
const onTexts = (
  name: string,
  gives: Type,
  run: (text: string, other: string) => Value,
  inSql: InSql,
): Builtin => ({
  name,
  sql: onBoth(inSql),
  ways: [{ takes: [a(TEXT), a(TEXT)], gives }],
  run: ([text = null, other = null]) =>
    typeof text === 'string' && typeof other === 'string' ? run(text, other) : null,
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
  if (!Number.isInteger(at) || at === 0 || Math.abs(at) > points.length)
    return at !== 0 && Number.isInteger(at) ? '' : null;
  const from = at > 0 ? at - 1 : points.length + at;
  if (length === null) return points.slice(from).join('');
  const many = isBig(length) ? length.toNumber() : NaN;
  return Number.isInteger(many) && many >= 0 ? points.slice(from, from + many).join('') : null;
}

const before = (text: string, mark: string): string => text.slice(0, Math.max(0, text.indexOf(mark)));
const after = (text: string, mark: string): string =>
  text.includes(mark) ? text.slice(text.indexOf(mark) + mark.length) : '';

/** Durations have no text of their own in PostgreSQL that is ISO's. */
function stringSql({ sql: write, type }: SqlArgument): SqlFragment | null {
  switch (type.t) {
    case 'number':
      return sql`trim_scale(${write()})::text`;
    case 'date':
      return sql`to_char(${write()}, 'YYYY-MM-DD')`;
    case 'time':
    case 'yes-no':
      return sql`${write()}::text`;
    case 'date-time':
      return sql`(to_char(${write()}, 'YYYY-MM-DD"T"') || ${write()}::time::text)`;
    case 'text':
    case 'null':
      return write();
    default:
      return null;
  }
}

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
    name: 'string',
    sql: ([of]) => (of === undefined ? null : stringSql(of)),
    ways: [{ takes: [a(TEXT, NUMBER, YES_NO, DATE, TIME, DATE_TIME, DAYS, MONTHS)], gives: TEXT }],
    run: ([of = null]) => textOfValue(of),
  },
  {
    name: 'number',
    ways: [{ takes: [a(TEXT), a(TEXT), a(TEXT)], optional: 2, gives: NUMBER }],
    run: ([of = null, group = null, point = null]) =>
      typeof of === 'string' ? numberOf(of, group, point) : null,
  },
  onText(
    'string length',
    (text) => new Big([...text].length),
    (text) => sql`char_length(${text})::numeric`,
    NUMBER,
  ),
  {
    name: 'substring',
    sql: named('slate.substring'),
    ways: [{ takes: [a(TEXT), a(NUMBER), a(NUMBER)], optional: 1, gives: TEXT }],
    run: ([text = null, start = null, length = null]) =>
      typeof text === 'string' && isBig(start) ? substring(text, start, length) : null,
  },
  onTexts('substring before', TEXT, before, (text, mark) => sql`slate.text_before(${text}, ${mark})`),
  onTexts('substring after', TEXT, after, (text, mark) => sql`slate.text_after(${text}, ${mark})`),
  onTexts(
    'contains',
    YES_NO,
    (text, other) => text.includes(other),
    (text, other) => sql`(strpos(${text}, ${other}) > 0)`,
  ),
  onTexts(
    'starts with',
    YES_NO,
    (text, other) => text.startsWith(other),
    (text, other) => sql`starts_with(${text}, ${other})`,
  ),
  onTexts(
    'ends with',
    YES_NO,
    (text, other) => text.endsWith(other),
    (text, other) => sql`(right(${text}, char_length(${other})) = ${other})`,
  ),
  onText(
    'upper case',
    (text) => text.toUpperCase(),
    (text) => sql`slate.upper_case(${text})`,
  ),
  onText(
    'lower case',
    (text) => text.toLowerCase(),
    (text) => sql`slate.lower_case(${text})`,
  ),
  onText(
    'trim',
    (text) => text.trim(),
    (text) => sql`btrim(${text}, ${value(SPACES, 'text')})`,
  ),
  {
    name: 'string join',
    ways: [{ takes: [aListOf(TEXT), a(TEXT)], optional: 1, gives: TEXT }],
    run: ([list = null, mark = null], _, meter) => {
      if (!isList(list) || !list.every((one) => one === null || typeof one === 'string')) return null;
      const joined = list.filter((one) => one !== null).join(typeof mark === 'string' ? mark : '');
      return (meter.spend(joined.length), joined);
    },
  },
];
