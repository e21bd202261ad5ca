import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { ImportData } from '../../contract/imports';
import type { ColumnDecision, Decisions } from '../../core/import/decisions';
import { deciding, working, type Trial } from '../../core/import/import';
import type { ImportPlan } from '../../core/import/import-plan';
import { openAsks } from '../../core/import/open-asks';
import { planImport } from '../../core/import/plan-import';
import { call, fetched } from '../kit/call';
import { Keeper, pageClock } from '../kit/keeper';
import { useLive } from '../kit/live';
import { speak } from '../../core/wording/speak';

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

/** Keeps decisions a moment after each change. */
function useKeeping(
  id: string,
  begun: { value: Decisions; version: number },
  setTrouble: (words: string) => void,
) {
  const [keeper] = useState(
    () =>
      new Keeper<Decisions>(
        { ...begun, keeping: { t: 'kept', at: null }, keepAfter: SAVE_AFTER },
        {
          send: (version, decisions) =>
            call<{ version: number }>('PUT', `/api/imports/${id}`, { version, decisions }),
          ...pageClock,
          told: (keeping) => {
            if (keeping.t === 'refused') setTrouble(keeping.words);
            else if (keeping.t === 'away')
              setTrouble(speak`The server cannot be reached; what you decided is not saved yet`);
            else if (keeping.t === 'kept') setTrouble('');
          },
          store: () => undefined,
        },
      ),
  );
  useEffect(() => keeper.movedTo(begun.version), [keeper, begun.version]);
  useEffect(() => () => keeper.stop(), [keeper]);
  return keeper;
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
  const keeper = useKeeping(initial.id, { value: data.decisions, version: data.version }, setTrouble);
  // What was tried out was tried with the decisions of then.
  const [changed, setChanged] = useState(false);
  const decide = useCallback(
    (change: (before: Decisions) => Decisions, leavesTrial = false) => {
      if (!leavesTrial) setChanged(true);
      const next = change(decisions);
      setDecisions(next);
      keeper.edited(next);
    },
    [decisions, keeper],
  );
  const step = useCallback(
    async (path: 'accept' | 'try' | 'cancel' | 'headings', more: object = {}) => {
      setBusy(true);
      setTrouble('');
      try {
        if (!(await keeper.flush())) return;
        setChanged(false);
        const done = await call(
          'POST',
          `/api/imports/${initial.id}/${path}`,
          path === 'cancel' ? {} : { version: keeper.version, ...more },
        );
        if (!done.ok) setTrouble(done.error.title);
        await refetch();
      } catch {
        setTrouble(speak`The server cannot be reached; try again in a moment`);
      } finally {
        setBusy(false);
      }
    },
    [keeper, initial.id, refetch],
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
