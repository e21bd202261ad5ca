import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockIn, markedAt, stepped, tabbed, type Lines } from './grid-spots';

const lines: Lines = { rows: ['a', 'b', 'c'], columns: ['x', 'y'] };
const at = (row: string, column: string) => markedAt({ row, column });

describe('going through the grid by keys', () => {
  it('stays within it, whatever is pressed', () => {
    const step = fc.record({
      down: fc.integer({ min: -9, max: 9 }),
      right: fc.integer({ min: -9, max: 9 }),
      extend: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(step), (steps) => {
        const end = steps.reduce((marked, one) => stepped(marked, lines, one), at('b', 'x'));
        expect(lines.rows).toContain(end.at.row);
        expect(lines.columns).toContain(end.at.column);
        expect(blockIn(end, lines).rows).toContain(end.at.row);
      }),
    );
  });

  it('goes by Tab over the end of a row, and back by the same way', () => {
    const way = ['a x', 'a y', 'b x', 'b y', 'c x', 'c y', 'c y'];
    const walk = (start: ReturnType<typeof at>, by: 1 | -1) => {
      const seen = [start];
      for (let i = 1; i < way.length; i++) seen.push(tabbed(seen[i - 1] ?? start, lines, by));
      return seen.map(({ at: { row, column } }) => `${row} ${column}`);
    };
    expect(walk(at('a', 'x'), 1)).toEqual(way);
    expect(walk(at('c', 'y'), -1)).toEqual([...way.slice(0, -1).reverse(), 'a x']);
  });

  it('marks a block from where it began, in the order of the grid', () => {
    const marked = stepped(stepped(at('c', 'y'), lines, { down: -2, extend: true }), lines, {
      right: -1,
      extend: true,
    });
    expect(marked.from).toEqual({ row: 'c', column: 'y' });
    expect(blockIn(marked, lines)).toEqual(lines);
    expect(blockIn(at('b', 'y'), lines)).toEqual({ rows: ['b'], columns: ['y'] });
  });

  it('goes on where the record in hand is there no more', () => {
    expect(stepped(at('gone', 'x'), lines, { down: 1 }).at).toEqual({ row: 'b', column: 'x' });
    expect(
      blockIn({ at: { row: 'gone', column: 'x' }, from: { row: 'b', column: 'x' } }, lines).rows,
    ).toEqual(['b']);
  });
});
