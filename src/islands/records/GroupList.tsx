import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import type { GroupsData } from '../../contract/answers-from-server';
import { bothFeel, totalled, type RecordGroup, type TotalKind } from '../../core/record/groups';
import type { Column, Table } from '../../core/table/model';
import { counted, digits } from '../../core/wording/numbers';
import { fetched } from '../kit/call';
import { ChevronDown, ChevronRight } from '../kit/icons';
import { PartGrid, usePart, type Part } from './PartGrid';
import { cellText } from '../../core/record/cell-text';
import { speak, spoken } from '../../core/wording/speak';

interface Props extends Omit<Part, 'query'> {
  readonly find: string;
  readonly where: string;
  /** What is shown besides the columns of the table. */
  readonly columns: string;
  readonly of: { readonly record: string; readonly via: string } | null;
  readonly sort: string;
  readonly onSort: (sort: string) => void;
  /** By what they are put together, one within the other; with what that is called. */
  readonly by: readonly { readonly text: string; readonly label: string; readonly column: Column }[];
  readonly total: TotalKind;
  readonly page: (number: string) => string;
}

/** Records put together by what they have in a place; each group opens to the groups within it, and at last to its records. */
export function GroupList(props: Props) {
  const { table, find, where, of, by, total, changes } = props;
  const [first, ...rest] = by;
  const asked = new URLSearchParams({
    find,
    where,
    by: first?.text ?? '',
    ...(of !== null && { of: of.record, via: of.via }),
  }).toString();
  const { data, isError, refetch } = useQuery({
    queryKey: ['groups', table.key, asked],
    queryFn: () => fetched<GroupsData>(`/api/tables/${table.key}/groups?${asked}`),
    placeholderData: keepPreviousData,
  });
  useEffect(() => {
    if (changes > 0) void refetch();
  }, [changes, refetch]);
  if (first === undefined) return <GroupRecords {...props} />;
  if (isError)
    return (
      <p
        role="alert"
        className="trouble p-4"
      >{speak`These could not be put together. Narrow them down, or try again in a moment.`}</p>
    );
  return (
    <ul aria-label={speak`By ${first.label}`}>
      {data === undefined &&
        [1, 2, 3].map((i) => <li key={i} aria-hidden className="my-1 h-8 rounded bg-slate-100" />)}
      {data?.groups.map((group) => (
        <Group
          key={`${group.where} ${group.of}`}
          {...props}
          group={group}
          rest={rest}
          first={first}
          total={total}
        />
      ))}
      {data?.more === true && (
        <li className="quiet px-4 py-2">{speak`There are more groups than these; narrow the records down to see them.`}</li>
      )}
    </ul>
  );
}

function Group({
  group,
  first,
  rest,
  ...props
}: Props & {
  readonly group: RecordGroup;
  readonly first: Props['by'][number];
  readonly rest: Props['by'];
}) {
  const [isOpen, setOpen] = useState(false);
  const { table, where, total } = props;
  const Arrow = isOpen ? ChevronDown : ChevronRight;
  return (
    <li className="border-b border-slate-200">
      <button
        type="button"
        aria-expanded={isOpen}
        className="flex w-full flex-wrap items-center gap-x-3 px-3 py-1.5 text-left hover:bg-slate-50"
        onClick={() => setOpen(!isOpen)}
      >
        <Arrow size={16} aria-hidden className="shrink-0 text-slate-600" />
        <span className="quiet">{first.label}</span>
        <strong className="min-w-0 break-words">{group.label}</strong>
        <span className="tag bg-slate-200">{digits(group.records)}</span>
        <Totals table={table} totals={group.totals} total={total} />
      </button>
      {isOpen && (
        <div className="pb-2 pl-6 max-sm:pl-2">
          <GroupList
            {...props}
            by={rest}
            where={group.where === null ? where : bothFeel(where, group.where)}
            of={group.of === null ? props.of : { record: group.of, via: first.column.id }}
          />
        </div>
      )}
    </li>
  );
}

const totalWords = spoken((): Readonly<Record<TotalKind, string>> => ({
  sum: speak`in all`,
  mean: speak`on average`,
  least: speak`at least`,
  most: speak`at most`,
}));

/** What the numbers of some records come to, in words. */
export function Totals({
  table,
  totals,
  total,
}: {
  readonly table: Table;
  readonly totals: RecordGroup['totals'];
  readonly total: TotalKind;
}) {
  return (
    <span className="ml-auto flex flex-wrap gap-x-4 text-[14px] tabular-nums">
      {totalled(table).map((column) => {
        const value = totals[column.id]?.[total] ?? null;
        return value === null ? null : (
          <span key={column.id}>
            <span className="text-slate-600">{column.label}</span> {cellText(column, value)}{' '}
            <span className="text-slate-600">{totalWords()[total]}</span>
          </span>
        );
      })}
    </span>
  );
}

function GroupRecords({ find, where, columns, of, sort, onSort, page, ...part }: Props) {
  const query = useMemo(
    () => ({ sort, find, where, columns, ...(of !== null && { of: of.record, via: of.via }) }),
    [sort, find, where, columns, of],
  );
  const records = usePart({ ...part, query });
  return (
    <PartGrid
      label={speak`${counted(records.records.rows.length, 'record')} of a group`}
      part={records}
      arrangement={part.arrangement}
      sort={sort}
      onSort={onSort}
      page={page}
    />
  );
}
