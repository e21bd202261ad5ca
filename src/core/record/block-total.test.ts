import { expect, it } from 'vitest';
import { blockTotal } from './block-total';

it('says what the numbers of a block come to, exactly, and passes over what is none', () => {
  expect(blockTotal(['0.1', '0.2', 'Fern', ''])).toBe(
    '2 numbers: 0.3 in all, 0.15 on average, from 0.1 to 0.2',
  );
  expect(blockTotal(['1', '1', '2'])).toBe('3 numbers: 4 in all, 1.33 on average, from 1 to 2');
  expect(blockTotal(['-5', ' 3 '])).toBe('2 numbers: −2 in all, −1 on average, from −5 to 3');
  expect(blockTotal(['12000', '345'])).toBe(
    '2 numbers: 12\u202f345 in all, 6\u202f172.5 on average, from 345 to 12\u202f000',
  );
  expect([blockTotal([]), blockTotal(['7']), blockTotal(['7', '2026-11-23'])]).toEqual(['', '', '']);
});
