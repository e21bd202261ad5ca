import { History, Rows3, Trash2 } from '../kit/icons';
import type { OneRecordData, RecordData } from '../../contract/answers-from-server';
import { aboutColumn } from '../../core/table/about';
import type { Table } from '../../core/table/model';
import { when } from '../kit/when';
import { shownCell } from './record-cells';
import { cellText, heading } from './record-text';

interface Props {
  readonly table: Table;
  readonly data: OneRecordData | null;
  readonly wanted: boolean;
  readonly failed: boolean;
  /** Set for those who may remove records. */
  readonly onRemove?: (record: RecordData) => void;
  /** Set for those who may change them: cells as they were before a change. */
  readonly onRestore?: (record: RecordData, line: HistoryLine) => void;
}
export type HistoryLine = OneRecordData['history'][number];

/** The record in hand, the rows that belong to it, and what happened to it. */
export function RecordMargin({ table, data, wanted, failed, onRemove, onRestore }: Props) {
  if (!wanted)
    return (
      <>
        <p className="margin-part first quiet">
          Pick a record to see all of it, what belongs to it, and its history.
        </p>
      </>
    );
  if (data === null)
    return (
      <>
        <div className="margin-part first" aria-busy={!failed}>
          {failed ? (
            'This record cannot be shown; it may be gone.'
          ) : (
            <div className="grid gap-2" aria-hidden>
              {[1, 2, 3, 4].map((i) => (
                <div key={i} className="h-4 rounded bg-slate-100" />
              ))}
            </div>
          )}
        </div>
      </>
    );
  const { record } = data;
  return (
    <>
      <section className="margin-part first">
        <h2 className="mb-2 font-mono text-[17px]">{record.number}</h2>
        <dl className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-x-3 gap-y-1 text-[14px]">
          {table.columns.map((column) => (
            <div key={column.id} className="contents">
              <dt className="text-slate-600" title={aboutColumn(column) || undefined}>
                {heading(column)}
                {column.personal !== null && <span className="text-plum"> · personal</span>}
              </dt>
              <dd className="break-words whitespace-pre-wrap">
                {cellText(column, record.cells[column.id] ?? null) || '—'}
              </dd>
            </div>
          ))}
        </dl>
        {onRemove !== undefined && (
          <button type="button" className="button button-stop mt-3" onClick={() => onRemove(record)}>
            <Trash2 size={15} aria-hidden />
            Remove this record
          </button>
        )}
      </section>
      {data.related.map(({ table: child, rows }) => (
        <section key={child.id} className="margin-part" aria-label={child.label}>
          <h2 className="margin-title">
            <Rows3 size={16} aria-hidden />
            {child.label} <span className="tag bg-slate-200">{rows.length}</span>
          </h2>
          <ul className="text-[14px]">
            {rows.map((row) => (
              <li key={row.id} className="border-b border-slate-200 py-1">
                {child.columns
                  .map((column) => cellText(column, row.cells[column.id] ?? null))
                  .filter((one) => one !== '')
                  .join(' · ')}
              </li>
            ))}
          </ul>
        </section>
      ))}
      <section className="margin-part" aria-labelledby="changed">
        <h2 id="changed" className="margin-title">
          <History size={16} aria-hidden />
          What changed
        </h2>
        <ol className="grid gap-2 text-[14px]">
          {[...data.history].reverse().map((line, i) => (
            <HistoryEntry
              key={i}
              table={table}
              line={line}
              {...(onRestore !== undefined &&
                line.cells.length > 0 && { onRestore: () => onRestore(record, line) })}
            />
          ))}
        </ol>
      </section>
    </>
  );
}

const happened: Readonly<Record<string, string>> = {
  made: 'Record made',
  imported: 'Record imported',
  changed: 'Record changed',
  removed: 'Record removed',
};

function HistoryEntry({
  table,
  line,
  onRestore,
}: {
  readonly table: Table;
  readonly line: HistoryLine;
  readonly onRestore?: () => void;
}) {
  const cells = line.cells.flatMap(({ column: id, before, after }) => {
    const column = table.columns.find((one) => one.id === id);
    return column === undefined ? [] : [{ column, before, after }];
  });
  return (
    <li>
      {cells.length === 0 && (happened[line.change] ?? line.change)}
      {cells.map(({ column, before, after }) => (
        <span key={column.id} className="block break-words">
          <span className="font-semibold">{column.label}</span>{' '}
          <s className="text-slate-600">{shownCell(column, before) || 'empty'}</s>{' '}
          <span className="bg-marker-soft px-0.5">{shownCell(column, after) || 'empty'}</span>
        </span>
      ))}
      <span className="quiet block">
        {line.by}, {when(line.at)}
        {line.submission !== null && `, by ${line.submission}`}
      </span>
      {onRestore !== undefined && (
        <button type="button" className="button-plain text-[13px]! text-lichen-deep!" onClick={onRestore}>
          as it was before
        </button>
      )}
    </li>
  );
}
