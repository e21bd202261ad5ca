import { digits } from '../../core/wording/numbers';
import { CircleAlert, CircleCheck, Table2 } from '../kit/icons';
import { useState } from 'react';
import type { ImportData } from '../../contract/imports';
import { deciding } from '../../core/import/import';
import { fileSentence } from '../../core/wording/file-sentence';
import { mergedWords, refusedSentence } from '../../core/wording/proposal-sentence';
import { FirstForm } from '../kit/FirstForm';
import { Root } from '../kit/Root';
import { ImportMargin } from './ImportMargin';
import { PlannedTables } from './PlannedTables';
import { PackagedTables } from './PackagedTables';
import { RefusedFiles } from './RefusedFiles';
import { useImport, type Importing } from './use-import';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function ImportView({ initial }: { initial: ImportData }) {
  return (
    <Root>
      <Import initial={initial} />
    </Root>
  );
}

function Import({ initial }: { initial: ImportData }) {
  const importing = useImport(initial);
  const { data } = importing;
  const [picked, setPicked] = useState<string | null>(null);
  const decidingNow = deciding.has(data.state);
  return (
    <>
      <p className="quiet pt-4">
        <a href="/tables" className="crumb">{speak`Tables`}</a> ·{' '}
        <a href="/imports" className="crumb">{speak`Import sheets`}</a>
      </p>
      <h1 className="pb-4 text-2xl break-words">{data.files.map(({ name }) => name).join(', ')}</h1>
      <div className="sheet-frame">
        {decidingNow ? (
          data.detection?.packaged === undefined ? (
            <PlannedTables importing={importing} picked={picked} pick={setPicked} />
          ) : (
            <PackagedTables packaged={data.detection.packaged} />
          )
        ) : (
          <section className="p-6" aria-label={speak`The import`}>
            <Course importing={importing} />
          </section>
        )}
        <aside
          id="margin"
          className="margin-pane"
          aria-label={decidingNow ? speak`What is proposed` : speak`About this import`}
        >
          {decidingNow ? (
            <div className="lg:sticky lg:top-0 lg:max-h-screen lg:overflow-y-auto">
              <ImportMargin importing={importing} picked={picked} pick={setPicked} />
            </div>
          ) : (
            <div className="margin-part first">
              <h2 className="margin-title">
                {data.state === 'kept' ? speak`What comes next` : speak`What happens to a sheet`}
              </h2>
              <p className="quiet">
                {data.state === 'kept'
                  ? speak`Look at the records, or make a form of a table: it asks for every column, with the rows that belong to it, and waits as a draft until you release it.`
                  : speak`All of it becomes tables at once, or nothing does. You may leave this page; it goes on by itself.`}
              </p>
            </div>
          )}
        </aside>
      </div>
    </>
  );
}

/** What is under way, or has come of it. */
function Course({ importing: { data, cancel, busy } }: { importing: Importing }) {
  switch (data.state) {
    case 'reading':
    case 'trying':
    case 'keeping':
      return (
        <div role="status">
          <h2 className="mb-2 text-[19px]">
            {
              {
                reading: speak`Reading your sheets`,
                trying: speak`Trying it out`,
                keeping: speak`Keeping it`,
              }[data.state]
            }
          </h2>
          <p className="mb-3">{speakIn`${digits(data.progress?.rows ?? 0)} rows ${data.state === 'reading' ? speak`read` : speak`gone through`}${data.progress?.table != null && speak`; now ${data.progress.table}`}`}</p>
          <div aria-hidden className="mb-4 h-1.5 w-80 max-w-full overflow-hidden rounded bg-slate-200">
            <div className="h-full w-1/3 animate-pulse rounded bg-lichen" />
          </div>
          <button
            type="button"
            className="button"
            disabled={busy}
            onClick={() => void cancel()}
          >{speak`Cancel the import`}</button>
        </div>
      );
    case 'kept':
      return <Kept data={data} />;
    case 'failed':
      return (
        <Over
          title={speak`These sheets could not be read`}
          words={
            data.fault === null || data.fault.code === 'fault'
              ? speak`Something went wrong on our side, several times. Nothing was made; try again, or ask your administrator to look into the log`
              : fileSentence(data.fault.code, data.fault.facts)
          }
        />
      );
    case 'uploading':
      return (
        <Over
          title={speak`These files never arrived whole`}
          words={speak`Sending them was interrupted, so nothing was read. Choose them again`}
        />
      );
    default:
      return <Over title={speak`This import was cancelled`} words={speak`Nothing was made`} />;
  }
}

function Over({ title, words }: { title: string; words: string }) {
  return (
    <>
      <h2 className="mb-2 flex items-center gap-2 text-[19px]">
        <CircleAlert size={18} aria-hidden className="text-rust" />
        {title}
      </h2>
      <p className="mb-4">{words}.</p>
      <a href="/imports" className="button button-dark">{speak`Choose other files`}</a>
    </>
  );
}

function Kept({ data: { id, result } }: { data: ImportData }) {
  return (
    <>
      <h2 className="mb-3 flex items-center gap-2 text-[19px]">
        <CircleCheck size={18} aria-hidden className="text-lichen" />
        {headline(result?.tables ?? [])}
      </h2>
      <ul className="border-t border-slate-200">
        {result?.tables.map(({ key, label, records, merged }) => (
          <li key={key} className="flex items-center gap-4 border-b border-slate-200 hover:bg-slate-50">
            <a
              href={`/tables/${key}`}
              className="flex min-w-0 flex-1 flex-wrap items-center gap-x-3 py-2 text-ink no-underline"
            >
              <Table2 size={16} aria-hidden className="text-slate-600" />
              <span className="font-semibold">{label}</span>
              <span className="font-mono text-[13px] text-slate-600">{speak`records.${key}`}</span>
              <span className="tabular ml-auto">
                {merged === undefined ? speak`${digits(records)} records` : mergedWords(merged)}
              </span>
            </a>
            {merged === undefined && <FirstForm plain table={key} />}
          </li>
        ))}
      </ul>
      {(result?.refused ?? 0) > 0 && result !== null && (
        <section className="mt-5" aria-label={speak`Rows that were left out`}>
          <h3 className="mb-1 text-[16px]">{speak`${
            result.refused === 1
              ? speak`One cell did not fit; its row was`
              : speak`${digits(result.refused)} cells did not fit; their rows were`
          } left out`}</h3>
          <RefusedFiles id={id} sheets={result.refusedSheets ?? []} />
          <ul className="mt-2 list-disc space-y-1 pl-5 text-[14px]">
            {result.refusals.slice(0, 50).map((one, i) => (
              <li key={i}>{refusedSentence(one)}</li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function headline(tables: NonNullable<ImportData['result']>['tables']): string {
  const made = tables.filter(({ merged }) => merged === undefined).length;
  const parts = [
    ...(made > 0 ? [made === 1 ? speak`One table is made` : speak`${digits(made)} tables are made`] : []),
    ...(made < tables.length ? [speak`the rows are in`] : []),
  ].join(speak`, and `);
  return parts.charAt(0).toUpperCase() + parts.slice(1);
}
