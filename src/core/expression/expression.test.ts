import Big from 'big.js';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { compile, type Source } from './compile';
import { LONGEST_EXPRESSION, read } from './read';
import { columnsRead, dependencies, readsColumns } from './tree';
import { DATE, NUMBER, TEXT, YES_NO, type Field, type Scope } from './type';
import { isBig, type Value } from './value';

const field = (id: string, type: Field['type']): Field => ({ id, type });
const columns = new Map([['amount', field('q_amount', NUMBER)], ['label', field('q_label', TEXT)]]);
const scope: Scope = new Map([
  ['rate', field('q_rate', NUMBER)], ['area', field('q_area', NUMBER)], ['name', field('q_name', TEXT)], ['closed', field('q_closed', YES_NO)], ['planned_on', field('q_planned', DATE)],
  ['product', field('q_product', { t: 'record', table: 't_products', fields: new Map([['max_rate', field('c_max', NUMBER)]]) })],
  ['lines', field('q_lines', { t: 'rows', group: 'q_lines', columns })],
]);

const source = (values: Record<string, Value> = {}, lists: Record<string, Value[]> = {}): Source => ({ today: '2026-11-23', read: (id) => values[id] ?? null, column: (_, id) => lists[id] ?? [] });

function value(text: string, values: Record<string, Value> = {}, lists: Record<string, Value[]> = {}): unknown {
  const tree = read(text, scope);
  if (!tree.ok) throw new Error(`${text}: ${JSON.stringify(tree.error)}`);
  const result = compile(tree.value)(source(values, lists));
  return isBig(result) ? result.toString() : result;
}

function problems(text: string): { code: string; at: string }[] {
  const tree = read(text, scope);
  if (tree.ok) throw new Error(`${text} was accepted`);
  return tree.error.map(({ code, facts }) => ({ code, at: text.slice(Number(facts['from']), Number(facts['to'])) }));
}

describe('values', () => {
  it.each([
    ['0.1 + 0.2 = 0.3', true], ['9007199254740993 - 9007199254740992', '1'], ['decimal(2.5,0)', '2'], ['decimal(1/3,2)', '0.33'], ['round half up(-5.5,0)', '-6'],
    ['round half down(5.5,0)', '5'], ['round half down(5.51,1)', '5.5'], ['round up(1.121,2)', '1.13'], ['round up(1.1*100,0)', '110'], ['round down(-1.9)', '-1'], ['1 / 0', null], ['10 / 4', '2.5'],
    ['-(2 + 3) * 2', '-10'], ['abs(-3)', '3'], ['2 <= 2', true], ['"a" < "b"', true], ['rate != 1', true], ['null = null', true], ['false and null', false], ['not(null)', null],
    ['if 1 > 2 then 1 else 2', '2'], ['if null then 1 else 2', '2'], ['5 in (3, 5)', true], ['"x" in ("a", "b")', false], ['5 between 1 and 5', true], ['sum([])', null], ['sum(1, 2, 3)', '6'], ['sum([1, 2.5])', '3.5'],
    ['count([1, 2])', '2'], ['min([3, 1, 2])', '1'], ['max(3, 9, 2)', '9'], ['min(["b", "a"])', 'a'], ['contains("fern house", "rn h")', true], ['starts with("fern", "fe")', true], ['ends with("fern", "x")', false],
    ['string length("añ🌿")', '3'], ['upper case("fern")', 'FERN'], ['lower case("FERN")', 'fern'], ['date("2026-11-24") > today()', true], ['"say \\"hello\\""', 'say "hello"'], ['"\\u0041\\U01F40E"', 'A🐎'],
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
    ['', 'expression-empty', ''], ['rate *', 'expression-broken', ''], ['total == 5', 'double-equals', 'total == 5'], ['rte * area', 'unknown-name', 'rte'], ['rate + name', 'wrong-type', 'name'],
    ['1 < "2"', 'wrong-type', '"2"'], ['summ(lines.amount)', 'unknown-function', 'summ'], ['lines.amout', 'unknown-column', 'amout'], ['product.max', 'unknown-column', 'max'], ['rate.x', 'not-a-path', 'rate.x'],
    ['closed > true', 'wrong-type', 'closed'], ['abs()', 'argument-count', 'abs()'], ['abs("a")', 'wrong-type', '"a"'], ['sum(lines.label)', 'wrong-type', 'lines.label'], ['if rate then 1 else 2', 'wrong-type', 'rate'],
    ['date("2026-02-30") > today()', 'not-a-date', 'date("2026-02-30")'], ['every x in lines satisfies x.amount > 1', 'expression-unsupported', 'every x in lines satisfies x.amount > 1'], ['[1, "a"]', 'wrong-type', '"a"'],
    ['foo bar baz', 'unknown-name', 'foo bar baz'],
  ])('%j: %s at %j', (text, code, at) => expect(problems(text)).toContainEqual({ code, at }));

  it('suggests the name that was meant', () => {
    const tree = read('rte * area', scope);
    expect(tree.ok ? null : tree.error[0]?.facts['meant']).toBe('rate');
  });

  it('has an end for length and for the number of problems', () => {
    expect(problems('1 + '.repeat(LONGEST_EXPRESSION) + '1')[0]?.code).toBe('expression-too-long');
    expect(problems(Array.from({ length: 50 }, (_, i) => `x${i}`).join(' + ')).length).toBeLessThanOrEqual(10);
  });

  it('never throws, whatever is typed', () => {
    const words = fc.constantFrom('rate', 'lines', '.', 'amount', '+', '*', '(', ')', '[', ']', 'if', 'then', 'else', '"', '1', ' ', 'and', 'in', '=', '<', 'sum', ',', 'null', 'date(', '🌿', '\\', '{', '}', 'for', '..');
    fc.assert(fc.property(fc.oneof(fc.string({ maxLength: 60 }), fc.array(words, { maxLength: 30 }).map((list) => list.join(''))), (text) => {
      const tree = read(text, scope);
      if (tree.ok) compile(tree.value)(source());
      else for (const { facts } of tree.error) expect(Number(facts['from'])).toBeLessThanOrEqual(Number(facts['to']));
    }), { numRuns: 400 });
  });
});

describe('the part of the conformance cases that is in the language so far', () => {
  const cases = JSON.parse(readFileSync(new URL('./conformance-cases.json', import.meta.url), 'utf8')) as { expression: string; value: unknown }[];
  const done = cases.filter(({ expression }) => read(expression, new Map()).ok);

  it.each(done.map((one) => [one.expression, one.value] as const))('%s', (text, wanted) => {
    const result = value(text);
    expect(typeof wanted === 'number' && typeof result === 'string' ? Number(result) : result).toEqual(wanted);
  });

  it('grows and never shrinks', () => expect(done.length).toBeGreaterThanOrEqual(14));
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
