import Big from 'big.js';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { loadPatterns } from './functions/patterns';
import { compile, type Source } from './compile';
import { LONGEST_EXPRESSION, read } from './read';
import { columnsRead, dependencies, readsColumns } from './tree';
import { DATE, NUMBER, TEXT, YES_NO, type Field, type Scope } from './type';
import { numberText } from './number';
import { isBig, isList, type Value } from './value';

const field = (id: string, type: Field['type']): Field => ({ id, type });
const columns = new Map([
  ['amount', field('q_amount', NUMBER)],
  ['label', field('q_label', TEXT)],
]);
const scope: Scope = new Map([
  ['rate', field('q_rate', NUMBER)],
  ['area', field('q_area', NUMBER)],
  ['name', field('q_name', TEXT)],
  ['closed', field('q_closed', YES_NO)],
  ['planned_on', field('q_planned', DATE)],
  [
    'product',
    field('q_product', {
      t: 'record',
      table: 't_products',
      fields: new Map([['max_rate', field('c_max', NUMBER)]]),
    }),
  ],
  ['lines', field('q_lines', { t: 'rows', group: 'q_lines', columns })],
]);

import { worldOf } from '../../../tests/support/workspace';
const source = (values: Record<string, Value> = {}, lists: Record<string, Value[]> = {}): Source => ({
  ...worldOf('2026-11-23T09:30:00'),
  gaveUp: () => undefined,
  read: (id) => values[id] ?? null,
  column: (_, id) => lists[id] ?? [],
});

function value(
  text: string,
  values: Record<string, Value> = {},
  lists: Record<string, Value[]> = {},
): unknown {
  const tree = read(text, scope);
  if (!tree.ok) throw new Error(`${text}: ${JSON.stringify(tree.error)}`);
  return plain(compile(tree.value)(source(values, lists)));
}

const plain = (result: Value): unknown =>
  isBig(result) ? numberText(result) : isList(result) ? result.map(plain) : result;

function problems(text: string): { code: string; at: string }[] {
  const tree = read(text, scope);
  if (tree.ok) throw new Error(`${text} was accepted`);
  return tree.error.map(({ code, facts }) => ({
    code,
    at: text.slice(Number(facts['from']), Number(facts['to'])),
  }));
}

beforeAll(loadPatterns);

describe('values', () => {
  it.each([
    ['0.1 + 0.2 = 0.3', true],
    ['string length("a\\u0000b")', '3'],
    ['"a\\u0000b" = "a\\uFFFDb"', true],
    ['9007199254740993 - 9007199254740992', '1'],
    ['decimal(2.5,0)', '2'],
    ['decimal(1/3,2)', '0.33'],
    ['round half up(-5.5,0)', '-6'],
    ['round half down(5.5,0)', '5'],
    ['round half down(5.51,1)', '5.5'],
    ['round up(1.121,2)', '1.13'],
    ['round up(1.1*100,0)', '110'],
    ['round down(-1.9)', '-1'],
    ['1 / 0', null],
    ['10 / 4', '2.5'],
    ['-(2 + 3) * 2', '-10'],
    ['abs(-3)', '3'],
    ['2 <= 2', true],
    ['"a" < "b"', true],
    ['rate != 1', true],
    ['null = null', true],
    ['false and null', false],
    ['not(null)', null],
    ['if 1 > 2 then 1 else 2', '2'],
    ['if null then 1 else 2', '2'],
    ['5 in (3, 5)', true],
    ['"x" in ("a", "b")', false],
    ['5 between 1 and 5', true],
    ['sum([])', null],
    ['sum(1, 2, 3)', '6'],
    ['sum([1, 2.5])', '3.5'],
    ['count([1, 2])', '2'],
    ['min([3, 1, 2])', '1'],
    ['max(3, 9, 2)', '9'],
    ['min(["b", "a"])', 'a'],
    ['contains("fern house", "rn h")', true],
    ['starts with("fern", "fe")', true],
    ['ends with("fern", "x")', false],
    ['string length("añ🌿")', '3'],
    ['upper case("fern")', 'FERN'],
    ['lower case("FERN")', 'fern'],
    ['date("2026-11-24") > today()', true],
    ['"say \\"hello\\""', 'say "hello"'],
    ['"\\u0041\\U01F40E"', 'A🐎'],
    ['replace("abc", "b", "[$0]\\\\$")', 'a[b]$c'],
    ['replace("aXbX", "x", "-", "i")', 'a-b-'],
    ['replace("abc", "", "-")', '-a-b-c-'],
    ['matches("fern", "^f.*n$")', true],
    ['matches("fern", "(")', null],
    ['matches("fern", "(?=x)")', null],
    ['string join(split("a;b;;c", ";"), "|")', 'a|b||c'],
    ['string join(["a", null, "b"])', 'ab'],
    ['number("1 234,5", " ", ",")', '1234.5'],
    ['number("x")', null],
    ['number("1.2.3")', null],
    ['string(1.50)', '1.5'],
    ['string(0.0000000000001)', '0.0000000000001'],
    ['trim("  a b ")', 'a b'],
    ['is blank(" ")', true],
    ['is blank(null)', true],
    ['is blank(0)', false],
    ['substring before("a-b", "-")', 'a'],
    ['substring after("a-b", "-")', 'b'],
    ['substring("🌿fern", 2, 2)', 'fe'],
    ['substring("abc", 0)', null],
    ['median(2, 8, 1)', '2'],
    ['median([1, 2])', '1.5'],
    ['mean([1, 2, 6])', '3'],
    ['count(1, 2, 3)', '3'],
    ['string(sqrt(16))', '4'],
    ['sqrt(-1)', null],
    ['2 ** 10', '1024'],
    ['modulo(5, 0)', null],
    ['modulo(-4.5, -3)', '-1.5'],
    ['floor(1.5)', '1'],
    ['ceiling(-1.5)', '-1'],
    ['round up(0.00001, 2)', '0.01'],
    ['round half up(15, -1)', '20'],
    ['decimal(25, -1)', '20'],
    ['1 / 3 * 3', '0.9999999999999999999999999999999999'],
    ['2 / 3', '0.6666666666666666666666666666666667'],
    ['1000000000000000000000000000000000 + 0.00000001', '1000000000000000000000000000000000'],
    ['all([true, null, false])', false],
    ['any([null, true])', true],
    ['any([])', false],
    ['list contains([1, 2.0], 2)', true],
    ['concatenate([1], [2, 3])[-1]', '3'],
    ['append([], "a")[1]', 'a'],
    ['index of([1, 2, 1], 1)[2]', '3'],
    ['count(distinct values([1, 1.0, 2]))', '2'],
    ['reverse([1, 2])[1]', '2'],
    ['date("2024-01-31") + duration("P1M")', '2024-02-29'],
    ['date("2026-03-29") - date("2026-03-28") = duration("P1D")', true],
    ['date("2026-03-01") + duration("-PT1H")', '2026-02-28'],
    ['date("9999-12-31") + duration("P1D")', null],
    ['date and time("2026-10-25T00:30:00") + duration("PT24H")', '2026-10-26T00:30:00'],
    ['time("23:30:00") + duration("PT1H")', '00:30:00'],
    ['time(1, 2, 3.50)', '01:02:03.5'],
    ['time("24:00:00")', null],
    ['date(2026, 2, 29)', null],
    ['date(2024, 2, 29)', '2024-02-29'],
    ['date("2026-11-23").weekday', '1'],
    ['duration("P1DT2H").hours', '2'],
    ['duration("-PT90M").minutes', '-30'],
    ['duration("P14M").years', '1'],
    ['string(duration("P10D") / 4)', 'P2DT12H'],
    ['duration("P10D") / duration("P1D")', '10'],
    ['string(duration("P1Y") * 0.3)', 'P3M'],
    ['string(years and months duration(date("2026-08-31"), date("2025-09-30")))', '-P11M'],
    ['month of year(date("2026-11-23"))', 'November'],
    ['now()', '2026-11-23T09:30:00'],
    ['add working days(date("2026-11-20"), 1)', '2026-11-23'],
    ['add working days(date("2026-11-23"), -1)', '2026-11-20'],
    ['working days between(date("2026-11-20"), date("2026-11-30"))', '6'],
    ['working days between(date("2026-11-30"), date("2026-11-20"))', '-6'],
    ['is working day(date("2026-11-22"))', false],
    ['overlaps([1..3], [3..5])', true],
    ['overlaps([1..3), [3..5])', false],
    ['during([2..3], [1..5])', true],
    ['includes([1..5], 6)', false],
    ['3 in ]3..5]', false],
    ['5 in (null, 3)', false],
    ['null in [1..2]', null],
    ['false and 5 in (5) or 6 in (6)', true],
    ['false and (5 in (5) or 6 in (6))', false],
    ['6 in (6) or 5 in (4) and false', true],
    ['5 in [5] and false or true', true],
    ['for i in 1..3, j in 1..2 return i * j', ['1', '2', '2', '4', '3', '6']],
    ['some x in [null, 1] satisfies x > 5', null],
    ['every x in [1, null] satisfies x > 5', false],
    ['{a: 1, b: a + 1}.b', '2'],
    ['"\\ud800"', '\ufffd'],
    ['"x" < "X"', false],
    ['"\\uFFFF" < "🌿"', true],
  ])('%s is %j', (text, wanted) => expect(value(text)).toEqual(wanted));

  it('reads answers, columns of looked-up records, and columns over rows', () => {
    const product: Value = { id: 'p1', title: 'Nemavar', values: { c_max: new Big('40') } };
    expect(value('rate * area', { q_rate: new Big('60.0'), q_area: new Big('18.5') })).toBe('1110');
    expect(value('rate <= product.max_rate', { q_rate: new Big(45), q_product: product })).toBe(false);
    expect(value('product.max_rate', {})).toBeNull();
    expect(value('sum(lines.amount)', {}, { q_amount: [new Big('1.1'), new Big('2.2')] })).toBe('3.3');
    expect(value('sum(lines.amount)', {}, { q_amount: [new Big('1.1'), null] })).toBeNull();
  });

  it('keeps comparisons with an empty answer empty, and equality two-valued', () => {
    expect(value('rate > 1')).toBeNull();
    expect(value('rate = null')).toBe(true);
    expect(value('closed or rate > 1', { q_closed: true })).toBe(true);
    expect(value('closed and rate > 1', { q_closed: true })).toBeNull();
  });
});

describe('what is refused, and where', () => {
  it.each([
    ['', 'expression-empty', ''],
    ['rate *', 'expression-broken', ''],
    ['rate == 5', 'slip', '=='],
    ['rte * area', 'unknown-name', 'rte'],
    ['rate + name', 'wrong-type', 'name'],
    ['1 < "2"', 'wrong-type', '"2"'],
    ['summ(lines.amount)', 'unknown-function', 'summ'],
    ['lines.amout', 'unknown-column', 'amout'],
    ['product.max', 'unknown-column', 'max'],
    ['rate.x', 'not-a-path', 'rate.x'],
    ['closed > true', 'wrong-type', 'closed'],
    ['abs()', 'argument-count', 'abs()'],
    ['abs("a")', 'wrong-type', '"a"'],
    ['sum(lines.label)', 'wrong-type', 'lines.label'],
    ['if rate then 1 else 2', 'not-a-condition', 'rate'],
    ['[1, "a"]', 'wrong-type', '"a"'],
    ['rate && closed', 'slip', '&&'],
    ['closed || closed', 'slip', '||'],
    ['rate <> 5', 'slip', '<>'],
    ['rate ≠ 5', 'slip', '≠'],
    ["name = 'x'", 'slip', "'x'"],
    ['not closed', 'slip', 'not'],
    ['!closed', 'slip', '!'],
    ['rate % 2', 'slip', '%'],
    ['1e3', 'slip', '1e3'],
    ['name = “x”', 'slip', '“x”'],
    ['[5] + 1', 'list-where-one', '[5]'],
    ['lines.amount > 5', 'list-where-one', 'lines.amount'],
    ['abs(lines.amount)', 'list-where-one', 'lines.amount'],
    ['for x in rate return x', 'not-a-list', 'rate'],
    ['rate[1]', 'not-a-list', 'rate'],
    ['for rate in [1] return rate', 'name-twice', 'rate'],
    ['some x in [1], x in [2] satisfies true', 'name-twice', 'x'],
    ['{a: 1, a: 2}', 'name-twice', 'a'],
    ['every x in lines satisfies x.amont > 1', 'unknown-column', 'amont'],
    ['lines[amont > 1]', 'unknown-name', 'amont'],
    ['lines["a"]', 'wrong-type', '"a"'],
    ['planned_on.yaer', 'unknown-column', 'yaer'],
    ['planned_on + 1', 'wrong-type', '1'],
    ['@"2026-13-01" > planned_on', 'not-a-moment', '@"2026-13-01"'],
    ['duration("P1M2D") = null', 'not-a-duration', 'duration("P1M2D")'],
    ['duration(name) = null', 'wrong-type', 'name'],
    ['duration("P1M") < duration("P40D")', 'wrong-type', 'duration("P40D")'],
    ['if closed then 1 else "a"', 'wrong-type', '"a"'],
    ['rate in ["a"]', 'wrong-type', 'rate'],
    ['rate in [planned_on..today()]', 'wrong-type', 'rate'],
    ['function(x) x', 'expression-unsupported', 'function(x) x'],
    ['sum(n: 1)', 'expression-unsupported', 'sum(n: 1)'],
    ['sum(lines.amount', 'bracket-open', '('],
    ['rate + 1)', 'bracket-stray', ')'],
    ['1.', 'expression-broken', ''],
    ['name[1]', 'not-a-list', 'name'],
    ['1,5', 'expression-broken', ',5'],
    ['(1,2)', 'expression-broken', ',2'],
    ['12345678901234567890123456789012345', 'number-too-long', '12345678901234567890123456789012345'],
    ['foo bar baz', 'unknown-name', 'foo bar baz'],
  ])('%j: %s at %j', (text, code, at) => expect(problems(text)).toContainEqual({ code, at }));

  it('suggests the name that was meant', () => {
    const tree = read('rte * area', scope);
    expect(tree.ok ? null : tree.error[0]?.facts['meant']).toBe('rate');
  });

  it('has an end for length and for the number of problems', () => {
    expect(problems('1 + '.repeat(LONGEST_EXPRESSION) + '1')[0]?.code).toBe('expression-too-long');
    expect(problems('1' + ' + 1'.repeat(300))[0]?.code).toBe('expression-too-deep');
    expect(problems('('.repeat(400) + '1' + ')'.repeat(400))[0]?.code).toBe('expression-too-deep');
    expect(problems(Array.from({ length: 50 }, (_, i) => `x${i}`).join(' + ')).length).toBeLessThanOrEqual(
      10,
    );
  });

  it.each([
    '(',
    '({',
    '-)',
    '{a.',
    'if ',
    'a in ',
    '[]',
    '- ',
    'function(x) ',
    'for x in ',
    '{a:@"',
    ')',
    '1..[',
    'not(',
  ])('has an end for %j over and over, which would keep the parser trying or use up its stack', (bit) => {
    expect(read(bit.repeat(2_000).slice(0, 2_000), scope).ok).toBe(false);
  });

  it('has an end for hostile patterns', () => {
    expect(value('matches(name, "^(a+)+$")', { q_name: `${'a'.repeat(5_000)}!` })).toBe(false);
    expect(value('matches(name, "(a{0,1000}){0,1000}")', { q_name: 'a' })).toBeNull();
    expect(value(`replace(name, "(x+x+)+y", "")`, { q_name: 'x'.repeat(20_000) })).toBe('x'.repeat(20_000));
  });

  it('never throws, whatever is typed', () => {
    const words = fc.constantFrom(
      'rate',
      'lines',
      '.',
      'amount',
      '+',
      '*',
      '(',
      ')',
      '[',
      ']',
      'if',
      'then',
      'else',
      '"',
      '1',
      ' ',
      'and',
      'in',
      '=',
      '<',
      'sum',
      ',',
      'null',
      'date(',
      '🌿',
      '\\',
      '{',
      '}',
      'for',
      '..',
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 60 }),
          fc.array(words, { maxLength: 30 }).map((list) => list.join('')),
        ),
        (text) => {
          const tree = read(text, scope);
          if (tree.ok) compile(tree.value)(source());
          else
            for (const { facts } of tree.error)
              expect(Number(facts['from'])).toBeLessThanOrEqual(Number(facts['to']));
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('what an expression reads', () => {
  it('names answers, columns over rows, and columns of other tables', () => {
    const tree = read('if rate > product.max_rate then sum(lines.amount) else 0', scope);
    if (!tree.ok) throw new Error('refused');
    expect([...dependencies(tree.value)].sort()).toEqual(['q_amount', 'q_product', 'q_rate']);
    expect(columnsRead(tree.value)).toEqual([['t_products', 'c_max']]);
    expect(readsColumns(tree.value)).toBe(true);
  });
});
