import { useInfiniteQuery, type InfiniteData } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import type { RecordData, RecordsData } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';

export interface Query {
  readonly sort: string;
  readonly find: string;
  readonly where: string;
  /** What is shown besides the columns of the table, as places divided by commas. */
  readonly columns?: string;
  /** Only those that refer to this record `via` a column, or are rows of it. */
  readonly of?: string;
  readonly via?: string;
  /** The value of what is sorted by from which on they are wanted. */
  readonly at?: string;
}

/** Where some records go on from; null for the first. */
type From = { readonly after: string } | { readonly before: string } | null;

export const addressOf = ({ sort, find, where, columns = '', of, via }: Query): string =>
  new URLSearchParams({
    sort,
    ...(columns !== '' && { columns }),
    ...(find !== '' && { find }),
    ...(where !== '' && { where }),
    ...(of !== undefined && via !== undefined && { of, via }),
  }).toString();

/** More lots than these are not read anew at every change of somebody: whoever has scrolled that far is told instead. */
const MOST_REFRESHED = 5;

/**
 * The records of a table that a query asks for, lot by lot, once they are asked for. `initial` is the first
 * lot of its own query, where there is one.
 */
export function useRecords(key: string, query: Query, initial: RecordsData | null, isAsked = true) {
  const [isOld, setOld] = useState(false);
  const { at } = query;
  const isFirst =
    at === undefined &&
    initial !== null &&
    addressOf({ columns: '', ...query }) === addressOf(queryOf(initial));
  const found = useInfiniteQuery({
    queryKey: ['records', key, query],
    queryFn: ({ pageParam }) =>
      fetched<RecordsData>(`/api/tables/${key}/records?${addressOf(query)}${begunAt(pageParam, at)}`),
    enabled: isAsked,
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
  const pages = useMemo(() => data?.pages ?? (initial === null ? [] : [initial]), [data, initial]);
  const rows = useMemo((): RecordData[] => {
    // A record that moved while the next were read may come twice.
    const byId = new Map(pages.flatMap((page) => page.rows.map((row) => [row.id, row] as const)));
    return [...byId.values()];
  }, [pages]);
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
  return { first: pages[0] ?? null, rows, isWhole: !hasNextPage, more, refresh, showNew, isOld, isError };
}

const begunAt = (from: From, at: string | undefined): string =>
  from !== null
    ? `&${new URLSearchParams({ ...from })}`
    : at === undefined
      ? ''
      : `&${new URLSearchParams({ at })}`;

const queryOf = ({ sort, find, where, columns }: RecordsData): Query => ({ sort, find, where, columns });
