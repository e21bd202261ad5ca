import { useQuery } from '@tanstack/react-query';
import { Download, Link2, List, ListChecks, Network, Plus, Table2, Upload } from '../kit/icons';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import type { TablesData } from '../../contract/answers-from-server';
import { Age } from '../kit/Age';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { columnsInWords } from '../../core/wording/change-sentence';
import { countWords } from './count-words';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The picture's library is large, and fetched only by those who look at it. */
const TablesPicture = lazy(() => import('./TablesPicture'));

interface Props {
  readonly initial: TablesData;
  readonly startPicture: boolean;
}

export default function TablesView(props: Props) {
  return (
    <Root>
      <Tables {...props} />
    </Root>
  );
}

function Tables({ initial, startPicture }: Props) {
  const [asPicture, setAsPicture] = useState(startPicture);
  useEffect(() => history.replaceState(null, '', asPicture ? '?as=picture' : '/tables'), [asPicture]);
  const { data, refetch } = useQuery({
    queryKey: ['tables'],
    queryFn: () => fetched<TablesData>('/api/tables'),
    initialData: initial,
  });
  useLive(
    ['forms', ...data.tables.map(({ id }) => `table:${id}`)],
    useCallback(() => void refetch(), [refetch]),
  );
  return (
    <>
      <div className="flex flex-wrap items-center justify-between gap-3 pt-5 pb-4">
        <h1 className="text-2xl">{speak`Tables`}</h1>
        <div className="flex flex-wrap gap-2">
          {data.tables.length > 1 && (
            <button type="button" className="button" onClick={() => setAsPicture(!asPicture)}>
              {asPicture ? (
                <>
                  <List size={16} aria-hidden />
                  {speak`As a list`}
                </>
              ) : (
                <>
                  <Network size={16} aria-hidden />
                  {speak`As a picture`}
                </>
              )}
            </button>
          )}
          {data.mayImport && (
            <>
              <a href="/imports" className="button">
                <Upload size={16} aria-hidden />
                {speak`Import sheets`}
              </a>
              <a href="/lists" className="button">
                <ListChecks size={16} aria-hidden />
                {speak`Choice lists`}
              </a>
              <a href="/sources" className="button">
                <Link2 size={16} aria-hidden />
                {speak`Sources outside`}
              </a>
              <a href="/new-table" className="button button-dark">
                <Plus size={16} aria-hidden />
                {speak`New table`}
              </a>
            </>
          )}
        </div>
      </div>
      {asPicture && (
        <Suspense
          fallback={<div className="h-[70vh] rounded-lg border border-slate-200 bg-white" aria-busy="true" />}
        >
          <TablesPicture tables={data.tables} />
        </Suspense>
      )}
      {!asPicture && (
        <div className="sheet-frame">
          <section aria-label={speak`All tables you may see`}>
            {data.tables.length === 0 && (
              <p className="p-5">
                {speakIn`No table is open to you yet. A form makes its tables when it is released${
                  data.mayImport &&
                  speak`, sheets become tables when you import them, and New table begins an empty one`
                }`}
                .
              </p>
            )}
            <ul>
              {data.tables.map((table) => (
                <li key={table.id} className="border-b border-slate-200">
                  <a
                    href={`/tables/${table.key}`}
                    className="grid grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2.5 pr-5 text-ink no-underline hover:bg-slate-50"
                  >
                    {table.linked === null ? (
                      <Table2 size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
                    ) : (
                      <Link2 size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
                    )}
                    <span className="min-w-0">
                      <span className="font-semibold">{table.label}</span>{' '}
                      <span className="font-mono text-[13px] text-slate-600">{speak`records.${table.key}`}</span>
                      <span className="quiet block">
                        {columnsInWords(table.columns)}
                        {table.parent !== null && speak` · rows of ${table.parent}`}
                        {table.linked !== null && (
                          <>
                            {' '}
                            {speak`· from ${table.linked.source}`}
                            {table.linked.refreshedAt !== null && (
                              <>{speakIn`, as it was ${(<Age iso={table.linked.refreshedAt} />)}`}</>
                            )}
                            {table.linked.failing && (
                              <>
                                {' '}
                                · <span className="marked">{speak`cannot be refreshed`}</span>
                              </>
                            )}
                          </>
                        )}
                      </span>
                    </span>
                    <span className="tabular text-[14px]">{countWords(table)}</span>
                  </a>
                </li>
              ))}
            </ul>
          </section>
          <aside id="margin" className="margin-pane">
            <div className="margin-part first">
              <h2 className="margin-title">{speak`What a table is here`}</h2>
              <p className="quiet">{speak`Each is a plain PostgreSQL table in the schema records, with real types, references and a full history. Forms write to them; every list refreshes itself.`}</p>
            </div>
            {data.tables.length > 0 && (
              <div className="margin-part">
                <h2 className="margin-title">
                  <Download size={15} aria-hidden />
                  {speak`Take all of it with you`}
                </h2>
                <p className="quiet mb-2">{speak`Every table with its records, references and design, as a Data Package: CSV files with their Table Schema. Read into an empty workspace it becomes the same tables.`}</p>
                <a
                  download
                  href="/api/tables/package"
                  className="button"
                >{speak`All tables as a Data Package`}</a>
              </div>
            )}
          </aside>
        </div>
      )}
    </>
  );
}
