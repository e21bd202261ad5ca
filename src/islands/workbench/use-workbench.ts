import { useMemo, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { compileForm, worstStepsOf } from '../../core/form/compile-form';
import { designIssues } from '../../core/form/design-issues';
import {
  groupsOf,
  lineNumbers,
  questionsOf,
  type FormDesign,
  type Question,
  type RowsQuestion,
} from '../../core/form/design';
import { scopeOf } from '../../core/form/scope';
import type { Issue } from '../../core/kernel/issue';
import { call } from '../kit/call';
import { useKept } from '../kit/use-kept';
import { useUndo } from '../kit/use-undo';

export type Workbench = ReturnType<typeof useWorkbench>;

/** A form while it is designed: the draft, undo, keeping, what is wrong with it, and which line is in hand. */
export function useWorkbench(data: WorkbenchData) {
  const { value: design, edit, undo, canUndo } = useUndo(data.design);
  const [selected, setSelected] = useState<string | null>(questionsOf(data.design)[0]?.id ?? null);
  const keeping = useKept({
    value: design,
    version: data.version,
    at: data.updatedAt,
    send: (version, sent) =>
      call<{ version: number }>('PUT', `/api/forms/${data.id}/design`, { version, design: sent }),
  });
  const tables = useMemo(() => new Map(data.tables.map((table) => [table.id, table])), [data.tables]);
  const people = useMemo(() => new Set(data.people.map(({ id }) => id)), [data.people]);
  const issues = useMemo(() => designIssues(design, tables, people), [design, tables, people]);
  const worstSteps = useMemo(() => {
    const form = compileForm(design, tables);
    return form.ok ? worstStepsOf(form.value) : null;
  }, [design, tables]);
  const place = placeOf(design, selected);
  return {
    data,
    design,
    edit,
    undo,
    canUndo,
    tables,
    issues,
    worstSteps,
    selected,
    select: setSelected,
    ...place,
    ...keeping,
    numbers: lineNumbers(design),
    scope: (group?: RowsQuestion) => scopeOf(design, tables, group),
    issuesAt: (id: string): Issue[] => issues.filter(({ path }) => path[0] === id || path[1] === id),
  };
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
