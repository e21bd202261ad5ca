import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { ListData } from '../../contract/choice-lists';
import { listIssues, planList, rebasedList } from '../../core/table/choice-list';
import { call, fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { useUndo } from '../kit/use-undo';
import { speak } from '../../core/wording/speak';

/** A choice list while it is changed: what is wanted, what that does, and whether somebody else was quicker. */
export function useList(initial: ListData) {
  const { id } = initial.list;
  const { data, refetch } = useQuery({
    queryKey: ['list', id],
    queryFn: () => fetched<ListData>(`/api/lists/${id}`),
    initialData: initial,
  });
  useLive(
    ['lists'],
    useCallback(() => void refetch(), [refetch]),
  );
  const [base, setBase] = useState(initial.list);
  const { value: list, edit, undo, canUndo } = useUndo(initial.list);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<Problem | null>(null);
  const changes = useMemo(() => planList(base, list), [base, list]);
  const edited = changes.length > 0;
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => event.preventDefault();
    if (edited) window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, [edited]);
  // Nothing of one's own stands against it, so the newest is shown.
  useEffect(() => {
    if (edited || data.list.version <= base.version) return;
    setBase(data.list);
    edit(() => data.list);
  }, [edited, data.list, base.version, edit]);
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
  return {
    data,
    base,
    list,
    edit,
    undo,
    canUndo,
    changes,
    busy,
    trouble,
    issues: listIssues(list, []),
    isBehind: edited && data.list.version > base.version,
    rebase: () => {
      edit((mine) => rebasedList(base, mine, data.list));
      setBase(data.list);
    },
    run: () =>
      step(async () => {
        const { id: _id, ...sent } = list;
        const kept = await call<{ version: number }>('PUT', `/api/lists/${id}`, {
          ...sent,
          version: base.version,
        });
        if (!kept.ok) {
          setTrouble(kept.error);
          return void refetch();
        }
        const now = { ...list, version: kept.value.version };
        setBase(now);
        edit(() => now);
        await refetch();
      }),
    remove: () =>
      step(async () => {
        const done = await call('DELETE', `/api/lists/${id}`, {});
        if (done.ok) location.assign('/lists');
        else setTrouble(done.error);
      }),
  };
}
