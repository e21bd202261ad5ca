import { describe, expect, it } from 'vitest';
import type { TokenGrant } from '../catalogue/narrowed';
import { tokenSentence, wideWords } from './token-sentence';

const names = new Map([
  ['b', 'Beds'],
  ['t', 'Taxa'],
  ['s', 'Shift log'],
]);
const on = (tableId: string, action: TokenGrant['action']): TokenGrant => ({ tableId, formId: null, action });
const many = (n: number, action: TokenGrant['action']) =>
  Array.from({ length: n }, (_, i) => on(`t${i}`, action));

describe('what a token may', () => {
  it('is said in one sentence', () => {
    expect(
      tokenSentence(
        [on('t', 'see'), on('b', 'see'), on('b', 'add'), { tableId: null, formId: 's', action: 'fill' }],
        names,
      ),
    ).toBe('Sees Beds and Taxa; adds to Beds; fills Shift log');
    expect(tokenSentence([on('gone', 'see')], names)).toBe('May nothing any more: what it named is gone');
    const six = new Map(many(6, 'see').map(({ tableId }, i) => [tableId ?? '', `T${i}`]));
    expect(tokenSentence(many(6, 'see'), six)).toBe('Sees T0, T1, T2, T3 and 2 more');
  });

  it('is warned of where it is wide', () => {
    expect(wideWords([on('b', 'see'), on('b', 'add')], 90)).toEqual([]);
    expect(wideWords([...many(6, 'see'), ...many(6, 'change'), on('t1', 'remove')], 400)).toEqual([
      'It reads 6 tables.',
      'It changes what stands in 6 tables.',
      'It removes records of a table.',
      'It works for more than a year.',
    ]);
  });
});
