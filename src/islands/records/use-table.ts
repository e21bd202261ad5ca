import type { FilterFault } from '../kit/filter-words';
import { call } from '../kit/call';
import { useQuery as useFetched, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { OneRecordData, RecordsData, TableAtWork } from '../../contract/answers-from-server';
import { pickedText, type Picked } from '../../core/check/pick-text';
import type { TotalKind } from '../../core/record/groups';
import type { ViewQuery } from '../../core/record/view';
import type { Column } from '../../core/table/model';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { arranged } from './arrangement';
import { useGrid } from './use-grid';
import { useQuery } from './use-query';
import { addressOf, useRecords } from './use-records';
import { topicsOf } from './topics';
import { useLookOver } from './use-look-over';
import { useStaged } from './use-staged';
import { speak } from '../../core/wording/speak';

export interface OpenedTable {
  readonly work: TableAtWork;
  readonly query: ViewQuery;
  /** Null where the view asks for values first. */
  readonly initial: RecordsData | null;
  /** The filter as it was picked. */
  readonly picked: Picked | null;
  readonly initialRecord: OneRecordData | null;
  readonly startRecord: string | null;
}

/** A table as it is worked in: what is shown of it, what is staged, and the record in hand. */
export function useTable(props: OpenedTable) {
  const { work: firstWork, query: firstQuery, initial, initialRecord, startRecord } = props;
  const { key } = firstWork.table;
  const { data: work, refetch: readAnew } = useFetched({
    queryKey: ['work', key],
    queryFn: () => fetched<TableAtWork>(`/api/tables/${key}`),
    initialData: firstWork,
  });
  const { table } = work;
  const [record, setRecord] = useState(startRecord);
  const [views, setViews] = useState(work.views);
  const [waits, setWaits] = useState(initial === null);
  const [total, setTotal] = useState<TotalKind>('sum');
  const shownAs = useQuery(work, firstQuery, record);
  const { query, setQuery, look, shown } = shownAs;
  const { find, where, sort, columns } = query;
  const asked = useMemo(() => ({ find, where, sort, columns }), [find, where, sort, columns]);
  const [jump, setJump] = useState<{ readonly sort: string; readonly at: string } | null>(null);
  // Another order is gone through from its beginning.
  const at = jump?.sort === sort ? jump.at : null;
  const isGrid = query.layout === 'grid' && query.group === '';
  const begun = useMemo(() => (at === null ? asked : { ...asked, at }), [asked, at]);
  const records = useRecords(key, begun, initial, !waits);
  const { refresh, first: data } = records;
  const [isNarrowing, setNarrowing] = useState(startRecord === null);
  const [changes, setChanges] = useState(0);
  const lookAt = useCallback((id: string) => {
    setRecord(id);
    setNarrowing(false);
  }, []);
  const one = useFetched({
    queryKey: ['record', key, record],
    queryFn: () => fetched<OneRecordData>(`/api/tables/${key}/records/${record}`),
    enabled: record !== null,
    ...(initialRecord !== null && record === startRecord && { initialData: initialRecord }),
  });
  const queries = useQueryClient();
  const all = useCallback(() => {
    refresh();
    setChanges((n) => n + 1);
    // Records that were looked at before, and what was counted, are read anew as well when they are looked at next.
    void queries.invalidateQueries({ queryKey: ['record', key] });
    void queries.invalidateQueries({ queryKey: ['facets', key] });
  }, [refresh, queries, key]);
  useLive(topicsOf(work), all);
  const isRedesigned = data !== null && data.version !== table.version;
  useEffect(() => {
    if (isRedesigned) void readAnew();
  }, [isRedesigned, readAnew]);
  const edits = useStaged(work, all);
  const targetKey = useCallback(
    (column: Column) => work.targets[column.target ?? ''] ?? null,
    [work.targets],
  );
  const fresh = useMemo(() => ({ table: table.id, parent: null, given: {} }), [table.id]);
  const arrangement = useMemo(() => arranged(shown, look.widths, look.pinned), [shown, look]);
  const hand = useGrid({
    table,
    arrangement,
    may: work.may,
    fresh,
    hasBlank: work.may.add && table.parent === null && find === '' && where === '',
    rows: records.rows,
    isWhole: records.isWhole,
    edits,
    targetKey,
    onRecord: lookAt,
  });

  const { isLookedOver, setLookedOver, save } = useLookOver(edits);
  const toTrouble = () => {
    const [first] = edits.troubles;
    if (first === undefined) return;
    // A reason is given where the edits are looked over.
    setLookedOver(!isGrid || first.code === 'reason-needed' || !hand.lines.some(({ id }) => id === first.id));
    hand.pick({ row: first.id, column: first.column ?? table.columns[0]?.id ?? '' }, false);
  };
  const { picked, narrow, written } = usePicked(
    key,
    { where: firstQuery.where, picked: props.picked },
    data,
    where,
    setQuery,
  );
  const findWords = useCallback((words: string) => setQuery((now) => ({ ...now, find: words })), [setQuery]);
  const page = useCallback(
    (number: string) => `/tables/${key}/${encodeURIComponent(number)}?${addressOf({ sort, find, where })}`,
    [key, sort, find, where],
  );
  const view = views.find(({ id }) => id === query.view);
  return {
    work,
    table,
    record,
    views,
    setViews,
    waits,
    setWaits,
    total,
    setTotal,
    shownAs,
    query,
    setQuery,
    look,
    shown,
    find,
    where,
    sort,
    asked,
    records,
    data,
    isLookedOver,
    setLookedOver,
    isNarrowing,
    setNarrowing,
    changes,
    lookAt,
    one,
    all,
    edits,
    targetKey,
    arrangement,
    hand,
    save,
    toTrouble,
    picked,
    narrow,
    written,
    at,
    jumpTo: (to: string | null) => setJump(to === null ? null : { sort, at: to }),
    findWords,
    page,
    view,
    key,
  };
}

/** The filter as it was picked: what was just picked is known here before the server has read it back. */
function usePicked(
  table: string,
  first: { readonly where: string; readonly picked: Picked | null },
  data: RecordsData | null,
  where: string,
  setQuery: (change: (now: ViewQuery) => ViewQuery) => void,
) {
  const [chosen, setChosen] = useState(first);
  const narrow = useCallback(
    (next: Picked) => {
      const text = pickedText(next);
      setChosen({ where: text, picked: next });
      setQuery((now) => ({ ...now, where: text }));
    },
    [setQuery],
  );
  /** One that is written by hand is shown once the server can read it; else what is wrong with it comes back. */
  const written = useCallback(
    async (text: string): Promise<FilterFault | null> => {
      const read = await call<RecordsData>(
        'GET',
        `/api/tables/${table}/records?${new URLSearchParams({ where: text })}`,
      ).catch(() => null);
      if (read === null)
        return { sentence: speak`The server cannot be reached. Try again in a moment.`, at: null };
      if (!read.ok) {
        const [first] = read.error.issues ?? [];
        const [from, to] = [Number(first?.facts['from']), Number(first?.facts['to'])];
        return {
          sentence: first?.sentence ?? read.error.title,
          at: Number.isNaN(from + to) ? null : [from, to],
        };
      }
      setChosen({ where: text, picked: read.value.picked });
      setQuery((now) => ({ ...now, where: text }));
      return null;
    },
    [table, setQuery],
  );
  const picked = chosen.where === where ? chosen.picked : data?.where === where ? data.picked : null;
  return { picked, narrow, written };
}
