import fc from 'fast-check';
import { expect, it } from 'vitest';
import { next, type Delivered } from './delivery';

const now = new Date('2026-11-23T12:00:00Z');
const failed: Delivered = { status: 500, fault: 'answer', ms: 3 };

it('goes on after a yes, and stops at once when the address is gone for good', () => {
  expect(next({ status: 204, fault: null, ms: 3 }, 4, now, 0)).toEqual({ t: 'on' });
  expect(next({ ...failed, status: 410 }, 0, now, 0)).toEqual({ t: 'stop', because: 'gone' });
});

it('waits five seconds first and a day last, then stops', () => {
  const waits = Array.from({ length: 10 }, (_, i) => {
    const after = next(failed, i, now, 0.5);
    return after.t === 'again' ? (after.at.getTime() - now.getTime()) / 1_000 : after.t;
  });
  expect(waits).toEqual([5, 300, 1_800, 7_200, 18_000, 36_000, 50_400, 72_000, 86_400, 'stop']);
});

it('law: each wait is longer than the one before, whatever the chance', () => {
  const chance = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 7 }),
      fc.constantFrom<Delivered['fault']>('no-answer', 'answer'),
      chance,
      (before, fault, by) => {
        const wait = (tries: number, at: number): number => {
          const after = next({ ...failed, fault }, tries, now, at);
          return after.t === 'again' ? after.at.getTime() : 0;
        };
        expect(wait(before, by)).toBeGreaterThan(now.getTime());
        expect(wait(before + 1, by)).toBeGreaterThan(wait(before, by));
      },
    ),
  );
});
