import fc from 'fast-check';
import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { addDays, weekday } from '../expression/moment';
import { minutesOf, workingHoursAfter, type WorkingTime } from './working-hours';

const usual: WorkingTime = {
  workdays: new Set([1, 2, 3, 4, 5]),
  holidays: new Set(['2026-12-25', '2026-12-28']),
  opens: minutesOf('09:00'),
  closes: minutesOf('17:00:00'),
};

describe('working hours after a moment', () => {
  it.each([
    // A Friday.
    ['2026-11-27T10:30', 4, '2026-11-27T14:30'],
    ['2026-11-27T13:00:00', 4, '2026-11-27T17:00'],
    ['2026-11-27T13:01', 4, '2026-11-30T09:01'],
    // Before work, after it, and on a Sunday.
    ['2026-11-27T06:12', 1, '2026-11-27T10:00'],
    ['2026-11-27T22:45', 1, '2026-11-30T10:00'],
    ['2026-11-29T12:00', 8, '2026-11-30T17:00'],
    // Over Christmas, and over the change of clocks.
    ['2026-12-24T16:00', 2, '2026-12-29T10:00'],
    ['2026-10-23T16:00', 9, '2026-10-26T17:00'],
    ['2026-11-25T12:00', 100, '2026-12-11T16:00'],
  ])('of %s and %i hours is %s', (begun, hours, due) =>
    expect(workingHoursAfter(begun, hours, usual)).toBe(due),
  );

  it('is never where nobody works', () =>
    expect(workingHoursAfter('2026-11-27T10:30', 1, { ...usual, workdays: new Set() })).toBeNull());

  it('law: exactly so many minutes of working time lie between, and the end lies within it', () => {
    const day = fc.integer({ min: 0, max: 60 }).map((n) => addDays('2026-10-01', new Big(86_400 * n)) ?? '');
    const two = (n: number): string => String(n).padStart(2, '0');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
        fc.array(day, { maxLength: 10 }),
        fc.tuple(fc.integer({ min: 0, max: 1438 }), fc.integer({ min: 1, max: 1439 })),
        day,
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 1, max: 12 }),
        (workdays, holidays, [a, b], from, minute, hours) => {
          const [opens, closes] = a < b ? [a, b] : [b, a + 1];
          // Hours of a day that is hardly open lie weeks ahead; that is no other case.
          fc.pre(closes - opens >= 60);
          const time = { workdays: new Set(workdays), holidays: new Set(holidays), opens, closes };
          const begun = `${from}T${two(Math.floor(minute / 60))}:${two(minute % 60)}`;
          const due = workingHoursAfter(begun, hours, time) ?? '';
          let worked = 0;
          let [at, of] = [from, minute];
          while (`${at}T${two(Math.floor(of / 60))}:${two(of % 60)}` < due) {
            if (time.workdays.has(weekday(at)) && !holidays.includes(at) && of >= opens && of < closes)
              worked++;
            if (++of === 1440) [at, of] = [addDays(at, new Big(86_400)) ?? '', 0];
          }
          expect(worked).toBe(hours * 60);
          const end = minutesOf(due.slice(11));
          expect(end > opens && end <= closes && time.workdays.has(weekday(due.slice(0, 10)))).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});
