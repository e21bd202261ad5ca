import { useCallback, useMemo, useState } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import { stoodBefore, type StoodBefore } from '../../core/check/stood-before';
import type { Answers } from '../../core/form/answers';
import { groupsIn } from '../../core/form/design';
import type { Sheet } from '../../core/form/sheet';
import { baseAfter, mergedAnswers, withPlaceOf, type AnswerPlace } from '../../core/storage/merged-answers';
import type { Draft } from './device-copy';
import { sheetWith, type Model } from './sheet-model';

/**
 * The record a sheet changes: how it was, what is still to be asked because somebody else changed it too, and
 * what the change goes on from.
 */
export interface RecordInHand {
  /** The sheet of the record as it is; null where a new one is made. */
  readonly was: Sheet | null;
  readonly stood: StoodBefore;
  readonly clashes: readonly AnswerPlace[];
  /** What is kept of answers. */
  readonly drafted: (answers: Answers) => Draft;
  /** Takes up a draft from the device: the answers to show, which have met the record as it is now. */
  readonly takenUp: (draft: Draft) => Answers;
  /** Says which of the two stands at a place; gives the answers to keep. */
  readonly settle: (sheet: Sheet, place: AnswerPlace, which: 'mine' | 'theirs') => Draft | null;
}

export function useRecord(data: SheetData, model: Model): RecordInHand {
  const { record } = data;
  const [base, setBase] = useState(record?.base ?? null);
  const [clashes, setClashes] = useState<readonly AnswerPlace[]>(record?.clashes ?? []);
  const was = useMemo(
    () => (record === null ? null : sheetWith(data, model, record.now)),
    [data, model, record],
  );
  const stood = useMemo(() => stoodBefore(was), [was]);
  const of = useCallback(
    (answers: Answers, from: Answers | null): Draft =>
      record === null || from === null ? { answers } : { answers, of: { record: record.id, base: from } },
    [record],
  );
  const drafted = useCallback((answers: Answers) => of(answers, base), [of, base]);
  const takenUp = useCallback(
    ({ answers, of: begun }: Draft): Answers => {
      if (record === null || begun === undefined) return answers;
      const met = mergedAnswers(data.design, begun.base, answers, record.now);
      setBase(baseAfter(data.design, begun.base, record.now, met.clashes));
      setClashes(met.clashes);
      return met.answers;
    },
    [record, data.design],
  );
  const settle = useCallback(
    (sheet: Sheet, place: AnswerPlace, which: 'mine' | 'theirs'): Draft | null => {
      if (record === null || base === null) return null;
      if (which === 'theirs') takeOver(sheet, record.now, place);
      const next = withPlaceOf(data.design, base, record.now, place);
      setBase(next);
      setClashes((now) => now.filter((one) => one.join() !== place.join()));
      return of(sheet.answers(), next);
    },
    [record, data.design, base, of],
  );
  return { was, stood, clashes, drafted, takenUp, settle };
}

/** Makes one place of a sheet as it is in the record now. */
function takeOver(sheet: Sheet, now: Answers, [first = '', row, question]: AnswerPlace): void {
  if (row === undefined) return sheet.set([first], now.values[first] ?? null);
  const theirs = (now.rows[first] ?? []).find(({ id }) => id === row);
  if (question !== undefined) return sheet.set([first, row, question], theirs?.cells[question] ?? null);
  sheet.removeRow(first, row);
  if (theirs === undefined) return;
  sheet.insertRow(first, theirs);
  const own = sheet.form.groups.get(first);
  for (const { id } of own === undefined ? [] : groupsIn(sheet.form.design, own))
    for (const inner of now.rows[id] ?? []) if (inner.of === row) sheet.insertRow(id, inner);
}
