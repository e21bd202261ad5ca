import type { SheetData, SubmissionData } from '../../contract/answers-from-server';
import { answerChanges, type AnswerChanges } from '../../core/approval/changes';
import type { Sheet } from '../../core/form/sheet';
import { modelOf, sheetWith } from './sheet-model';

export interface Reviewing {
  readonly data: SheetData;
  readonly submission: SubmissionData;
  readonly sheet: Sheet;
  /** The sheet as it was sent before, where it was sent more than once. */
  readonly before: Sheet | null;
  readonly changes: AnswerChanges | null;
}

export function reviewOf(data: SheetData): Reviewing | null {
  const { submission } = data;
  if (submission === null) return null;
  const model = modelOf(data);
  const before = submission.earlierAnswers;
  return {
    data,
    submission,
    sheet: sheetWith(data, model, data.answers),
    before: before === null ? null : sheetWith(data, model, before),
    changes: before === null ? null : answerChanges(before, data.answers),
  };
}
