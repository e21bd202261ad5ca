import fc from 'fast-check';
import { expect, it } from 'vitest';
import { distinctOf, doubles, integers, placeIn } from './growing';

it('lists of numbers hold what was put in, however far they grow', () => {
  fc.assert(
    fc.property(fc.array(fc.integer(), { maxLength: 5_000 }), (list) => {
      const [whole, double] = [integers(), doubles()];
      for (const n of list) {
        whole.push(n);
        double.push(n / 2);
      }
      expect([[...whole.view()], [...double.view()], whole.length, whole.at(0)]).toEqual([
        list,
        list.map((n) => n / 2),
        list.length,
        list[0] ?? 0,
      ]);
    }),
    { numRuns: 50 },
  );
});

it('the different numbers stand in order, and each is found at its place', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -20, max: 20 }), { maxLength: 60 }),
      fc.integer({ min: -25, max: 25 }),
      (list, wanted) => {
        const distinct = distinctOf(Float64Array.from(list));
        const sorted = [...new Set(list.filter((n) => n !== 0))].sort((a, b) => a - b);
        expect([...distinct]).toEqual(sorted);
        expect(placeIn(distinct, wanted)).toBe(sorted.indexOf(wanted));
      },
    ),
  );
});
