import { workingDaysAfter } from '../expression/functions/working-days';
import type { Calendar } from '../expression/functions/builtin';
import type { ApprovalStep } from '../form/design';

/** The last day on which a step is decided in time, and whether that has passed. */
export interface Due {
  readonly day: string;
  readonly late: boolean;
}

/** Working days to decide by the rules, by the id of the step. */
export type Days = Readonly<Record<string, number>>;

/** A step with the time it has by the rules, or else its own. */
export const withDays = <S extends Pick<ApprovalStep, 'id' | 'within'>>(
  step: S | undefined,
  days: Days,
): S | undefined => (step === undefined ? undefined : { ...step, within: days[step.id] ?? step.within });

/**
 * When a step is due: its working days after the day it began. Both days are ISO dates of the workspace's zone. Null where it has no time set, or where
 * nobody ever works.
 */
export function dueOf(
  { within }: Pick<ApprovalStep, 'within'>,
  begun: string,
  today: string,
  calendar: Calendar,
): Due | null {
  const day = within === undefined ? null : workingDaysAfter(begun, within, calendar);
  return day === null ? null : { day, late: today > day };
}

/** What is due first comes first; what has no time set comes after all that has, longest waiting first. */
export const byDue = <T extends { readonly due: Due | null; readonly at: string }>(a: T, b: T): number =>
  (a.due?.day ?? '9').localeCompare(b.due?.day ?? '9') || a.at.localeCompare(b.at);
