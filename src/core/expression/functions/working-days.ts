import Big from 'big.js';
import { addDays, dateOfDay, dayNumber, weekday } from '../moment';
import { DATE, NUMBER, YES_NO } from '../type';
import { isBig, type Value } from '../value';
import { a, type Builtin, type Calendar, type Meter } from './builtin';

/**
 * Declared extensions of the language, by the workspace's calendar. The day one starts from is not counted:
 * one working day after a Friday is the Monday, and from a Friday to that Monday is one.
 */
export const isWorkday = (date: string, { workdays, holidays }: Calendar): boolean =>
  workdays.has(weekday(date)) && !holidays.has(date);

function addWorkingDays(date: string, days: Big, calendar: Calendar, meter: Meter): Value {
  return days.eq(days.round(0))
    ? workingDaysAfter(date, days.toNumber(), calendar, () => meter.spend(1))
    : null;
}

/** So many working days after a day, or before it where they are negative. Null where nobody ever works, or no calendar goes so far. */
export function workingDaysAfter(
  date: string,
  days: number,
  calendar: Calendar,
  each: () => void = () => undefined,
): string | null {
  if (calendar.workdays.size === 0) return null;
  const step = new Big(days < 0 ? -86_400 : 86_400);
  let at: string | null = date;
  for (let left = Math.abs(days); left > 0 && at !== null;) {
    each();
    at = addDays(at, step);
    if (at !== null && isWorkday(at, calendar)) left--;
  }
  return at;
}

function workingDaysBetween(from: string, to: string, calendar: Calendar, meter: Meter): Value {
  const [start, end] = [dayNumber(from), dayNumber(to)];
  const back = end < start;
  let found = 0;
  for (let day = Math.min(start, end); day < Math.max(start, end); day++) {
    meter.spend(1);
    const date = dateOfDay(back ? day : day + 1);
    if (date !== null && isWorkday(date, calendar)) found++;
  }
  return new Big(back ? -found : found);
}

export const workingDayFunctions: readonly Builtin[] = [
  {
    name: 'add working days',
    ways: [{ takes: [a(DATE), a(NUMBER)], gives: DATE }],
    run: ([date = null, days = null], { calendar }, meter) =>
      typeof date === 'string' && isBig(days) ? addWorkingDays(date, days, calendar, meter) : null,
  },
  {
    name: 'working days between',
    ways: [{ takes: [a(DATE), a(DATE)], gives: NUMBER }],
    run: ([from = null, to = null], { calendar }, meter) =>
      typeof from === 'string' && typeof to === 'string'
        ? workingDaysBetween(from, to, calendar, meter)
        : null,
  },
  {
    name: 'is working day',
    ways: [{ takes: [a(DATE)], gives: YES_NO }],
    run: ([date = null], { calendar }) => (typeof date === 'string' ? isWorkday(date, calendar) : null),
  },
];
