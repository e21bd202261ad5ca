import { dueOf } from '../approval/due';
import type { Calendar } from '../expression/functions/builtin';

/** A time that steps have, in working days, and a day (ISO, of the workspace) on which some of them began. */
export interface Begun {
  readonly within: number;
  readonly begun: string;
}

/** Which of them are due today, and which are late, each with the day they are due. */
export function dueNow(
  waiting: readonly Begun[],
  today: string,
  calendar: Calendar,
): Record<'due' | 'late', (Begun & { readonly due: string })[]> {
  const dated = waiting.flatMap((one) => {
    const due = dueOf(one, one.begun, today, calendar);
    return due === null ? [] : [{ ...one, due: due.day, late: due.late }];
  });
  return {
    due: dated.filter(({ due }) => due === today).map(({ late: _, ...one }) => one),
    late: dated.filter(({ late }) => late).map(({ late: _, ...one }) => one),
  };
}
