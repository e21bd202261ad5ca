import { describe, expect, it } from 'vitest';
import { worstSteps } from './cost';
import { read } from './read';

const cost = (text: string): number => {
  const tree = read(text, new Map());
  if (!tree.ok) throw new Error(JSON.stringify(tree.error));
  return worstSteps(tree.value, () => 500);
};

describe('what an expression costs at worst', () => {
  it.each([
    ['1 + 2', 3],
    ['count(for i in 1..100000000 return i)', 100_000_000],
    ['count(for i in 100000000..1 return i)', 100_000_000],
    ['count(for i in -10..10 return i)', 21],
    ['count(for i in 1..1000, j in 1..1000 return i * j)', 1_000_000],
    ['count(for i in 1..1000 return count(for j in 1..1000 return j))', 1_000_000],
    ['some i in [1, 2, 3] satisfies i > 2', 3],
    ['count([1, 2, 3, 4][item > 2])', 4],
  ])('%s: at least %d, and no more than a few times that', (text, least) => {
    expect(cost(text)).toBeGreaterThanOrEqual(least);
    expect(cost(text)).toBeLessThanOrEqual(least * 8);
  });
});
