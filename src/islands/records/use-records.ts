import { useInfiniteQuery, type InfiniteData } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { RecordData, RecordsData } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';

export interface Query {
  readonly sort: string;
  readonly order: 'up' | 'down';
  readonly find: string;
  readonly where: string;
}

/** Where some records go on from; null for the first. */
type From = { readonly after: string } | { readonly before: string } | null;

const addressOf = ({ sort, order, find, where }: Query): string =>
  new URLSearchParams({
    sort,
    order,
    ...(find !== '' && { find }),
    ...(where !== '' && { where }),
  }).toString();

/** More lots than these are not read anew at every change of somebody: whoever has scrolled that far is told instead. */
const MOST_REFRESHED = 5;

/** What is shown lives in the address: the order, the words looked for, and the record in hand. */
export function useRecords(initial: RecordsData, startRecord: string | null) {
  const [query, setQuery] = useState<Query>({
    sort: initial.sort,
    order: initial.order,
    find: initial.find,
    where: initial.where,
  });
  const [record, setRecord] = useState(startRecord);
  const [isOld, setOld] = useState(false);
  const { key } = initial.table;
  const isFirst =
    addressOf(query) ===
    addressOf({ sort: initial.sort, order: initial.order, find: initial.find, where: initial.where });
  const found = useInfiniteQuery({
    queryKey: ['records', key, query],
    queryFn: ({ pageParam }) =>
      fetched<RecordsData>(
        `/api/tables/${key}/records?${addressOf(query)}${pageParam === null ? '' : `&${new URLSearchParams({ ...pageParam })}`}`,
      ),
    initialPageParam: null as From,
    getNextPageParam: ({ more, rows }): From | undefined => {
      const last = rows.at(-1);
      return more.after && last !== undefined ? { after: last.id } : undefined;
    },
    placeholderData: (before) => before,
    ...(isFirst && {
      initialData: { pages: [initial], pageParams: [null] } satisfies InfiniteData<RecordsData, From>,
    }),
  });
  const { data, refetch, isError, hasNextPage, isFetchingNextPage, fetchNextPage } = found;
  const pages = useMemo(() => data?.pages ?? [initial], [data, initial]);
  const rows = useMemo((): RecordData[] => {
    // A record that moved while the next were read may come twice.
    const byId = new Map(pages.flatMap((page) => page.rows.map((row) => [row.id, row] as const)));
    return [...byId.values()];
  }, [pages]);
  useEffect(
    () => history.replaceState(null, '', `?${addressOf(query)}${record === null ? '' : `&record=${record}`}`),
    [query, record],
  );
  const { length } = pages;
  const refresh = useCallback(() => {
    if (length > MOST_REFRESHED) setOld(true);
    else void refetch();
  }, [refetch, length]);
  const showNew = useCallback(() => {
    setOld(false);
    void refetch();
  }, [refetch]);
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  return {
    data: pages[0] ?? initial,
    rows,
    isWhole: !hasNextPage,
    more,
    refresh,
    showNew,
    isOld,
    isError,
    query,
    setQuery,
    record,
    setRecord,
  };
}
