import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worldAt } from '../workspace';
import { addDays, weekday } from '../expression/moment';
import Big from 'big.js';
import { byDue, dueOf } from './due';

const calendarOf = (workdays: readonly number[], holidays: readonly string[]) =>
  worldAt({ workdays, holidays }, '2026-01-01T00:00').calendar;
const usual = calendarOf([1, 2, 3, 4, 5], ['2026-12-25', '2026-12-28']);

describe('when a step is due', () => {
  it('counts working days after the day it began, over weekends and holidays', () => {
    // A Friday; the Monday after Christmas is a holiday here.
    expect(dueOf({ within: 1 }, '2026-11-27', '2026-11-27', usual)).toEqual({
      day: '2026-11-30',
      late: false,
    });
    expect(dueOf({ within: 3 }, '2026-12-23', '2026-12-23', usual)?.day).toBe('2026-12-30');
    // Sent on a Sunday, it is the next working day.
    expect(dueOf({ within: 1 }, '2026-11-29', '2026-11-29', usual)?.day).toBe('2026-11-30');
  });

  it('is late from the day after', () => {
    for (const [today, late] of [
      ['2026-11-30', false],
      ['2026-12-01', true],
    ] as const)
      expect(dueOf({ within: 1 }, '2026-11-27', today, usual)?.late).toBe(late);
  });

  it('is never, where no time is set or nobody works', () => {
    expect(dueOf({}, '2026-11-27', '2027-11-27', usual)).toBeNull();
    expect(dueOf({ within: 2 }, '2026-11-27', '2026-11-27', calendarOf([], []))).toBeNull();
  });

  it('sorts what is due first before what has time, and that before what has no time set', () => {
    const one = (at: string, day: string | null) => ({ at, due: day === null ? null : { day, late: false } });
    const sorted = [
      one('1', null),
      one('3', '2026-12-02'),
      one('2', '2026-12-02'),
      one('4', '2026-12-01'),
    ].sort(byDue);
    expect(sorted.map(({ at }) => at)).toEqual(['4', '2', '3', '1']);
  });

  it('law: it is a working day, after the day it began, with so many working days up to it; and never sooner for what began later', () => {
    const day = fc.integer({ min: 0, max: 700 }).map((n) => addDays('2026-01-01', new Big(86_400 * n)) ?? '');
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
        fc.array(day, { maxLength: 40 }),
        day,
        day,
        fc.integer({ min: 1, max: 20 }),
        (workdays, holidays, a, b, within) => {
          const calendar = calendarOf(workdays, holidays);
          const works = (date: string) => workdays.includes(weekday(date)) && !holidays.includes(date);
          const due = (begun: string) => dueOf({ within }, begun, begun, calendar)?.day ?? '';
          const end = due(a);
          let found = 0;
          for (let at = a; at < end;) {
            at = addDays(at, new Big(86_400)) ?? end;
            if (works(at)) found++;
          }
          expect([works(end), end > a, found]).toEqual([true, true, within]);
          const [first, second] = [a, b].sort() as [string, string];
          expect(due(first) <= due(second)).toBe(true);
        },
      ),
    );
  });
});
