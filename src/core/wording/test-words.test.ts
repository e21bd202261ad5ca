import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DATE, NUMBER, TEXT, YES_NO } from '../expression/type';
import { piecesOf } from '../rules/regions';
import { readTestWords, testWords, type Known } from './test-words';

const number: Known = { type: NUMBER };
const date: Known = { type: DATE };
const centre: Known = {
  type: TEXT,
  choices: [
    { code: 'nur', label: 'Nursery' },
    { code: 'vis', label: 'Visitors' },
    { code: 'odd', label: 'Beds, and more' },
  ],
};
const yesNo: Known = { type: YES_NO };
const space = '\u202f';

describe('tests in words', () => {
  it.each<[string, Known, string | null]>([
    ['', number, 'any'],
    ['-', number, 'any'],
    ['<= 500', number, 'up to 500'],
    ['(500..5000]', number, `over 500 to 5${space}000`],
    ['[1..2), > 9', number, '1 to under 2, over 9'],
    ['not(5, 7)', number, 'not 5, 7'],
    ['>= -3', number, '-3 or more'],
    ['(-0.5..1234.25]', number, `over -0.5 to 1${space}234.25`],
    ['not(null)', number, 'filled'],
    ['null', number, 'empty'],
    ['"nur", "vis"', centre, 'Nursery, Visitors'],
    ['not("vis")', centre, 'not Visitors'],
    ['"odd"', centre, null],
    ['true', yesNo, 'yes'],
    ['> date("2026-03-31")', date, 'after 2026-03-31'],
    ['(date("2026-01-01")..date("2026-03-31"))', date, 'after 2026-01-01 to before 2026-03-31'],
    ['modulo(?, 2) = 0', number, null],
    ['> limit', number, null],
  ])('%s', (test, known, words) => {
    const said = testWords(test, known);
    expect(said?.replace(/\s/g, ' ') ?? null).toBe(words?.replace(/\s/g, ' ') ?? null);
  });

  it.each<[string, Known, string | null]>([
    ['More than 5 000', number, '> 5000'],
    ['at least 3', number, '>= 3'],
    ['5 to 9', number, '[5..9]'],
    ['up to 12 or more', number, null],
    ['nursery, VISITORS', centre, '"nur", "vis"'],
    ['Elsewhere', centre, null],
    ['Elsewhere', { type: TEXT }, '"Elsewhere"'],
    ['Yes', yesNo, 'true'],
    ['until 2026-03-31', date, '<= date("2026-03-31")'],
  ])('“%s” is read', (words, known, test) => {
    expect(readTestWords(words, known)).toBe(test);
  });

  it('law: what is said of a test is read as the same test', () => {
    const n = fc.integer({ min: -20_000, max: 20_000 });
    const piece = fc.oneof(
      n.map(String),
      fc.tuple(fc.constantFrom('<', '<=', '>', '>='), n).map(([by, a]) => `${by} ${a}`),
      fc
        .tuple(fc.constantFrom('[', '('), n, n, fc.constantFrom(']', ')'))
        .map(([l, a, b, r]) => `${l}${a}..${b}${r}`),
      fc.constant('null'),
    );
    const tests = fc.array(piece, { minLength: 1, maxLength: 3 }).map((all) => all.join(', '));
    fc.assert(
      fc.property(
        fc.oneof(
          tests,
          tests.map((one) => `not(${one})`),
        ),
        (test) => {
          const said = testWords(test, number);
          expect(said).not.toBeNull();
          expect(piecesOf(readTestWords(said ?? '', number) ?? '', NUMBER)).toEqual(piecesOf(test, NUMBER));
        },
      ),
    );
  });
});
