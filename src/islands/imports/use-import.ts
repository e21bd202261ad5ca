import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { ImportData } from '../../contract/imports';
import type { ColumnDecision, Decisions } from '../../core/import/decisions';
import { deciding, working, type Trial } from '../../core/import/import';
import { openAsks, planImport, type ImportPlan } from '../../core/import/import-plan';
import { call, fetched } from '../kit/call';
import { useLive } from '../kit/live';

export interface Importing {
  readonly data: ImportData;
  readonly decisions: Decisions;
  readonly plan: ImportPlan;
  readonly asks: ReturnType<typeof openAsks>;
  /** What was tried out counts no more, unless the change leaves it as it is. */
  readonly decide: (change: (before: Decisions) => Decisions, leavesTrial?: boolean) => void;
  readonly column: (path: string, change: ColumnDecision) => void;
  readonly accept: () => Promise<void>;
  readonly tryOut: () => Promise<void>;
  /** What a try with these decisions came to. */
  readonly trial: Trial | null;
  readonly cancel: () => Promise<void>;
  /** Reads the files anew with the headings of a sheet in this row; 0 for none. */
  readonly headings: (sheet: string, row: number) => Promise<void>;
  /** Why the last step was not taken. */
  readonly trouble: string;
  readonly busy: boolean;
}

const SAVE_AFTER = 250;

/** Keeps decisions a moment after each change, one request after the other; each names the version it began from. */
function useKeeping(id: string, serverVersion: number, setTrouble: (words: string) => void) {
  const version = useRef(serverVersion);
  const held = useRef<{ decisions: Decisions; timer: ReturnType<typeof setTimeout> } | null>(null);
  const chain = useRef(Promise.resolve(true));
  useEffect(() => {
    version.current = Math.max(version.current, serverVersion);
  }, [serverVersion]);
  const save = useCallback(
    (next: Decisions) => {
      chain.current = chain.current
        .then(async () => {
          const done = await call<{ version: number }>('PUT', `/api/imports/${id}`, {
            version: version.current,
            decisions: next,
          });
          if (done.ok) version.current = done.value.version;
          else setTrouble(done.error.title);
          return done.ok;
        })
        .catch(
          () => (setTrouble('The server could not be reached; what you decided is not kept yet'), false),
        );
      return chain.current;
    },
    [id, setTrouble],
  );
  const flush = useCallback(async () => {
    const one = held.current;
    held.current = null;
    if (one === null) return chain.current;
    clearTimeout(one.timer);
    return save(one.decisions);
  }, [save]);
  const keep = useCallback(
    (decisions: Decisions) => {
      if (held.current !== null) clearTimeout(held.current.timer);
      held.current = { decisions, timer: setTimeout(() => void flush(), SAVE_AFTER) };
    },
    [flush],
  );
  return { version, flush, keep };
}

/** One import as its page follows it. */
export function useImport(initial: ImportData): Importing {
  const { data, refetch } = useQuery({
    queryKey: ['import', initial.id],
    queryFn: () => fetched<ImportData>(`/api/imports/${initial.id}`),
    initialData: initial,
    refetchInterval: (query) => (working.has(query.state.data?.state ?? 'kept') ? 3_000 : false),
  });
  useLive(
    [`import:${initial.id}`],
    useCallback(() => void refetch(), [refetch]),
  );
  const [decisions, setDecisions] = useState(data.decisions);
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const { version, flush, keep } = useKeeping(initial.id, data.version, setTrouble);
  // What was tried out was tried with the decisions of then.
  const [changed, setChanged] = useState(false);
  const decide = useCallback(
    (change: (before: Decisions) => Decisions, leavesTrial = false) => {
      if (!leavesTrial) setChanged(true);
      const next = change(decisions);
      setDecisions(next);
      keep(next);
    },
    [decisions, keep],
  );
  const step = useCallback(
    async (path: 'accept' | 'try' | 'cancel' | 'headings', more: object = {}) => {
      setBusy(true);
      setTrouble('');
      if (await flush()) {
        setChanged(false);
        const done = await call(
          'POST',
          `/api/imports/${initial.id}/${path}`,
          path === 'cancel' ? {} : { version: version.current, ...more },
        );
        if (!done.ok) setTrouble(done.error.title);
        await refetch();
      }
      setBusy(false);
    },
    [flush, initial.id, refetch, version],
  );
  const { detection, tables, state } = data;
  // Read anew, the server's decisions are those without what the old headings said.
  const headings = JSON.stringify(data.decisions.headings ?? {});
  const [shownHeadings, setShownHeadings] = useState(headings);
  if (headings !== shownHeadings) {
    setShownHeadings(headings);
    setDecisions(data.decisions);
  }
  return {
    data,
    decisions,
    decide,
    trouble,
    busy,
    plan: useMemo(
      () =>
        detection === null || !deciding.has(state)
          ? { tables: [], named: [] }
          : planImport(initial.id, detection, decisions, tables),
      [initial.id, detection, decisions, tables, state],
    ),
    asks: useMemo(() => (detection === null ? [] : openAsks(detection, decisions)), [detection, decisions]),
    column: useCallback(
      (path, change) =>
        decide((before) => ({
          ...before,
          columns: { ...before.columns, [path]: { ...before.columns[path], ...change } },
        })),
      [decide],
    ),
    accept: useCallback(() => step('accept'), [step]),
    tryOut: useCallback(() => step('try'), [step]),
    trial: changed ? null : data.trial,
    cancel: useCallback(() => step('cancel'), [step]),
    headings: useCallback((sheet, row) => step('headings', { sheet, row }), [step]),
  };
}
