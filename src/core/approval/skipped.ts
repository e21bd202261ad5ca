import type { ApprovalStep } from '../form/design';
import type { Sheet } from '../form/sheet';
import { askedId } from '../form/written-expressions';

/** Whether a step is not asked about a sheet as it is: its condition is there and not true. What cannot be told is asked. */
export const isSkipped = (step: ApprovalStep, sheet: Sheet): boolean =>
  step.when !== undefined && sheet.value([askedId(step.id)]) === false;

export const skippedSteps = (sheet: Sheet): string[] =>
  sheet.form.design.steps.flatMap((step) => (isSkipped(step, sheet) ? [step.id] : []));
