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
    { within: 1, hours, soon: null, begun: '2026-11-27' },
    { within: 2, hours, soon: null, begun: '2026-11-27' },
    { within: 1, hours, soon: null, begun: '2026-11-25' },
    { within: 5, hours, soon: null, begun: '2026-11-27' },
  ];
  expect(dueNow(waiting, '2026-11-30', time)).toEqual({
    soon: [],
    due: [{ within: 1, hours, soon: null, begun: '2026-11-27', due: '2026-11-30' }],
    late: [{ within: 1, hours, soon: null, begun: '2026-11-25', due: '2026-11-26' }],
  });
});

it('tells what is due within hours on that day until its time, and then that it is late', () => {
  const waiting = [{ within: 3, hours: true, soon: null, begun: '2026-11-27T15:30' }];
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

it('tells so many days or hours before it is due as well, from then on until it is', () => {
  const days = { within: 3, hours: false, soon: 1, begun: '2026-11-25' };
  const told = (one: Begun, now: string) => {
    const { soon, due, late } = dueNow([one], now, time);
    return [soon.length, due.length, late.length];
  };
  expect(
    ['2026-11-26', '2026-11-27', '2026-11-29', '2026-11-30', '2026-12-01'].map((day) => told(days, day)),
  ).toEqual([
    [0, 0, 0],
    [1, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ]);
  const hour = { within: 10, hours: true, soon: 4, begun: '2026-11-25T09:00' };
  expect(['2026-11-25T14:59', '2026-11-25T15:00', '2026-11-26T09:00'].map((now) => told(hour, now))).toEqual([
    [0, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
  ]);
  // Rules may give it no longer than that.
  expect(told({ ...days, within: 1 }, '2026-11-25')).toEqual([0, 0, 0]);
});

it('law: looked at once after many days, everything is late that daily looks would have told of', () => {
  const day = fc.integer({ min: 0, max: 60 }).map((n) => addDays('2026-11-01', new Big(86_400 * n)) ?? '');
  const begun: fc.Arbitrary<Begun> = fc.record({
    hours: fc.constant(hours),
    soon: fc.option(fc.integer({ min: 1, max: 6 })),
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
