import fc from 'fast-check';
import Big from 'big.js';
import { expect, it } from 'vitest';
import { addDays } from '../expression/moment';
import { worldAt } from '../workspace';
import { dueNow, type Begun } from './due-now';

const { calendar } = worldAt({ workdays: [1, 2, 3, 4, 5], holidays: ['2026-12-25'] }, '2026-01-01T00:00');

it('tells on the day it is due, and from the day after that it is late', () => {
  const waiting = [
    { within: 1, begun: '2026-11-27' },
    { within: 2, begun: '2026-11-27' },
    { within: 1, begun: '2026-11-25' },
    { within: 5, begun: '2026-11-27' },
  ];
  expect(dueNow(waiting, '2026-11-30', calendar)).toEqual({
    due: [{ within: 1, begun: '2026-11-27', due: '2026-11-30' }],
    late: [{ within: 1, begun: '2026-11-25', due: '2026-11-26' }],
  });
});

it('law: looked at once after many days, everything is late that daily looks would have told of', () => {
  const day = fc.integer({ min: 0, max: 60 }).map((n) => addDays('2026-11-01', new Big(86_400 * n)) ?? '');
  const begun: fc.Arbitrary<Begun> = fc.record({ within: fc.integer({ min: 1, max: 6 }), begun: day });
  fc.assert(
    fc.property(fc.array(begun, { maxLength: 12 }), fc.integer({ min: 0, max: 90 }), (waiting, days) => {
      const daily = new Set<string>();
      const at = (n: number): string => addDays('2026-11-01', new Big(86_400 * n)) ?? '';
      const key = (one: Begun): string => `${one.within} ${one.begun}`;
      for (let n = 0; n <= days; n++)
        for (const one of dueNow(waiting, at(n), calendar).late) daily.add(key(one));
      expect(new Set(dueNow(waiting, at(days), calendar).late.map(key))).toEqual(daily);
    }),
    { numRuns: 60 },
  );
});
