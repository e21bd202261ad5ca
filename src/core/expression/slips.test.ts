import { describe, expect, it } from 'vitest';
import { issue } from '../kernel/issue';
import { issueCodes, issueSentence } from '../wording/issue-sentence';
import { bracketTrouble } from './brackets';
import { firstSlip } from './slips';
import { typeText, writtenType } from './type-text';

describe('slips of the pen', () => {
  it('are looked for outside texts and comments only', () => {
    for (const sound of [
      '"a && b == c"',
      '1 // a && b',
      '/* x == 1 */ 1',
      'a != 1',
      '"it\\"s == x"',
      'rate1e5 + 1',
      'notable = 1',
      'not (a)',
      'not(a)',
      'a <= 1 and b >= 2',
    ])
      expect([sound, firstSlip(sound)]).toEqual([sound, null]);
    expect(firstSlip('a = "x" && b')).toEqual({ from: 8, to: 10, given: '&&', meant: 'and' });
    expect(firstSlip('a /* && */ || b')?.from).toBe(11);
  });
});

describe('brackets', () => {
  it.each([
    ['(a', 'open', 0],
    ['a)', 'stray', 1],
    ['(a]', 'stray', 2],
    ['{a: [1}', 'stray', 6],
    ['"(" + a)', 'stray', 7],
    ['((((a))))', 'deep', 3],
  ])('%s: %s at %i', (text, t, from) => expect(bracketTrouble(text, 3)).toMatchObject({ t, from }));

  it('may turn away in a range', () => {
    for (const sound of ['a in ]1..5[', 'a in (1..5]', '[1, 2][1]', '{a: [1]}', '"((("', ''])
      expect([sound, bracketTrouble(sound, 5)]).toEqual([sound, null]);
  });
});

describe('types as the standard writes them', () => {
  it.each([
    'number',
    'string',
    'boolean',
    'date',
    'time',
    'date and time',
    'days and time duration',
    'years and months duration',
    'list<date>',
    'range<number>',
    'context<a: number, b: list<context<c: string>>>',
    'list<list<boolean>>',
  ])('%s', (text) => {
    const type = writtenType(text);
    expect(type === null ? null : typeText(type)).toBe(text);
  });
  it('are refused when they are none', () =>
    expect(['int', 'list<int>', 'list', 'context<a>', 'list<number', ''].map(writtenType)).toEqual([
      null,
      null,
      null,
      null,
      null,
      null,
    ]));
});

describe('every issue has its sentence', () => {
  const facts = {
    label: 'Rate',
    name: 'rte',
    meant: 'rate',
    given: 'list of text',
    wanted: 'number',
    least: 1,
    most: 3,
    text: '%',
    what: 'matches',
    message: 'Too much',
    circle: 'A → B',
    other: 'M',
    bracket: '(',
    key: 'x',
    before: 'a',
    after: 'b',
    table: 'T',
    step: 'S',
    record: 'AC-1',
    count: 2,
  };
  it.each(issueCodes.map((code) => [code]))('%s', (code) => {
    const sentence = issueSentence(issue(code, [], facts));
    expect(sentence).toMatch(/^\S.{5,}/);
    expect(sentence).not.toMatch(/undefined|null|\[object/);
  });
});
