import { workingDaysAfter } from '../expression/functions/working-days';
import type { ApprovalStep } from '../form/design';
import { workingHoursAfter, type WorkingTime } from './working-hours';

/** By when a step is decided in time, and whether that has passed. */
export interface Due {
  /** ISO date of the workspace. */
  readonly day: string;
  /** `HH:MM`, where it is due within hours; the whole of the day otherwise. */
  readonly time?: string;
  readonly late: boolean;
}

/** How long a step may take: so many working days, or hours. */
export type Time = Pick<ApprovalStep, 'within' | 'hours'>;

/** Working days to decide by the rules, by the id of the step. */
export type Days = Readonly<Record<string, number>>;

/** A step with the time it has by the rules, which is in days, or else its own. */
export function withDays<S extends Time & { readonly id: string }>(
  step: S | undefined,
  days: Days,
): S | undefined {
  const ruled = step === undefined ? undefined : days[step.id];
  return step === undefined || ruled === undefined ? step : { ...step, within: ruled, hours: undefined };
}

/**
 * When a step is due: its working days after the day it began, or its working hours after the moment. All are
 * ISO date-times of the workspace's zone. Null where it has no time set, or where nobody ever works.
 */
export function dueOf({ within, hours }: Time, begun: string, now: string, time: WorkingTime): Due | null {
  if (within === undefined) return null;
  if (hours === true) {
    const at = workingHoursAfter(begun, within, time);
    return at === null ? null : { day: at.slice(0, 10), time: at.slice(11), late: now.slice(0, 16) > at };
  }
  const day = workingDaysAfter(begun.slice(0, 10), within, time);
  return day === null ? null : { day, late: now.slice(0, 10) > day };
}

/** What is due first comes first; what has no time set comes after all that has, longest waiting first. */
export const byDue = <T extends { readonly due: Due | null; readonly at: string }>(a: T, b: T): number =>
  moment(a.due).localeCompare(moment(b.due)) || a.at.localeCompare(b.at);

/** A whole day comes after the times of that day. */
const moment = (due: Due | null): string => (due === null ? '9' : `${due.day}T${due.time ?? '99'}`);
