import { dueOf } from '../approval/due';
import type { WorkingTime } from '../approval/working-hours';

/**
 * A time that steps have, in working days or hours, and when some of them began: an ISO day of the workspace,
 * or a moment of it where it is in hours.
 */
export interface Begun {
  readonly within: number;
  readonly hours: boolean;
  /** So many days, or hours, before that are reminded of it; null where none are. */
  readonly soon: number | null;
  readonly begun: string;
}

export interface Dated extends Begun {
  readonly due: string;
}

/**
 * Which of them are near, which are due today and not late yet, and which are late, each with the day they
 * are due. `now` is a moment of the workspace.
 */
export function dueNow(
  waiting: readonly Begun[],
  now: string,
  time: WorkingTime,
): Record<'soon' | 'due' | 'late', Dated[]> {
  const told: Record<'soon' | 'due' | 'late', Dated[]> = { soon: [], due: [], late: [] };
  for (const one of waiting) {
    const due = dueOf(timeOf(one, one.within), one.begun, now, time);
    if (due === null) continue;
    const dated = { ...one, due: due.day };
    if (due.late) told.late.push(dated);
    else if (due.day === now.slice(0, 10)) told.due.push(dated);
    else if (isNear(one, now, time)) told.soon.push(dated);
  }
  return told;
}

const timeOf = ({ hours }: Begun, within: number) => ({ within, ...(hours && { hours: true as const }) });

/** From the day on, or the hour, that lies so long before. What rules gave no longer than that is not reminded of. */
function isNear(one: Begun, now: string, time: WorkingTime): boolean {
  if (one.soon === null || one.soon >= one.within) return false;
  const from = dueOf(timeOf(one, one.within - one.soon), one.begun, now, time);
  return from !== null && now.slice(0, 16) >= `${from.day}${from.time === undefined ? '' : `T${from.time}`}`;
}
