import { useCallback, useMemo, useState, useSyncExternalStore } from 'react';
import { answerChanges } from '../../core/approval/changes';
import { sheetIssues } from '../../core/check/sheet-issues';
import { issueSentence } from '../../core/wording/issue-sentence';
import type { Sheet } from '../../core/form/sheet';
import { modelOf, sheetWith, lineAtPlace } from './sheet-model';
import { loadHeavy } from './heavy';
import type { Correcting, Reviewing } from './reviewing';

/** What is wrong with a sheet as it was corrected and was not before, with its line. */
export interface CorrectionIssue {
  readonly line: string;
  readonly sentence: string;
  /** The check that wants a reason; null where it is to be put right. */
  readonly reasonFor: string | null;
}

/**
 * Correcting while one looks: what is shown is the sheet as it is corrected, with what was sent struck
 * through. Null while nothing is corrected; what is typed stays in this window until it is saved or left.
 */
export function useCorrecting(review: Reviewing | null) {
  const [sheet, setSheet] = useState<Sheet | null>(null);
  useSyncExternalStore(
    useCallback((told: () => void) => sheet?.watch(told) ?? (() => undefined), [sheet]),
    () => sheet?.version ?? 0,
    () => 0,
  );
  const data = review?.data ?? null;
  const model = useMemo(() => (data === null || sheet === null ? null : modelOf(data)), [data, sheet]);
  const begin = () => {
    if (data === null) return;
    const made = sheetWith(data, modelOf(data), data.answers);
    // The controls that need much script are there before any is drawn.
    void loadHeavy().then(() => setSheet(made));
  };
  const shown =
    review === null || sheet === null || model === null || review.submission.corrects.length === 0
      ? review
      : correctedReview(review, { sheet, model, corrects: new Set(review.submission.corrects) });
  return { review: shown, begin, leave: () => setSheet(null) };
}

function correctedReview(review: Reviewing, correcting: Correcting): Reviewing {
  const { data } = review;
  return {
    ...review,
    sheet: correcting.sheet,
    before: review.sheet,
    changes: answerChanges(data.answers, correcting.sheet.answers()),
    correcting,
  };
}

/** What a correction has yet to put right, or give a reason for. */
export function correctionIssues({ data, sheet, before }: Reviewing): CorrectionIssue[] {
  const was = new Set((before === null ? [] : sheetIssues(before)).map(keyOf));
  return sheetIssues(sheet)
    .filter((one) => !was.has(keyOf(one)))
    .map((one) => ({
      line: lineAtPlace(data.design, sheet, one.path),
      sentence: issueSentence(one),
      reasonFor: one.code === 'reason-needed' ? String(one.facts['check'] ?? '') : null,
    }));
}

const keyOf = ({ path, code, facts }: ReturnType<typeof sheetIssues>[number]): string =>
  JSON.stringify([path, code, facts['check']]);
