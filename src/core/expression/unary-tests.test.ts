import { describe, expect, it } from 'vitest';
import { unaryTest } from 'feelin';
import Big from 'big.js';
import { worldOf } from '../../../tests/support/workspace';
import { compile } from './compile';
import { readTests } from './read';
import { testsToShown, testsToStored } from './stored-text';
import { DATE, NUMBER, TEXT, YES_NO, type Scope } from './type';
import type { Value } from './value';

const scope: Scope = new Map([
  ['total', { id: 'qa', type: NUMBER }],
  ['limit', { id: 'qb', type: NUMBER }],
  ['centre', { id: 'qc', type: TEXT }],
  ['due', { id: 'qd', type: DATE }],
  ['urgent', { id: 'qe', type: YES_NO }],
]);
const ids: Readonly<Record<string, string>> = {
  total: 'qa',
  limit: 'qb',
  centre: 'qc',
  due: 'qd',
  urgent: 'qe',
};

function holds(of: string, tests: string, given: Record<string, Value>): unknown {
  const tree = readTests(tests, scope, of);
  if (!tree.ok) throw new Error(JSON.stringify(tree.error));
  const byId = new Map(Object.entries(given).map(([key, value]) => [ids[key] ?? key, value]));
  return compile(tree.value)({
    ...worldOf('2026-11-23T09:30:00'),
    gaveUp: () => undefined,
    read: (id) => byId.get(id) ?? null,
    column: () => [],
  });
}
const n = (value: number): Value => new Big(value);

describe('unary tests', () => {
  it.each([
    ['', 1, true],
    ['-', 1, true],
    ['> 500', 501, true],
    ['> 500', 500, false],
    ['[500..5000]', 5000, true],
    ['(500..5000)', 5000, false],
    [']500..5000]', 500, false],
    ['< 3, > 9', 10, true],
    ['< 3, > 9', 5, false],
    ['1, 2, 3', 2, true],
    ['not(1, 2)', 2, false],
    ['not(1, 2)', 3, true],
    ['not([1..3], > 9)', 4, true],
    ['? > 5 and ? < 7', 6, true],
    ['? > 5 and ? < 7', 8, false],
    ['? > 5 and not(? = 7)', 7, false],
    ['modulo(?, 2) = 0', 8, true],
    ['> limit', 11, true],
    ['limit', 10, true],
    ['null', 10, false],
    ['[1, 2]', 2, true],
    ['-5', -5, true],
  ])('%s of %d is %s, and so says another engine', (tests, total, expected) => {
    expect(holds('total', tests, { total: n(total), limit: n(10) })).toBe(expected);
    if (tests !== '') expect(unaryTest(tests, { '?': total, limit: 10 }).value).toBe(expected);
  });

  it('tells texts, dates and yes or no', () => {
    expect(holds('centre', '"Nursery", "Visitors"', { centre: 'Visitors' })).toBe(true);
    expect(holds('centre', 'not("Nursery")', { centre: 'Visitors' })).toBe(true);
    expect(holds('centre', 'starts with(?, "Vis")', { centre: 'Visitors' })).toBe(true);
    expect(holds('due', '>= date("2026-01-01")', { due: '2026-02-01' })).toBe(true);
    expect(holds('urgent', 'true', { urgent: true })).toBe(true);
    expect(holds('urgent', 'false', { urgent: true })).toBe(false);
    expect(holds('total + limit', '> 15', { total: n(6), limit: n(10) })).toBe(true);
  });

  it('is true of what is empty only where it says so', () => {
    expect(holds('total', '> 5', {})).not.toBe(true);
    expect(holds('total', 'null', {})).toBe(true);
    expect(holds('total', '-', {})).toBe(true);
  });

  it.each([
    ['"Nursery"', 'wrong-type', [0, 9]],
    ['> "a"', 'wrong-type', [2, 5]],
    ['> totl', 'unknown-name', [2, 6]],
    ['> 5,', 'expression-broken', null],
    ['not(', 'bracket-open', null],
    ['== 5', 'slip', [0, 2]],
    ['5 6', 'expression-broken', null],
  ] as const)('%s is refused at its place', (tests, code, at) => {
    const read = readTests(tests, scope, 'total');
    expect(read.ok ? null : read.error[0]?.code).toBe(code);
    if (at !== null && !read.ok)
      expect([read.error[0]?.facts['from'], read.error[0]?.facts['to']]).toEqual(at);
  });

  it('is kept by ids, also beside what cannot be read', () => {
    expect(testsToStored('> limit, [1..total]', scope, 'total')).toBe('> qb, [1..qa]');
    expect(testsToShown('> qb, [1..qa]', scope, 'qa')).toBe('> limit, [1..total]');
    expect(testsToStored('> limit', scope, 'gone')).toBe('> qb');
    expect(readTests('> 5', scope, 'gone').ok).toBe(true);
  });
});
