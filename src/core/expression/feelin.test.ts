import Big from 'big.js';
import { evaluate } from 'feelin';
import { describe, expect, it } from 'vitest';
import { seeded, type Random } from '../../../demo/random';
import {
  childColumns,
  parentColumns,
  randomExpression,
  scopeOfRecord,
} from '../../../tests/support/random-expression';
import { worldOf } from '../../../tests/support/workspace';
import { compile } from './compile';
import { toJson } from './json';
import { read } from './read';
import type { ScalarName } from './type';
import type { Value } from './value';

/** Another evaluator of the same language as an oracle. It computes in doubles, so numbers are compared to ten digits. */
const deviations: readonly (readonly [RegExp, string])[] = [
  [
    /duration\(|\.(days|months|years|hours|minutes|seconds)\b|- date|_a - day|_b - day|day_[ab] -/,
    'durations times and by numbers give null there; the standard multiplies them',
  ],
  [
    /(min|max)\(lines(\[.*\])?\.(due|label)\)/,
    'min and max of texts and dates give null there; the standard orders them',
  ],
  [/trim\(|is blank\(/, 'extensions it does not have'],
  [
    /lines\[(item\.done|\(?if|not\(|true|false|contains|starts with|ends with|list contains|all\(|any\(|\(some|\(every|yes_)/,
    'a filter that is no comparison is taken for an index there',
  ],
  [/ in \[/, 'dates in ranges are wrong there'],
  [/date\(\d+, /, 'a day of the month with a fraction is cut there; here there is no such day'],
  [/ between /, 'the ends of between are taken in either order there'],
  [/instance of/, 'typed values only'],
  [/modulo\(|floor\(|ceiling\(|round |decimal\(/, 'doubles fall on the other side of a rounding'],
  [/"🌿"/, 'characters are halves of code points there'],
];
const samples: Readonly<Partial<Record<ScalarName, readonly (string | boolean)[]>>> = {
  number: ['3', '2.5', '-4', '0'],
  text: ['fern', 'a b', ''],
  'yes-no': [true, false],
  date: ['2026-01-31', '2024-02-29', '1999-12-01'],
  time: ['10:00:00'],
  'date-time': ['2026-01-31T10:00:00'],
};

const anyOf = (random: Random, type: ScalarName): string | boolean | null =>
  random.chance(0.1) ? null : random.pick(samples[type] ?? ['']);
const forUs = (type: ScalarName, value: string | boolean | null): Value =>
  value !== null && type === 'number' ? new Big(String(value)) : value;
function forThem(type: ScalarName, value: string | boolean | null): unknown {
  if (value === null || type === 'text' || type === 'yes-no') return value;
  if (type === 'number') return Number(value);
  return evaluate(`${type === 'date-time' ? 'date and time' : type}("${String(value)}")`, {})
    .value as unknown;
}

type Filled = readonly (readonly [name: string, type: ScalarName, value: string | boolean | null])[];
const filled = (random: Random, columns: typeof parentColumns): Filled =>
  columns.map(([name, type]) => [name, type, anyOf(random, type)]);
const ourRow = (row: Filled) => new Map(row.map(([name, type, value]) => [name, forUs(type, value)]));
const theirRow = (row: Filled) =>
  Object.fromEntries(row.map(([name, type, value]) => [name, forThem(type, value)]));

function normal(value: unknown): unknown {
  if (value === undefined) return null;
  if (typeof value === 'object' && value !== null && 'iso' in value) return value.iso;
  return typeof value === 'number' ? Number(value.toPrecision(10)) : value;
}

describe('the library feelin gives the same', () => {
  const random = seeded(29);
  const world = worldOf('2026-11-23T10:00:00');
  let compared = 0;

  it('within what is known to differ', () => {
    for (let i = 0; i < 700; i++) {
      const type = random.pick(['number', 'text', 'yes-no', 'date', 'number', 'yes-no'] as const);
      const text = randomExpression(random, type, random.whole(1, 3), { sql: false, plain: true });
      const [parent, lines] = [
        filled(random, parentColumns),
        Array.from({ length: random.whole(0, 2) }, () => filled(random, childColumns)),
      ];
      if (deviations.some(([pattern]) => pattern.test(text))) continue;
      const tree = read(text, scopeOfRecord);
      if (!tree.ok) throw new Error(text);
      const [values, rows] = [ourRow(parent), lines.map(ourRow)];
      const ours = toJson(
        compile(tree.value)({
          ...world,
          read: (id) => (id === 'lines' ? rows : (values.get(id) ?? null)),
          column: (_, id) => rows.map((row) => row.get(id) ?? null),
          gaveUp: () => undefined,
        }),
      );
      const theirs: unknown = evaluate(text, { ...theirRow(parent), lines: lines.map(theirRow) }).value;
      compared++;
      expect([text, normal(type === 'number' && ours !== null ? Number(ours) : ours)]).toEqual([
        text,
        normal(theirs),
      ]);
    }
    expect(compared).toBeGreaterThan(200);
  }, 30_000);
});
