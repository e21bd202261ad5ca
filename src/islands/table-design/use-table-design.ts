import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { TableDesignData } from '../../contract/table-changes';
import type { Issue } from '../../core/kernel/issue';
import { tableScope } from '../../core/record/table-scope';
import { newTable } from '../../core/table/edit';
import type { Column, Table } from '../../core/table/model';
import { rebased } from '../../core/table/rebase';
import { planRedesign, type Redesign } from '../../core/table/redesign';
import { tableIssues } from '../../core/table/table-issues';
import type { ChangeState, Impact } from '../../core/table/table-change';
import { call, fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { newUuid } from '../../core/kernel/ids';
import { useKept } from '../kit/use-kept';
import { useUndo } from '../kit/use-undo';
import { speak } from '../../core/wording/speak';

export type TableDesign = ReturnType<typeof useTableDesign>;

/** A table while it is designed: what is wanted, undo, keeping, what that changes, and which column is in hand. */
export function useTableDesign(initial: TableDesignData) {
  const { data, refetch } = useDesignData(initial);
  const [id] = useState(() => initial.draft?.id ?? newUuid());
  const [base, setBase] = useState(initial.draft === null ? initial.table : initial.draft.base);
  const [first] = useState<Redesign>(
    () => initial.draft?.redesign ?? { table: initial.table ?? newTable(newUuid()), readings: {}, mends: {} },
  );
  const { value: redesign, edit, undo, canUndo } = useUndo(first);
  const kept = useKept({
    value: redesign,
    version: initial.draft?.version ?? 0,
    at: null,
    send: (version, sent) =>
      call<{ version: number }>('PUT', `/api/table-changes/${id}`, {
        version,
        base: base?.version ?? 0,
        redesign: sent,
      }),
  });
  // A job that did not carry it out has moved it on; edits go on from there.
  const { keeper } = kept;
  const refusedAt = data.draft?.id === id && data.draft.state === 'refused' ? data.draft.version : 0;
  useEffect(() => keeper.movedTo(refusedAt), [keeper, refusedAt]);
  const [selected, select] = useState<string | null>(null);
  const { table } = redesign;
  const others = useMemo(
    () => new Map(data.tables.filter((one) => one.id !== table.id).map((one) => [one.id, one])),
    [data.tables, table.id],
  );
  const changes = useMemo(() => planRedesign(base, table), [base, table]);
  const issues = useMemo(() => tableIssues(table, base, others), [table, base, others]);
  const scope = useMemo(() => tableScope(table, new Map(others).set(table.id, table)), [table, others]);
  const editTable = useCallback(
    (change: (table: Table) => Table) =>
      edit((before) => {
        const after = change(before.table);
        return after === before.table ? before : { ...before, table: after };
      }),
    [edit],
  );
  return {
    id,
    data,
    base,
    redesign,
    table,
    others,
    changes,
    issues,
    edit,
    editTable,
    undo,
    canUndo,
    selected,
    select,
    refetch,
    ...kept,
    isNew: base === null,
    column: table.columns.find((column) => column.id === selected) ?? null,
    check: table.checks.find((check) => check.id === selected) ?? null,
    /** What a check of the table may name. */
    scope,
    /** The column as it is; null for one that is only drawn. */
    columnThere: (column: string): Column | null =>
      [...(base?.columns ?? []), ...(base?.retired ?? [])].find((one) => one.id === column) ?? null,
    issuesAt: (...path: string[]): Issue[] =>
      issues.filter((one) => path.every((part, i) => one.path[i] === part)),
    /** Somebody changed the table after this was begun. */
    isBehind: base !== null && data.table !== null && data.table.version > base.version,
    rebase: () => {
      const theirs = data.table;
      if (theirs === null || base === null) return;
      editTable((mine) => rebased(base, mine, theirs));
      setBase(theirs);
    },
    state: data.draft?.id === id ? data.draft.state : ('draft' as ChangeState),
    progress: data.draft?.progress ?? null,
    refused: data.draft?.state === 'refused' ? data.draft.issues : [],
  };
}

/** The table as it is, fetched anew when it or the change of it moves. */
function useDesignData(initial: TableDesignData) {
  const key = initial.table?.key ?? null;
  const { data, refetch } = useQuery({
    queryKey: ['table-design', key],
    queryFn: () => fetched<TableDesignData>(`/api/tables/${key}/design`),
    initialData: initial,
    enabled: key !== null,
    refetchInterval: (query) => (query.state.data?.draft?.state === 'running' ? 3_000 : false),
  });
  const again = useCallback(() => {
    if (key !== null) void refetch();
  }, [key, refetch]);
  useLive(
    [
      ...(initial.table === null ? [] : [`table:${initial.table.id}`]),
      ...(data.draft === null ? [] : [`change:${data.draft.id}`]),
    ],
    again,
  );
  return { data, refetch };
}

/** What the change would meet, as of what is kept. */
export function useImpact({ id, keeping, changes, issues }: TableDesign): {
  impact: Impact | null;
  looking: boolean;
  failed: boolean;
} {
  const at = keeping.t === 'kept' ? (keeping.at ?? 'first') : null;
  const { data, isFetching, isError } = useQuery({
    queryKey: ['impact', id, at],
    queryFn: () => fetched<Impact>(`/api/table-changes/${id}/impact`),
    enabled: at !== null && changes.length > 0 && issues.length === 0,
    placeholderData: (before) => before,
  });
  return { impact: data ?? null, looking: isFetching || at === null, failed: isError };
}

/** Carrying the change out, or dropping it. */
export function useRun({ id, keep, keeper, table, refetch, isNew }: TableDesign) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const step = async (work: () => Promise<void>) => {
    setBusy(true);
    setTrouble(null);
    try {
      await work();
    } catch (error) {
      setTrouble({
        type: '',
        status: 0,
        code: 'fault',
        title:
          error instanceof Error ? error.message : speak`The server cannot be reached; nothing was changed`,
      });
    } finally {
      setBusy(false);
    }
  };
  const run = () =>
    step(async () => {
      if (!(await keep())) return;
      const done = await call<{ state: ChangeState }>('POST', `/api/table-changes/${id}/run`, {
        version: keeper.version,
      });
      if (!done.ok) return setTrouble(done.error);
      if (done.value.state === 'done')
        return location.assign(isNew ? `/tables/${table.key}` : `/tables/${table.key}/design`);
      await refetch();
    });
  const drop = () =>
    step(async () => {
      const done = await call('DELETE', `/api/table-changes/${id}`, {});
      if (done.ok || done.error.code === 'not-found')
        location.assign(isNew ? '/tables' : `/tables/${table.key}/design`);
      else setTrouble(done.error);
    });
  return { busy, trouble, run, drop };
}

/** When a job has done what was asked, the page begins anew with the table as it is. */
export function useDone(state: ChangeState, hasDraft: boolean): void {
  const [ran, setRan] = useState(false);
  useEffect(() => {
    if (state === 'running') setRan(true);
    else if (ran && !hasDraft) location.reload();
  }, [state, ran, hasDraft]);
}
