import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Table } from '../../core/table/model';
import type { Picked } from '../../core/check/pick-text';
import { isChosen, toggled, type Facet } from '../../core/record/facets';
import { digits } from '../../core/wording/numbers';
import { fetched } from '../kit/call';
import type { FacetsData } from '../../contract/answers-from-server';
import type { Query } from './use-records';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly table: Pick<Table, 'key'>;
  readonly query: Pick<Query, 'find' | 'where'>;
  readonly picked: Picked | null;
  readonly onPicked: (picked: Picked) => void;
}

/** What the records that are shown have in each column, to narrow them down by. */
export function FacetMargin({ table, query, picked, onPicked }: Props) {
  const { find, where } = query;
  const { key } = table;
  const facets = (about: 'yes' | 'no') =>
    fetched<FacetsData>(`/api/tables/${key}/facets?${new URLSearchParams({ find, where, about })}`);
  const {
    data: exact,
    isPlaceholderData,
    isError,
  } = useQuery({
    queryKey: ['facets', key, find, where],
    queryFn: () => facets('no'),
    placeholderData: keepPreviousData,
  });
  // A million records take seconds to count; a few of them tell about as much at once.
  const waits = exact === undefined || isPlaceholderData;
  const { data: about } = useQuery({
    queryKey: ['facets-about', key, find, where],
    queryFn: () => facets('yes'),
    enabled: waits,
  });
  const isAbout = waits && about !== undefined && about.facets.length > 0;
  const found = isAbout ? about : exact;
  const all = where === '' ? { join: 'all' as const, picks: [] } : picked?.join === 'all' ? picked : null;
  return (
    <>
      <p className="margin-part first quiet">
        {all !== null
          ? speak`Counted with all else that is chosen.`
          : picked?.join === 'any'
            ? speak`While conditions are joined by “or”, nothing can be chosen here.`
            : speak`The filter is written by hand: take it away to choose here.`}
        {isAbout && speak` These are about right; they are being counted.`}
      </p>
      {found?.facets.length === 0 && (
        <p className="margin-part">{speak`There is nothing to choose from: find by words, or add a condition.`}</p>
      )}
      {isError && <p className="margin-part">{speak`These could not be counted just now.`}</p>}
      {found === undefined && !isError && (
        <div className="margin-part grid gap-2" aria-hidden>
          {[1, 2, 3, 4, 5].map((i) => (
            <div key={i} className="h-4 rounded bg-slate-200" />
          ))}
        </div>
      )}
      {(found?.facets ?? []).map((facet) => (
        <FacetPart key={facet.of.text} facet={facet} picked={all} onPicked={onPicked} />
      ))}
    </>
  );
}

function FacetPart({
  facet: { of, counts },
  picked,
  onPicked,
}: {
  readonly facet: Facet;
  readonly picked: Picked | null;
  readonly onPicked: (picked: Picked) => void;
}) {
  const most = Math.max(1, ...counts.map(({ records }) => records));
  return (
    <fieldset className="margin-part" disabled={picked === null}>
      <legend className="float-left mb-1.5 w-full font-semibold text-slate-700">{of.label}</legend>
      <ul className="clear-both grid gap-1 text-[14px]">
        {counts.map((count) => (
          <li key={count.label}>
            <label className="grid cursor-pointer grid-cols-[auto_minmax(0,1fr)_88px_3.5rem] items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-lichen"
                checked={isChosen(picked, count)}
                onChange={() =>
                  picked !== null && onPicked({ ...picked, picks: toggled(picked.picks, count) })
                }
              />
              <span className="truncate" title={count.label}>
                {count.label}
              </span>
              <span aria-hidden className="h-2.5 rounded-sm bg-slate-200">
                <span
                  className="block h-full rounded-sm bg-slate-700"
                  style={{ width: `${(count.records / most) * 100}%` }}
                />
              </span>
              <span className="tabular text-right">{digits(count.records)}</span>
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
