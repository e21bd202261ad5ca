import { useCallback, useEffect, useMemo, useState } from 'react';
import type { TableAtWork } from '../../contract/answers-from-server';
import { call } from '../kit/call';
import { readSorts, pressedSort, sortText, type Place } from '../../core/record/places';
import { viewAddress, type Look, type ViewQuery } from '../../core/record/view';
import type { Column } from '../../core/table/model';

/** What is shown of a table lives in the address; how wide columns are, and which stay in sight, is kept for the person. */
export function useQuery(work: TableAtWork, initial: ViewQuery, record: string | null) {
  const [query, setQuery] = useState(initial);
  const [look, setLook] = useState(work.look);
  const { table } = work;
  useEffect(() => {
    const address = viewAddress(query);
    const of = record === null ? '' : `record=${record}`;
    const all = [address, of].filter((one) => one !== '').join('&');
    history.replaceState(null, '', all === '' ? location.pathname : `?${all}`);
  }, [query, record]);
  const shown = useMemo(
    () => shownPlaces(work.places, query.columns, table.columns),
    [work.places, query.columns, table.columns],
  );
  const keepLook = useCallback(
    (change: Partial<Look>) => {
      const next = { ...look, ...change };
      setLook(next);
      // How a table looks to one person is worth no word when it cannot be kept; it is tried again with the next change.
      void call('PUT', `/api/tables/${table.key}/look`, next).catch(() => null);
    },
    [look, table.key],
  );
  const showColumns = useCallback(
    (places: readonly Place[]) => {
      const texts = places.map(({ text }) => text);
      const isPlain = texts.join(',') === table.columns.map(({ key }) => key).join(',');
      setQuery((now) => ({ ...now, columns: isPlain ? '' : texts.join(',') }));
      if (query.view === null) keepLook({ columns: isPlain ? null : texts });
    },
    [keepLook, query.view, table.columns],
  );
  const sortBy = useCallback(
    (by: string, also: boolean) =>
      setQuery((now) => ({ ...now, sort: sortText(pressedSort(readSorts(now.sort), by, also)) })),
    [],
  );
  return { query, setQuery, look, keepLook, shown, showColumns, sortBy };
}

const shownPlaces = (places: readonly Place[], columns: string, own: readonly Column[]): readonly Place[] => {
  const texts = columns === '' ? own.map(({ key }) => key) : columns.split(',');
  return texts.flatMap((text) => places.find((place) => place.text === text) ?? []);
};
