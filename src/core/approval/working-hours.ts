import { isWorkday, workingDaysAfter } from '../expression/functions/working-days';
import type { Calendar } from '../expression/functions/builtin';

/** When people work: on which days, and between which times of day. */
export interface WorkingTime extends Calendar {
  /** Minutes of the day, the second after the first. */
  readonly opens: number;
  readonly closes: number;
}

const MINUTES = 60;

/** Minutes since midnight, of `HH:MM` with whatever comes after it. */
export const minutesOf = (time: string): number =>
  Number(time.slice(0, 2)) * MINUTES + Number(time.slice(3, 5));

const timeOf = (minutes: number): string =>
  [Math.floor(minutes / MINUTES), minutes % MINUTES].map((one) => String(one).padStart(2, '0')).join(':');

/**
 * So many working hours after a moment: what is asked outside working time begins to count when that begins
 * next. Moments are ISO date-times of the workspace's zone, to the minute, by the clock on the wall. At the
 * end of a working day it is that end, not the next morning. Null where nobody ever works.
 */
export function workingHoursAfter(begun: string, hours: number, time: WorkingTime): string | null {
  const { opens, closes } = time;
  let left = hours * MINUTES;
  let day: string | null = begun.slice(0, 10);
  const at = minutesOf(begun.slice(11));
  let from = isWorkday(day, time) ? Math.max(at, opens) : closes;
  while (from + left > closes) {
    left -= Math.max(0, closes - from);
    day = workingDaysAfter(day, 1, time);
    if (day === null) return null;
    from = opens;
  }
  return `${day}T${timeOf(from + left)}`;
}
