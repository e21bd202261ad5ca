import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { workingTime } from '../workspace';
import { addDays, weekday } from '../expression/moment';
import Big from 'big.js';
import { byDue, dueOf, withDays } from './due';

const calendarOf = (workdays: readonly number[], holidays: readonly string[]) =>
  workingTime({ workdays, holidays, opens: '09:00', closes: '17:00' });
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

  it('within hours has a time of day, and is late from the minute after', () => {
    const due = (now: string) => dueOf({ within: 4, hours: true }, '2026-11-27T15:30', now, usual);
    expect(due('2026-11-30T11:30:59')).toEqual({ day: '2026-11-30', time: '11:30', late: false });
    expect(due('2026-11-30T11:31')?.late).toBe(true);
  });

  it('by rules is in days, whatever the step itself has', () => {
    const step = { id: 'sa', within: 4, hours: true as const };
    expect(withDays(step, {})).toBe(step);
    expect(dueOf(withDays(step, { sa: 1 }) ?? {}, '2026-11-27T15:30', '2026-11-27T15:30', usual)).toEqual({
      day: '2026-11-30',
      late: false,
    });
  });

  it('of a day, times come first and the whole day after them', () => {
    const one = (at: string, time?: string) => ({
      at,
      due: { day: '2026-12-02', late: false, ...(time !== undefined && { time }) },
    });
    expect([one('1'), one('2', '15:00'), one('3', '09:30')].sort(byDue).map(({ at }) => at)).toEqual([
      '3',
      '2',
      '1',
    ]);
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
