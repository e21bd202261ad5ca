import Big from 'big.js';
import { readDuration } from '../duration';
import {
  datePart,
  momentPart,
  monthsBetween,
  plainDate,
  plainDateTime,
  plainTime,
  timePart,
  weekday,
} from '../moment';
import { DATE, DATE_TIME, DAYS, MONTHS, NUMBER, TEXT, TIME } from '../type';
import { isBig, type Value } from '../value';
import { sql, words } from '../sql/fragment';
import { a, named, type Builtin, type SqlArgument } from './builtin';

const padded = (value: Value, width: number): string =>
  isBig(value) && value.gte(0) && value.eq(value.round(0)) ? value.toFixed().padStart(width, '0') : '?';

/** Seconds may have decimals; hours and minutes are whole. */
function timeOf(h: Value, m: Value, s: Value): Value {
  if (!isBig(s) || s.lt(0)) return null;
  const [whole = '', part] = s.round(6, Big.roundDown).toFixed().split('.');
  return plainTime(
    `${padded(h, 2)}:${padded(m, 2)}:${whole.padStart(2, '0')}${part === undefined ? '' : `.${part}`}`,
  );
}

const dayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const onDay = (name: string, run: (day: string) => Value, format: string): Builtin => ({
  name,
  sql: ([of]) => (of === undefined ? null : sql`to_char(${of.sql()}, '${words(format)}')`),
  ways: [{ takes: [a(DATE, DATE_TIME)], gives: TEXT }],
  run: ([of = null]) => (typeof of === 'string' ? run(of) : null),
});

/** A text may not be a date, and a cast would end the query; only what is a moment already is cast. */
const castOf = ([of]: readonly SqlArgument[], to: 'date' | 'time') =>
  of === undefined || of.type.t === 'text' ? null : sql`${of.sql()}::${words(to)}`;

export const dateFunctions: readonly Builtin[] = [
  { name: 'today', ways: [{ takes: [], gives: DATE }], run: (_, world) => world.today },
  { name: 'now', ways: [{ takes: [], gives: DATE_TIME }], run: (_, world) => world.now },
  {
    name: 'date',
    sql: (args) => (args.length === 3 ? named('slate.day')(args) : castOf(args, 'date')),
    ways: [
      { takes: [a(TEXT)], gives: DATE },
      { takes: [a(DATE_TIME, DATE)], gives: DATE },
      { takes: [a(NUMBER), a(NUMBER), a(NUMBER)], gives: DATE },
    ],
    run: (args) => {
      const [of = null, month = null, day = null] = args;
      if (args.length === 3) return plainDate(`${padded(of, 4)}-${padded(month, 2)}-${padded(day, 2)}`);
      return typeof of !== 'string'
        ? null
        : of.length > 10 && of.charAt(10) === 'T'
          ? plainDate(datePart(of))
          : plainDate(of);
    },
  },
  {
    name: 'time',
    sql: (args) => (args.length === 1 ? castOf(args, 'time') : null),
    ways: [
      { takes: [a(TEXT)], gives: TIME },
      { takes: [a(DATE_TIME, TIME)], gives: TIME },
      { takes: [a(NUMBER), a(NUMBER), a(NUMBER)], gives: TIME },
    ],
    run: (args) => {
      const [of = null, minute = null, second = null] = args;
      if (args.length === 3) return timeOf(of, minute, second);
      return typeof of !== 'string' ? null : plainTime(of.charAt(10) === 'T' ? timePart(of) : of);
    },
  },
  {
    name: 'date and time',
    sql: ([day, time]) => (day && time ? sql`(${day.sql()}::date + ${time.sql()})` : null),
    ways: [
      { takes: [a(TEXT)], gives: DATE_TIME },
      { takes: [a(DATE, DATE_TIME), a(TIME)], gives: DATE_TIME },
    ],
    run: (args) => {
      const [of = null, time = null] = args;
      if (typeof of !== 'string') return null;
      return args.length === 1
        ? plainDateTime(of)
        : typeof time === 'string'
          ? `${datePart(of)}T${time}`
          : null;
    },
  },
  // Whether a text holds days or months is known only when it is read, so it must stand in the rule; text in
  // quotes is a literal before it comes here.
  {
    name: 'duration',
    ways: [{ takes: [{ words: ['text in quotes'], takes: () => false }], gives: DAYS }],
    run: ([of = null]) => (typeof of === 'string' ? readDuration(of) : null),
  },
  {
    name: 'years and months duration',
    sql: named('slate.months_between'),
    ways: [{ takes: [a(DATE, DATE_TIME), a(DATE, DATE_TIME)], gives: MONTHS }],
    run: ([from = null, to = null]) =>
      typeof from === 'string' && typeof to === 'string' ? monthsBetween(from, to) : null,
  },
  onDay('day of week', (day) => dayNames[weekday(day) - 1] ?? null, 'FMDay'),
  onDay('month of year', (day) => monthNames[momentPart(day, 'month').toNumber() - 1] ?? null, 'FMMonth'),
];
