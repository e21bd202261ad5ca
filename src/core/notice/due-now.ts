import { dueOf } from '../approval/due';
import type { WorkingTime } from '../approval/working-hours';

/** A time that steps have, in working days or hours, and when some of them began: an ISO day of the workspace, or a moment of it where it is in hours. */
export interface Begun {
  readonly within: number;
  readonly hours: boolean;
  readonly begun: string;
}

/** Which of them are due today and not late yet, and which are late, each with the day they are due. `now` is a moment of the workspace. */
export function dueNow(
  waiting: readonly Begun[],
  now: string,
  time: WorkingTime,
): Record<'due' | 'late', (Begun & { readonly due: string })[]> {
  const today = now.slice(0, 10);
  const dated = waiting.flatMap((one) => {
    const due = dueOf({ within: one.within, ...(one.hours && { hours: true }) }, one.begun, now, time);
    return due === null ? [] : [{ ...one, due: due.day, late: due.late }];
  });
  return {
    due: dated.filter(({ due, late }) => due === today && !late).map(({ late: _, ...one }) => one),
    late: dated.filter(({ late }) => late).map(({ late: _, ...one }) => one),
  };
}
