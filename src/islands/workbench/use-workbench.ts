import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { WorkbenchData } from '../../contract/answers-from-server';
import { designIssues } from '../../core/form/design-issues';
import { groupsOf, lineNumbers, questionsOf, type FormDesign, type Question, type RowsQuestion } from '../../core/form/design';
import { scopeOf } from '../../core/form/scope';
import type { Issue } from '../../core/kernel/issue';
import { shortId, uuidV7 } from '../../core/kernel/ids';
import { call } from '../kit/call';

/** After the last edit; an edit is a word or a pick, so waiting longer would only risk more. */
const KEEP_AFTER_MS = 600;
const UNDO_STEPS = 200;

export type Workbench = ReturnType<typeof useWorkbench>;

export const newShortId = (): string => shortId(crypto.getRandomValues(new Uint8Array(12)));
export const newUuid = (): string => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

/** A form while it is designed: the draft, undo, keeping, what is wrong with it, and which line is in hand. */
export function useWorkbench(data: WorkbenchData) {
  const [design, setDesign] = useState(data.design);
  const [selected, setSelected] = useState<string | null>(questionsOf(data.design)[0]?.id ?? null);
  const [past, setPast] = useState<readonly FormDesign[]>([]);
  const keeping = useKeepDesign(data, design);
  const tables = useMemo(() => new Map(data.tables.map((table) => [table.id, table])), [data.tables]);
  const people = useMemo(() => new Set(data.people.map(({ id }) => id)), [data.people]);
  const issues = useMemo(() => designIssues(design, tables, people), [design, tables, people]);
  const latest = useRef(design);
  latest.current = design;
  const edit = useCallback((change: (design: FormDesign) => FormDesign) => {
    const before = latest.current;
    const after = change(before);
    if (after === before) return;
    latest.current = after;
    setPast((list) => [...list.slice(-UNDO_STEPS), before]);
    setDesign(after);
  }, []);
  const undo = () => {
    const before = past.at(-1);
    if (before === undefined) return;
    latest.current = before;
    setDesign(before);
    setPast(past.slice(0, -1));
  };
  const place = placeOf(design, selected);
  return {
    data, design, edit, undo, canUndo: past.length > 0, tables, issues, selected, select: setSelected, ...place, ...keeping,
    numbers: lineNumbers(design),
    scope: (group?: RowsQuestion) => scopeOf(design, tables, group),
    issuesAt: (id: string): Issue[] => issues.filter(({ path }) => path[0] === id || path[1] === id),
  };
}

/** The question in hand, and the group it is a column of. */
function placeOf(design: FormDesign, id: string | null): { question: Question | null; group: RowsQuestion | null } {
  const own = questionsOf(design).find((question) => question.id === id) ?? null;
  if (own !== null) return { question: own, group: null };
  const group = groupsOf(design).find(({ columns }) => columns.some((column) => column.id === id)) ?? null;
  return { question: group?.columns.find((column) => column.id === id) ?? null, group };
}

export type DesignKeeping = { t: 'kept'; at: string } | { t: 'keeping' } | { t: 'refused'; words: string } | { t: 'no-connection' };

function useKeepDesign(data: WorkbenchData, design: FormDesign) {
  const version = useRef(data.version);
  const [keeping, setKeeping] = useState<DesignKeeping>({ t: 'kept', at: data.updatedAt });
  const kept = useRef(data.design);
  const latest = useRef(design);
  const running = useRef<Promise<boolean> | null>(null);
  latest.current = design;

  const keep = useCallback(async (): Promise<boolean> => {
    if (running.current !== null) await running.current;
    const sent = latest.current;
    if (sent === kept.current) return true;
    setKeeping({ t: 'keeping' });
    running.current = call<{ version: number }>('PUT', `/api/forms/${data.id}/design`, { version: version.current, design: sent }).then((result) => {
      if (!result.ok) return (setKeeping({ t: 'refused', words: [result.error.title, ...(result.error.issues ?? []).slice(0, 2).map(({ path, sentence }) => `${path.join('.')}: ${sentence}`)].join('. ') }), false);
      version.current = result.value.version;
      kept.current = sent;
      setKeeping({ t: 'kept', at: new Date().toISOString() });
      return true;
    }, () => (setKeeping({ t: 'no-connection' }), false));
    const done = await running.current;
    running.current = null;
    return done;
  }, [data.id]);

  useEffect(() => {
    if (design === kept.current) return;
    const timer = setTimeout(() => void keep(), KEEP_AFTER_MS);
    return () => clearTimeout(timer);
  }, [design, keep]);
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (latest.current !== kept.current) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, []);
  return { keeping, keep, version };
}
