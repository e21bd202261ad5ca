import type { Random } from '../../demo/random';
import { arithmeticWays } from '../../src/core/expression/nodes/arithmetic';
import {
  DATE,
  DATE_TIME,
  DAYS,
  MONTHS,
  NUMBER,
  TEXT,
  TIME,
  YES_NO,
  type Field,
  type ScalarName,
  type Scope,
  type Type,
} from '../../src/core/expression/type';

/**
 * Typed expressions at random, as FEEL text, over one record with child rows. Whatever is made here reads without a refusal.
 * With `sql`, only what has an SQL form is made.
 */
export interface Wants {
  readonly sql: boolean;
  /** Leaves out what another evaluator of the language is known to get wrong, so that the rest can be compared. */
  readonly plain?: boolean;
}

const field = (id: string, type: Type): [string, Field] => [id, { id, type }];
/** `a` to `e` may be empty; their types say what they hold. */
export const parentColumns: readonly (readonly [name: string, type: ScalarName])[] = [
  ['num_a', 'number'],
  ['num_b', 'number'],
  ['big', 'number'],
  ['word_a', 'text'],
  ['word_b', 'text'],
  ['yes_a', 'yes-no'],
  ['yes_b', 'yes-no'],
  ['day_a', 'date'],
  ['day_b', 'date'],
  ['clock_a', 'time'],
  ['moment_a', 'date-time'],
];
export const childColumns: readonly (readonly [name: string, type: ScalarName])[] = [
  ['amount', 'number'],
  ['price', 'number'],
  ['label', 'text'],
  ['done', 'yes-no'],
  ['due', 'date'],
];
const types: Readonly<Record<ScalarName, Type>> = {
  number: NUMBER,
  text: TEXT,
  'yes-no': YES_NO,
  date: DATE,
  time: TIME,
  'date-time': DATE_TIME,
  days: DAYS,
  months: MONTHS,
};
export const scopeOfRecord: Scope = new Map([
  ...parentColumns.map(([name, type]) => field(name, types[type])),
  field('lines', {
    t: 'rows',
    group: 'lines',
    columns: new Map(childColumns.map(([name, type]) => field(name, types[type]))),
  }),
]);

interface Setting extends Wants {
  readonly random: Random;
  /** Columns of the row a loop or a filter stands at, with what goes before their names. */
  readonly row: string | null;
}

export function randomExpression(random: Random, type: ScalarName, depth: number, wants: Wants): string {
  return make({ ...wants, random, row: null }, type, depth);
}

const comparable: readonly ScalarName[] = ['number', 'text', 'date', 'time', 'date-time', 'days', 'months'];

function make(set: Setting, type: ScalarName, depth: number): string {
  if (depth <= 0 || set.random.chance(0.15)) return leaf(set, type);
  const ways: (() => string)[] = [
    () =>
      `(if ${make(set, 'yes-no', depth - 1)} then ${make(set, type, depth - 1)} else ${make(set, type, depth - 1)})`,
    ...shapes[type](set, depth - 1),
  ];
  return set.random.pick(ways)();
}

function leaf(set: Setting, type: ScalarName): string {
  // A row may read the record it belongs to as well.
  const ofRow = set.row !== null && set.random.chance(0.85);
  const named = (ofRow ? childColumns : parentColumns)
    .filter(([, one]) => one === type)
    .map(([name]) => (ofRow ? (set.row ?? '') : '') + name);
  if (named.length > 0 && set.random.chance(0.65)) return set.random.pick(named);
  return set.random.chance(0.08) && set.plain !== true
    ? `(if false then ${literal(set.random, type)} else null)`
    : literal(set.random, type);
}

const two = (n: number): string => String(n).padStart(2, '0');
const day = (random: Random): string =>
  `${random.whole(1900, 2100)}-${two(random.whole(1, 12))}-${two(random.whole(1, 28))}`;
const clock = (random: Random): string =>
  `${two(random.whole(0, 23))}:${two(random.whole(0, 59))}:${two(random.whole(0, 59))}`;

function literal(random: Random, type: ScalarName): string {
  switch (type) {
    case 'number':
      return random.pick([
        () => String(random.whole(-9, 20)),
        () => (random.whole(-2_000, 2_000) / 8).toString(),
        () => `${random.whole(1, 999_999_999)}.${random.whole(1, 99_999_999)}`,
      ])();
    case 'text':
      return JSON.stringify(
        random.pick(['', 'fern', 'Fern house', 'a b', 'é', 'Zz', '  x ', 'naïve', '12', '🌿']),
      );
    case 'yes-no':
      return random.pick(['true', 'false']);
    case 'date':
      return `date("${random.chance(0.1) ? `${random.pick(['2024-02-29', '2026-01-31', '2026-12-31'])}` : day(random)}")`;
    case 'time':
      return `time("${clock(random)}")`;
    case 'date-time':
      return `date and time("${day(random)}T${clock(random)}")`;
    case 'days':
      return `duration("${random.pick(['P1D', 'PT36H', '-P10D', 'PT90M', 'P400D', 'PT0S', 'PT1.5S'])}")`;
    case 'months':
      return `duration("${random.pick(['P1M', 'P1Y', '-P13M', 'P6M', 'P0M'])}")`;
  }
}

function arithmetic(set: Setting, gives: ScalarName, depth: number): (() => string)[] {
  return (['+', '-', '*', '/'] as const).flatMap((sign) =>
    arithmeticWays(sign)
      .filter((way) => way.gives === gives && !(set.sql && gives === 'text'))
      .map(
        ({ left, right }) =>
          () =>
            `(${make(set, left, depth)} ${sign} ${make(set, right, depth)})`,
      ),
  );
}

const some =
  (set: Setting, depth: number, name: string, ...args: ScalarName[]) =>
  () =>
    `${name}(${args.map((arg) => make(set, arg, depth)).join(', ')})`;
const places = (set: Setting): string => String(set.random.whole(-1, 6));
const overRows = (set: Setting, ways: (() => string)[]): (() => string)[] => (set.row === null ? ways : []);
const inRow = (set: Setting): Setting => ({ ...set, row: 'x.' });
const inFilter = (set: Setting): Setting => ({ ...set, row: 'item.' });
const filtered = (set: Setting, depth: number): string =>
  set.random.chance(0.5) ? 'lines' : `lines[${make(inFilter(set), 'yes-no', depth)}]`;

const shapes: Readonly<Record<ScalarName, (set: Setting, depth: number) => (() => string)[]>> = {
  number: (set, depth) => [
    ...arithmetic(set, 'number', depth),
    ...['round half up', 'round half down', 'round up', 'round down', 'decimal', 'floor', 'ceiling'].map(
      (name) => () => `${name}(${make(set, 'number', depth)}, ${places(set)})`,
    ),
    some(set, depth, 'abs', 'number'),
    some(set, depth, 'modulo', 'number', 'number'),
    some(set, depth, 'string length', 'text'),
    some(set, depth, 'sqrt', 'number'),
    () => `(${make(set, 'days', depth)}).${set.random.pick(['days', 'hours', 'minutes', 'seconds'])}`,
    () => `(${make(set, 'months', depth)}).${set.random.pick(['years', 'months'])}`,
    () => `(-(${make(set, 'number', depth)}))`,
    () => `${make(set, 'date', 0)}.${set.random.pick(['year', 'month', 'day', 'weekday'])}`,
    ...overRows(set, [
      ...['sum', 'min', 'max', 'mean'].flatMap((name) => [
        () => `${name}(${filtered(set, depth)}.${set.random.pick(['amount', 'price'])})`,
        () => `${name}(for x in ${filtered(set, 0)} return ${make(inRow(set), 'number', depth)})`,
      ]),
      () => `count(${filtered(set, depth)})`,
    ]),
  ],
  text: (set, depth) => [
    some(set, depth, 'upper case', 'text'),
    some(set, depth, 'lower case', 'text'),
    some(set, depth, 'trim', 'text'),
    () =>
      `substring(${make(set, 'text', depth)}, ${set.random.pick([-3, -1, 1, 2, 5])}, ${set.random.whole(0, 4)})`,
    some(set, depth, 'substring before', 'text', 'text'),
    some(set, depth, 'substring after', 'text', 'text'),
    () => `string(${make(set, set.random.pick(['number', 'date', 'yes-no']), depth)})`,
    () => `(${make(set, 'text', depth)} + ${make(set, 'text', depth)})`,
    () => `${set.random.pick(['day of week', 'month of year'])}(${make(set, 'date', depth)})`,
    ...overRows(set, [() => `${set.random.pick(['min', 'max'])}(lines.label)`]),
  ],
  'yes-no': (set, depth) => [
    () => `(${make(set, 'yes-no', depth)} and ${make(set, 'yes-no', depth)})`,
    () => `(${make(set, 'yes-no', depth)} or ${make(set, 'yes-no', depth)})`,
    some(set, depth, 'not', 'yes-no'),
    ...(['=', '!=', '<', '<=', '>', '>='] as const).map((by) => () => {
      const of = set.random.pick(comparable);
      return `(${make(set, of, depth)} ${by} ${make(set, of, depth)})`;
    }),
    () => `(${make(set, 'yes-no', depth)} = ${make(set, 'yes-no', depth)})`,
    () => `(${make(set, set.random.pick(comparable), depth)} ${set.random.pick(['=', '!='])} null)`,
    () =>
      `(${make(set, 'number', depth)} between ${make(set, 'number', depth)} and ${make(set, 'number', depth)})`,
    () =>
      `(${make(set, 'date', depth)} in [${make(set, 'date', 0)}..${make(set, 'date', 0)}${set.random.pick([']', ')'])})`,
    () =>
      `(${make(set, 'number', depth)} in (${make(set, 'number', 0)}, > ${make(set, 'number', 0)}, [1..5)))`,
    () => `(${make(set, 'text', depth)} in ("fern", ${make(set, 'text', 0)}))`,
    ...['contains', 'starts with', 'ends with'].map((name) => some(set, depth, name, 'text', 'text')),
    () => `is blank(${make(set, 'text', depth)})`,
    () => `(${make(set, set.random.pick(['number', 'date']), depth)} instance of number)`,
    ...overRows(set, [
      () =>
        `(${set.random.pick(['some', 'every'])} x in ${filtered(set, 0)} satisfies ${make(inRow(set), 'yes-no', depth)})`,
      () => `${set.random.pick(['all', 'any'])}(lines.done)`,
      () => `list contains(lines.amount, ${make(set, 'number', 0)})`,
    ]),
  ],
  date: (set, depth) => [
    ...arithmetic(set, 'date', depth),
    () => `date(${set.random.whole(1990, 2030)}, ${make(set, 'number', 0)}, ${set.random.whole(0, 32)})`,
    () => `date(${make(set, 'date-time', depth)})`,
    ...overRows(set, [() => `${set.random.pick(['min', 'max'])}(lines.due)`]),
  ],
  time: (set, depth) => [...arithmetic(set, 'time', depth), () => `time(${make(set, 'date-time', depth)})`],
  'date-time': (set, depth) => [
    ...arithmetic(set, 'date-time', depth),
    () => `date and time(${make(set, 'date', depth)}, ${make(set, 'time', depth)})`,
  ],
  days: (set, depth) => arithmetic(set, 'days', depth),
  months: (set, depth) => [
    ...arithmetic(set, 'months', depth),
    some(set, depth, 'years and months duration', 'date', 'date'),
  ],
};
