import { describe, expect, it } from 'vitest';
import { prefixFor } from './create-form';

describe('the prefix of numbers', () => {
  it.each([['Treatment request', 'TR'], ['Shift log', 'SL'], ['Inspections', 'IN'], ['🌿', 'R'], ['a b c d e f', 'ABCD'], ['Größe', 'GR'], ['2nd visit', 'NV']])('of %s is %s', (title, prefix) => expect(prefixFor(title)).toBe(prefix));
});
