import type { SheetData, SubmissionData } from '../../contract/sheet-from-server';
import { answerChanges, type AnswerChanges } from '../../core/approval/changes';
import { stoodBefore, type StoodBefore } from '../../core/check/stood-before';
import type { Sheet } from '../../core/form/sheet';
import { modelOf, sheetWith, type Model } from './sheet-model';

/** A sheet that is put right while it is decided: which answers may be, and the sheet they are typed in. */
export interface Correcting {
  readonly corrects: ReadonlySet<string>;
  readonly sheet: Sheet;
  readonly model: Model;
}

/** A sheet to look at. */
export interface ShownSheet {
  readonly data: SheetData;
  readonly sheet: Sheet;
  /** The sheet as it was sent before, or the record before it was changed by this. */
  readonly before: Sheet | null;
  readonly changes: AnswerChanges | null;
  readonly stood: StoodBefore;
  /** Where it is put right while one looks. */
  readonly correcting?: Correcting;
}

export interface Reviewing extends ShownSheet {
  readonly submission: SubmissionData;
}

export function reviewOf(data: SheetData): Reviewing | null {
  const { submission } = data;
  return submission === null ? null : { ...shownSheet(data), submission };
}

export function shownSheet(data: SheetData): ShownSheet {
  const model = modelOf(data);
  const earlier = data.submission?.earlierAnswers ?? null;
  const before = earlier === null ? null : sheetWith(data, model, earlier);
  return {
    data,
    sheet: sheetWith(data, model, data.answers),
    before,
    changes: earlier === null ? null : answerChanges(earlier, data.answers),
    stood: stoodBefore(data.submission?.changes === true ? before : null),
  };
}
