import { useState } from 'react';
import type { BulkChangeData } from '../../contract/bulk-changes';
import { columnValue } from '../../core/record/column-value';
import type { Table } from '../../core/table/model';
import { issueSentence } from '../../core/wording/issue-sentence';
import { counted, digits } from '../../core/wording/numbers';
import { cellText } from '../../core/record/cell-text';
import type { useBulk } from './use-bulk';
import { speak } from '../../core/wording/speak';

/** What a bulk change of this table is doing, or has done, under the line that says which records are shown. */
export function BulkStrip({
  table,
  bulk,
}: {
  readonly table: Table;
  readonly bulk: ReturnType<typeof useBulk>;
}) {
  const { last, trouble } = bulk;
  if (trouble !== '')
    return (
      <p role="alert" className="trouble mb-2">
        {trouble}
      </p>
    );
  if (last === null) return null;
  const { state, progress } = last;
  const isRunning = state === 'running';
  return (
    <section
      className="mb-2 rounded-md border border-slate-200 bg-white px-3 py-2 text-[14px]"
      aria-label={speak`A change of many records`}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <p role="status" className="mr-auto">
          <strong>{whatWords(table, last)}</strong>
          {': '}
          {isRunning
            ? speak`${digits(progress.looked)} of ${digits(progress.of)} looked at`
            : speak`${state === 'stopped' ? 'stopped; ' : ''}${counted(progress.changed, 'record')} changed`}
          {progress.refused > 0 && speak`, ${digits(progress.refused)} could not be`}
        </p>
        {isRunning ? (
          <button type="button" className="button" onClick={() => void bulk.stop()}>{speak`Stop`}</button>
        ) : (
          <>
            {last.canTakeBack && (
              <button
                type="button"
                className="button"
                onClick={() => void bulk.takeBack()}
              >{speak`Take it back`}</button>
            )}
            <button type="button" className="button-plain" onClick={bulk.dismiss}>{speak`Close`}</button>
          </>
        )}
      </div>
      {isRunning && (
        <progress
          className="mt-1 h-2 w-full"
          max={Math.max(progress.of, 1)}
          value={progress.looked}
          aria-label={speak`Records looked at`}
        />
      )}
      {progress.refused > 0 && <Refused progress={progress} table={table} />}
    </section>
  );
}

function whatWords(table: Table, { what }: BulkChangeData): string {
  const column = table.columns.find(({ id }) => id === what.column);
  const label = column?.label ?? speak`a column that is gone`;
  if (what.t === 'take-back') return speak`${label} set back to what it was`;
  const read = column === undefined ? null : columnValue(column, what.value);
  const text =
    what.title !== '' || column === undefined || read === null || !read.ok
      ? what.title
      : cellText(column, read.value);
  return text === '' ? speak`${label} emptied` : speak`${label} set to ${text}`;
}

const SHOWN = 5;

/** The records that were left as they are, with why. */
function Refused({
  table,
  progress,
}: {
  readonly table: Table;
  readonly progress: BulkChangeData['progress'];
}) {
  const [isAll, setAll] = useState(false);
  const shown = isAll ? progress.examples : progress.examples.slice(0, SHOWN);
  return (
    <ul className="mt-1 grid gap-0.5">
      {shown.map(({ number, issue }) => (
        <li key={number}>
          <a
            className="font-mono text-lichen-deep"
            href={`/tables/${table.key}/${encodeURIComponent(number)}`}
          >
            {number}
          </a>{' '}
          {issueSentence(issue)}
        </li>
      ))}
      {progress.examples.length > shown.length && (
        <li>
          <button
            type="button"
            className="button-plain"
            onClick={() => setAll(true)}
          >{speak`Show ${digits(progress.examples.length - shown.length)} more`}</button>
        </li>
      )}
      {progress.refused > progress.examples.length && (
        <li className="quiet">{speak`Only the first ${digits(progress.examples.length)} are told of.`}</li>
      )}
    </ul>
  );
}
