import fc from 'fast-check';
import Big from 'big.js';
import { expect, it } from 'vitest';
import { addDays } from '../expression/moment';
import { workingTime } from '../workspace';
import { dueNow, type Begun } from './due-now';

const time = workingTime({
  workdays: [1, 2, 3, 4, 5],
  holidays: ['2026-12-25'],
  opens: '09:00',
  closes: '17:00',
});
const hours = false;

it('tells on the day it is due, and from the day after that it is late', () => {
  const waiting = [
    { within: 1, hours, begun: '2026-11-27' },
    { within: 2, hours, begun: '2026-11-27' },
    { within: 1, hours, begun: '2026-11-25' },
    { within: 5, hours, begun: '2026-11-27' },
  ];
  expect(dueNow(waiting, '2026-11-30', time)).toEqual({
    due: [{ within: 1, hours, begun: '2026-11-27', due: '2026-11-30' }],
    late: [{ within: 1, hours, begun: '2026-11-25', due: '2026-11-26' }],
  });
});

it('tells what is due within hours on that day until its time, and then that it is late', () => {
  const waiting = [{ within: 3, hours: true, begun: '2026-11-27T15:30' }];
  const told = (now: string) => {
    const { due, late } = dueNow(waiting, now, time);
    return [due.length, late.length];
  };
  expect(['2026-11-27T16:00', '2026-11-30T08:00', '2026-11-30T10:30', '2026-11-30T10:31'].map(told)).toEqual([
    [0, 0],
    [1, 0],
    [1, 0],
    [0, 1],
  ]);
});

it('law: looked at once after many days, everything is late that daily looks would have told of', () => {
  const day = fc.integer({ min: 0, max: 60 }).map((n) => addDays('2026-11-01', new Big(86_400 * n)) ?? '');
  const begun: fc.Arbitrary<Begun> = fc.record({
    hours: fc.constant(hours),
    within: fc.integer({ min: 1, max: 6 }),
    begun: day,
  });
  fc.assert(
    fc.property(fc.array(begun, { maxLength: 12 }), fc.integer({ min: 0, max: 90 }), (waiting, days) => {
      const daily = new Set<string>();
      const at = (n: number): string => addDays('2026-11-01', new Big(86_400 * n)) ?? '';
      const key = (one: Begun): string => `${one.within} ${one.begun}`;
      for (let n = 0; n <= days; n++)
        for (const one of dueNow(waiting, at(n), time).late) daily.add(key(one));
      expect(new Set(dueNow(waiting, at(days), time).late.map(key))).toEqual(daily);
    }),
    { numRuns: 60 },
  );
});
