import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { PastSubmission } from '../../contract/rehearsals';
import { isBlank, isBlankRow, type Answers } from '../../core/form/answers';
import type { Sheet } from '../../core/form/sheet';
import { fetched } from '../kit/call';
import type { Choice } from '../kit/Select';
import { modelOf, sheetWith } from '../sheet/sheet-model';
import { beginRehearsal } from './begin-rehearsal';
import type { RehearsalSetting } from './rehearsal-setting';
import { useSettled } from './use-settled';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

export type Example = ReturnType<typeof useExample>;

/** Which answers: what was rehearsed last, or none; any other is the id of something that was sent. */
export const REHEARSED = 'rehearsed';
export const NO_ANSWERS = 'none';
/** After the last letter; what a check comes to is told at once all the same. */
const ASK_AFTER_MS = 700;

/** Submissions that were sent in this form, the newest first. */
export const usePast = ({ data }: Workbench) =>
  useQuery({
    queryKey: ['past', data.id],
    queryFn: () => fetched<{ submissions: PastSubmission[] }>(`/api/forms/${data.id}/rehearsal/past`),
  });

/** A sheet that is filled, so that an expression can be seen at work: as it was rehearsed last, or as something was sent. */
export function useExample(bench: Workbench) {
  const { rehearsal, design, data } = bench;
  const past = usePast(bench);
  const [picked, pick] = useState<string | null>(null);
  const submissions = past.data?.submissions ?? [];
  const rehearsed = rehearsal.answers !== null && holdsAnything(rehearsal.answers);
  const choices: Choice[] = [
    ...(rehearsed ? [{ value: REHEARSED, label: speak`what was rehearsed last` }] : []),
    ...submissions.map(({ id, number, sender }) => ({
      value: id,
      label: `${number}, ${sender}`,
      short: number,
    })),
    { value: NO_ANSWERS, label: speak`no answers` },
  ];
  const of = picked ?? (past.isPending && !rehearsed ? null : (choices[0]?.value ?? NO_ANSWERS));
  const sections = useSettled(design.sections, ASK_AFTER_MS);
  const setting: RehearsalSetting =
    of === REHEARSED ? rehearsal : { ...rehearsal, of: of === NO_ANSWERS ? null : of, answers: null };
  const opened = useQuery({
    queryKey: ['example', data.id, sections, of, setting.as, setting.day, setting.time],
    queryFn: () => beginRehearsal(bench, setting),
    enabled: of !== null && bench.issues.length === 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const sheet = useMemo((): Sheet | null => {
    const from = opened.data;
    return from === undefined ? null : sheetWith(from, modelOf(from), from.answers);
  }, [opened.data]);
  return { sheet, of: of ?? NO_ANSWERS, choices, pick, failed: opened.isError };
}

/** A rehearsal that was only looked at shows nothing. */
const holdsAnything = ({ values, rows }: Answers): boolean =>
  Object.values(values).some((raw) => !isBlank(raw)) ||
  Object.values(rows).some((list) => list.some((row) => !isBlankRow(row)));
