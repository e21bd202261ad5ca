import { digits } from '../../core/wording/numbers';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { createColumnHelper, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { ArrowDown, ArrowUp, ChevronLeft, ChevronRight, Download, PencilRuler } from '../kit/icons';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { aboutColumn } from '../../core/table/about';
import type { OneRecordData, RecordData, RecordsData } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';
import { FirstForm } from '../kit/FirstForm';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { LinkedStrip } from './LinkedStrip';
import { RecordMargin } from './RecordMargin';
import { cellText, heading, isNumeric } from './record-text';

interface Props {
  readonly initial: RecordsData;
  readonly initialRecord: OneRecordData | null;
  readonly startRecord: string | null;
}

export default function RecordsView(props: Props) {
  return (
    <Root>
      <Records {...props} />
    </Root>
  );
}

interface Query {
  readonly sort: string;
  readonly order: 'up' | 'down';
  readonly page: number;
}

const addressOf = ({ sort, order, page }: Query): string =>
  `sort=${encodeURIComponent(sort)}&order=${order}&page=${page}`;

/** What is shown lives in the address: sort, page and the record in hand. */
function useRecords(initial: RecordsData, startRecord: string | null) {
  const [query, setQuery] = useState<Query>({ sort: initial.sort, order: initial.order, page: initial.page });
  const [record, setRecord] = useState(startRecord);
  const isFirst = query.sort === initial.sort && query.order === initial.order && query.page === initial.page;
  const { data, refetch, isError } = useQuery({
    queryKey: ['records', initial.table.key, query],
    queryFn: () => fetched<RecordsData>(`/api/tables/${initial.table.key}/records?${addressOf(query)}`),
    placeholderData: keepPreviousData,
    ...(isFirst && { initialData: initial }),
  });
  useEffect(
    () => history.replaceState(null, '', `?${addressOf(query)}${record === null ? '' : `&record=${record}`}`),
    [query, record],
  );
  return { data: data ?? initial, refetch, isError, query, setQuery, record, setRecord };
}

function Records({ initial, initialRecord, startRecord }: Props) {
  const { data, refetch, isError, query, setQuery, record, setRecord } = useRecords(initial, startRecord);
  const one = useQuery({
    queryKey: ['record', initial.table.key, record],
    queryFn: () => fetched<OneRecordData>(`/api/tables/${initial.table.key}/records/${record}`),
    enabled: record !== null,
    ...(initialRecord !== null && record === startRecord && { initialData: initialRecord }),
  });
  const refresh = useCallback(() => {
    void refetch();
    if (record !== null) void one.refetch();
  }, [refetch, one, record]);
  useLive([`table:${initial.table.id}`], refresh);
  const sortBy = (sort: string) =>
    setQuery({ sort, order: query.sort === sort && query.order === 'up' ? 'down' : 'up', page: 1 });
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div>
          <p className="quiet">
            <a href="/tables" className="crumb">
              Tables
            </a>
          </p>
          <h1 className="text-[23px]">
            {data.table.label}{' '}
            <span className="quiet font-sans font-normal" role="status">
              {data.about && 'about '}
              {digits(data.total)} {data.total === 1 ? 'record' : 'records'}
            </span>
          </h1>
        </div>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="flex items-center gap-2 text-[14px]">
            <Download size={15} aria-hidden className="text-slate-600" />
            Export as{' '}
            {takeOut.map(([as, words]) => (
              <a
                key={as}
                download
                href={`/api/tables/${data.table.key}/export?as=${as}`}
                className="font-semibold text-lichen-deep"
              >
                {words}
              </a>
            ))}
          </p>
          {data.mayDesign && (
            <a href={`/tables/${data.table.key}/design`} className="button">
              <PencilRuler size={15} aria-hidden />
              Design
            </a>
          )}
          {data.mayDesign && data.table.parent === null && (data.table.linked?.adds ?? true) && (
            <FirstForm table={data.table.key} />
          )}
        </div>
      </div>
      {isError && (
        <p role="alert" className="trouble mb-2">
          The newest rows could not be fetched; what you see may be old. Try again in a moment.
        </p>
      )}
      {data.freshness !== null && (
        <LinkedStrip
          table={data.table.key}
          freshness={data.freshness}
          mayDesign={data.mayDesign}
          onChanged={refresh}
        />
      )}
      <div className="sheet-frame">
        <div className="flex min-w-0 flex-col">
          {data.total === 0 && (
            <p className="p-5">
              {data.freshness === null
                ? 'No record yet. They appear here by themselves as forms are approved.'
                : 'No record yet. They appear here by themselves once they are copied.'}
            </p>
          )}
          {data.total > 0 && (
            <Grid data={data} query={query} onSort={sortBy} record={record} onPick={setRecord} />
          )}
          <Pages data={data} query={query} onPage={(page) => setQuery({ ...query, page })} />
        </div>
        <RecordMargin
          table={data.table}
          data={one.data ?? null}
          wanted={record !== null}
          failed={one.isError}
        />
      </div>
    </>
  );
}

const takeOut = [
  ['csv', 'CSV'],
  ['xlsx', 'XLSX'],
  ['json', 'JSON'],
  ['package', 'Data Package'],
  ['sql', 'SQL'],
] as const;
interface GridProps {
  readonly data: RecordsData;
  readonly query: Query;
  readonly onSort: (sort: string) => void;
  readonly record: string | null;
  readonly onPick: (id: string) => void;
}

function Grid({ data, query, onSort, record, onPick }: GridProps) {
  const columns = useMemo(() => {
    const helper = createColumnHelper<RecordData>();
    return [
      helper.accessor('number', { id: 'number', header: 'Number', meta: { numeric: false } }),
      ...data.table.columns.map((column) =>
        helper.accessor((row) => cellText(column, row.cells[column.id] ?? null), {
          id: column.id,
          header: heading(column),
          meta: { numeric: isNumeric(column), about: aboutColumn(column) },
        }),
      ),
    ];
  }, [data.table]);
  const table = useReactTable({
    data: data.rows as RecordData[],
    columns,
    getCoreRowModel: getCoreRowModel(),
    manualSorting: true,
    manualPagination: true,
  });
  return (
    <div
      className="relative overflow-x-auto"
      tabIndex={0}
      role="region"
      aria-label={`Rows of ${data.table.label}`}
    >
      <table className="grid-table">
        <thead className="bg-slate-50">
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => {
                const sorted = query.sort === header.column.id;
                return (
                  <th
                    key={header.id}
                    aria-sort={sorted ? (query.order === 'up' ? 'ascending' : 'descending') : 'none'}
                    className={numericOf(header.column.columnDef.meta) ? 'text-right!' : ''}
                  >
                    <button
                      type="button"
                      title={aboutOf(header.column.columnDef.meta)}
                      onClick={() => onSort(header.column.id)}
                      className="inline-flex items-center gap-1 rounded whitespace-nowrap hover:text-ink"
                    >
                      {flexRender(header.column.columnDef.header, header.getContext())}
                      {sorted &&
                        (query.order === 'up' ? (
                          <ArrowUp size={14} aria-hidden />
                        ) : (
                          <ArrowDown size={14} aria-hidden />
                        ))}
                    </button>
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row) => (
            <tr
              key={row.original.id}
              className={
                record === row.original.id
                  ? 'bg-lichen-soft shadow-[inset_4px_0_0_var(--color-lichen)]'
                  : 'hover:bg-slate-50'
              }
            >
              {row.getVisibleCells().map((cell, i) => (
                <td
                  key={cell.id}
                  className={numericOf(cell.column.columnDef.meta) ? 'tabular text-right' : ''}
                >
                  {i === 0 ? (
                    <button
                      type="button"
                      aria-pressed={record === row.original.id}
                      onClick={() => onPick(row.original.id)}
                      className="rounded font-mono text-[14px] whitespace-nowrap hover:underline"
                    >
                      {row.original.number}
                    </button>
                  ) : (
                    <span className="block max-w-72 truncate" title={String(cell.getValue())}>
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const aboutOf = (meta: unknown): string | undefined =>
  typeof meta === 'object' &&
  meta !== null &&
  'about' in meta &&
  typeof meta.about === 'string' &&
  meta.about !== ''
    ? meta.about
    : undefined;
const numericOf = (meta: unknown): boolean =>
  typeof meta === 'object' && meta !== null && 'numeric' in meta && meta.numeric === true;

function Pages({ data, query, onPage }: { data: RecordsData; query: Query; onPage: (page: number) => void }) {
  if (data.pages <= 1) return null;
  return (
    <nav
      aria-label="Pages"
      className="sticky bottom-0 mt-auto flex items-center justify-between gap-3 border-t border-slate-200 bg-white px-4 py-2 text-[14px]"
    >
      <span className="tabular">
        Page {query.page} of {digits(data.pages)}
      </span>
      <span className="flex gap-2">
        <button
          type="button"
          className="button"
          disabled={query.page <= 1}
          onClick={() => onPage(query.page - 1)}
        >
          <ChevronLeft size={15} aria-hidden />
          Previous
        </button>
        <button
          type="button"
          className="button"
          disabled={query.page >= data.pages}
          onClick={() => onPage(query.page + 1)}
        >
          Next
          <ChevronRight size={15} aria-hidden />
        </button>
      </span>
    </nav>
  );
}
