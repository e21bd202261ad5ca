import Big from 'big.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worldOf } from '../../../tests/support/workspace';
import { compile } from '../expression/compile';
import { readTests } from '../expression/read';
import { DATE, NUMBER, TEXT, YES_NO, type Type } from '../expression/type';
import type { Value } from '../expression/value';
import { ruleFindings, type Where } from './findings';
import type { Domain } from './regions';
import { decided, testOf, type HitPolicy, type Rule, type RuleTable } from './rules';

const CENTRES = ['Finance', 'Nursery', 'Visitors'];
const domains = new Map<string, Domain>([
  ['cost', { type: NUMBER, step: new Big(1), mayBeEmpty: false }],
  ['centre', { type: TEXT, values: CENTRES, mayBeEmpty: false }],
  ['urgent', { type: YES_NO, mayBeEmpty: false }],
  ['due', { type: DATE, mayBeEmpty: true }],
  ['note', { type: TEXT, mayBeEmpty: true }],
]);

const table = (
  conditions: readonly string[],
  rows: readonly (readonly string[])[],
  more: Partial<RuleTable> = {},
): RuleTable => ({
  id: 't',
  label: 'T',
  hit: 'U',
  conditions: conditions.map((id) => ({ id, expression: id })),
  asks: ['st'],
  days: [],
  rows: rows.map((tests, i) => ({
    id: `r${i}`,
    cells: tests.map((test, at) => ({ condition: conditions[at] ?? '', test })),
    gives: [{ step: 'st', people: [`p${i}`] }],
  })),
  ...more,
});
const found = (of: RuleTable) => ruleFindings(of, domains);

describe('what is found by reading the rows', () => {
  it('says what no row fits, also for some of the choices alone', () => {
    const told = found(
      table(
        ['cost', 'centre'],
        [
          ['<= 500', ''],
          ['(500..5000]', '"Finance", "Nursery"'],
          ['> 5000', '-'],
        ],
      ),
    );
    expect(told).toEqual({
      gaps: [{ cost: '(500..5000]', centre: '"Visitors"' }],
      overlaps: [],
      never: [],
      unknown: [],
      more: false,
    });
  });

  it('knows that whole numbers and days follow one another', () => {
    expect(found(table(['cost'], [['< 5000'], ['[5000..9999]'], ['>= 10000']])).gaps).toEqual([]);
    expect(found(table(['cost'], [['<= 4999'], ['[5000..9998]'], ['>= 10000']])).gaps).toEqual([
      { cost: '(9998..10000)' },
    ]);
    const days = (second: string) =>
      found(table(['due'], [['<= date("2026-03-31")'], [`>= date("${second}")`], ['null']])).gaps;
    expect(days('2026-04-01')).toEqual([]);
    expect(days('2026-04-03')).toEqual([{ due: '(date("2026-03-31")..date("2026-04-03"))' }]);
  });

  it('says where an answer that may be empty fits nothing', () => {
    expect(found(table(['due'], [['<= date("2026-03-31")'], ['> date("2026-03-31")']])).gaps).toEqual([
      { due: 'null' },
    ]);
    expect(found(table(['note'], [['"a", "b"'], ['null']])).gaps).toEqual([{ note: 'not("a", "b", null)' }]);
    expect(found(table(['note'], [['not("a")']])).gaps).toEqual([{ note: '"a"' }]);
  });

  it('says which rows fit the same, and where, as far as that may not be', () => {
    const rows = [
      ['<= 1000', '"Finance"'],
      ['>= 500', ''],
      ['> 2000', '"Nursery"'],
    ];
    const overlaps = [
      { rows: [0, 1], at: { cost: '[500..1000]', centre: '"Finance"' } },
      { rows: [1, 2], at: { cost: '> 2000', centre: '"Nursery"' } },
    ];
    expect(found(table(['cost', 'centre'], rows)).overlaps).toEqual(overlaps);
    expect(found(table(['cost', 'centre'], rows, { hit: 'F' })).overlaps).toEqual([]);
    const alike = table(['cost', 'centre'], rows, { hit: 'A' });
    const same = { ...alike, rows: alike.rows.map((row) => ({ ...row, gives: [] })) };
    expect([found(alike).overlaps.length, found(same).overlaps]).toEqual([2, []]);
  });

  it('says which rows never count', () => {
    const rows = [['<= 500'], ['> 400'], ['[100..600]'], ['[9..3]']];
    expect(found(table(['cost'], rows, { hit: 'F' })).never).toEqual([2, 3]);
    expect(found(table(['cost'], rows, { hit: 'C' })).never).toEqual([3]);
    const weighing = table(['cost'], rows, { hit: 'P' });
    const weights = [0, 1, 2, 3];
    expect(
      found({ ...weighing, rows: weighing.rows.map((row, i) => ({ ...row, weight: weights[i] })) }).never,
    ).toEqual([3]);
  });

  it('leaves out what cannot be looked through, and says so', () => {
    const told = found(table(['cost'], [['modulo(?, 2) = 0'], ['<= 5']]));
    expect(told).toMatchObject({ gaps: [], overlaps: [], unknown: [0] });
  });

  it('has an end where there is much', () => {
    const conditions = ['cost', 'centre', 'urgent', 'due', 'note'];
    const rows = Array.from({ length: 100 }, (_, i) => [
      `[${i * 7}..${i * 13}]`,
      `"${CENTRES[i % 3]}"`,
      i % 2 === 0 ? 'true' : '',
      `< date("2026-01-${String((i % 28) + 1).padStart(2, '0')}")`,
      `"n${i}"`,
    ]);
    const told = found(table(conditions, rows));
    expect(told.more).toBe(true);
    expect(told.gaps.length).toBe(20);
  });
});

/** Values at and between all ends that the random tests have. */
const costs = [-1, 0, 1, 2, 3, 4, 5].map((n) => new Big(n));
const points: readonly Value[][] = costs.flatMap((cost) =>
  CENTRES.flatMap((centre) => [true, false].map((urgent): Value[] => [cost, centre, urgent])),
);
const conditions = ['cost', 'centre', 'urgent'];
const types: readonly Type[] = [NUMBER, TEXT, YES_NO];
const number = fc.integer({ min: 0, max: 4 });
const costTest = fc.oneof(
  fc.constant(''),
  number.map((n) => `${n}`),
  number.map((n) => `< ${n}`),
  number.map((n) => `>= ${n}`),
  fc.tuple(number, number).map(([a, b]) => `[${a}..${b}]`),
  fc.tuple(number, number).map(([a, b]) => `(${a}..${b}), > ${b}`),
  fc.tuple(number, number).map(([a, b]) => `not(${a}, ]${a}..${b}[)`),
);
const centres = fc
  .subarray(CENTRES, { minLength: 1 })
  .map((some) => some.map((one) => `"${one}"`).join(', '));
const centreTest = fc.oneof(
  fc.constant(''),
  centres,
  centres.map((some) => `not(${some})`),
);
const urgentTest = fc.constantFrom('', 'true', 'false', '-');
const rowsOf = fc.array(fc.tuple(costTest, centreTest, urgentTest), { minLength: 1, maxLength: 6 });

const compiled = new Map<string, ReturnType<typeof compile>>();
function runOf(test: string, type: Type): ReturnType<typeof compile> {
  const key = `${type.t} ${test}`;
  const known = compiled.get(key);
  if (known !== undefined) return known;
  const read = readTests(test, new Map([['x', { id: 'x', type }]]), 'x');
  if (!read.ok) throw new Error(test);
  const made = compile(read.value);
  compiled.set(key, made);
  return made;
}
function holds(test: string, value: Value, type: Type): boolean {
  const source = {
    ...worldOf('2026-11-23T09:30:00'),
    gaveUp: () => undefined,
    column: () => [],
    read: () => value,
  };
  return runOf(test, type)(source) === true;
}
const fits = (tests: readonly string[], point: readonly Value[]): boolean =>
  tests.every((test, i) => holds(test, point[i] ?? null, types[i] ?? TEXT));
const isAt = (where: Where, point: readonly Value[]): boolean =>
  fits(
    conditions.map((id) => where[id] ?? ''),
    point,
  );

describe('laws of what is found', () => {
  it('a gap is where no row fits, an overlap where two do, and a row that never counts is none that is decided by', () => {
    fc.assert(
      fc.property(rowsOf, fc.constantFrom<HitPolicy>('U', 'F', 'P'), (rows, hit) => {
        const of = table(conditions, rows, { hit });
        const told = found(of);
        const tests = (row: Rule) => conditions.map((id) => testOf(row, id));
        const counted = new Set<string>();
        for (const point of points) {
          const fitting = of.rows.filter((row) => fits(tests(row), point));
          expect(told.gaps.some((gap) => isAt(gap, point))).toBe(fitting.length === 0);
          if (hit === 'U') expect(told.overlaps.some(({ at }) => isAt(at, point))).toBe(fitting.length > 1);
          const outcome = decided(of, fitting);
          if (outcome.t !== 'nothing') for (const { id } of outcome.rows) counted.add(id);
        }
        expect(told.never.map((i) => `r${i}`)).toEqual(
          of.rows.map(({ id }) => id).filter((id) => !counted.has(id)),
        );
        expect(told.more).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
});
