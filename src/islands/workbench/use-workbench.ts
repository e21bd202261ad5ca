import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { compileForm, worstStepsOf } from '../../core/form/compile-form';
import { marksOf } from '../../core/form/change/marks';
import { designIssues } from '../../core/form/design-issues';
import {
  groupsOf,
  questionsOf,
  type FormDesign,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { lineNumbers } from '../../core/form/numbered-lines';
import { scopeOf } from '../../core/form/scope';
import type { Answers } from '../../core/form/answers';
import type { Issue } from '../../core/kernel/issue';
import { useDesign } from './use-design';
import { useOthers } from './use-others';
import { today, type RehearsalSetting } from './rehearsal-setting';

export type Workbench = ReturnType<typeof useWorkbench>;

/** A form while it is designed: the draft, undo, keeping, what is wrong with it, and which line is in hand. */
export function useWorkbench(data: WorkbenchData) {
  const drafted = useDesign(data);
  const { design } = drafted;
  /** What is in hand: questions, columns or a section; the last of them is whose settings are shown. */
  const [hand, setHand] = useState<readonly string[]>(() =>
    questionsOf(data.design)
      .slice(0, 1)
      .map(({ id }) => id),
  );
  const selected = hand.at(-1) ?? null;
  const tables = useMemo(() => new Map(data.tables.map((table) => [table.id, table])), [data.tables]);
  const people = useMemo(
    () => new Set([...data.people, ...data.groups].map(({ id }) => id)),
    [data.people, data.groups],
  );
  // What is wrong with a long form takes longer to find than a letter may take to be painted, so it follows.
  const settled = useDeferredValue(design);
  const issues = useMemo(() => designIssues(settled, tables, people), [settled, tables, people]);
  const marks = useMemo(
    () => (data.released === null ? noMarks : marksOf(data.released, settled)),
    [data.released, settled],
  );
  const compiled = useMemo(() => {
    const form = compileForm(settled, tables);
    return form.ok ? form.value : null;
  }, [settled, tables]);
  const worstSteps = useMemo(() => compiled && worstStepsOf(compiled), [compiled]);
  const [rehearsal, setRehearsal] = useState<RehearsalSetting>(() => ({
    as: data.me,
    day: today(),
    time: '',
    of: null,
    answers: null,
    round: 0,
  }));
  /** What is typed in a rehearsal stays while its design is edited. */
  const keepRehearsed = useCallback((answers: Answers) => setRehearsal((now) => ({ ...now, answers })), []);
  const place = placeOf(design, selected);
  const numbers = useMemo(() => lineNumbers(design), [design]);
  const others = useOthers(data, selected);
  return {
    data,
    ...drafted,
    tables,
    issues,
    /** What differs from the live release. */
    marks,
    /** Null while it cannot be filled as it is. */
    compiled,
    worstSteps,
    others,
    rehearsal,
    setRehearsal,
    keepRehearsed,
    hand,
    selected,
    select: (id: string | null) => setHand(id === null ? [] : [id]),
    selectAlso: (id: string) =>
      setHand((ids) => (ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id])),
    selectTo: (id: string) => setHand((ids) => stretch(design, ids[0] ?? id, id)),
    section: design.sections.find(({ id }) => id === selected) ?? null,
    ...place,
    numbers,
    scope: (group?: RowsQuestion) => scopeOf(design, tables, group),
    issuesAt: (id: string): Issue[] => issues.filter(({ path }) => path[0] === id || path[1] === id),
  };
}

const noMarks: ReturnType<typeof marksOf> = new Map();

/** All lines from one to the other, whichever comes first; columns only among themselves. */
function stretch(design: FormDesign, from: string, to: string): readonly string[] {
  const lists = [questionsOf(design), ...groupsOf(design).map(({ columns }) => columns)];
  const ids = (lists.find((list) => list.some(({ id }) => id === to)) ?? []).map(({ id }) => id);
  const [a, b] = [ids.indexOf(from), ids.indexOf(to)];
  if (a < 0 || b < 0) return [to];
  const list = ids.slice(Math.min(a, b), Math.max(a, b) + 1);
  // The first stays the first, so that the stretch can be made shorter again.
  return a <= b ? list : list.reverse();
}

/** The question in hand, and the group it is a column of. */
function placeOf(
  design: FormDesign,
  id: string | null,
): { question: Question | null; group: RowsQuestion | null } {
  const own = questionsOf(design).find((question) => question.id === id) ?? null;
  if (own !== null) return { question: own, group: null };
  const group = groupsOf(design).find(({ columns }) => columns.some((column) => column.id === id)) ?? null;
  return { question: group?.columns.find((column) => column.id === id) ?? null, group };
}
