import type { FormOfTable, OneRecordData, RecordData } from '../../contract/answers-from-server';
import { aboutColumn } from '../../core/table/about';
import type { Table } from '../../core/table/model';
import { counted, digits } from '../../core/wording/numbers';
import { ArrowRight, Rows3, Trash2 } from '../kit/icons';
import { ByForm } from './ByForm';
import { CellLink } from './CellLink';
import { RecordHistory, type HistoryLine } from './RecordHistory';
import { cellText } from '../../core/record/cell-text';
import { heading, relatedBy } from './record-text';
import type { Column } from '../../core/table/model';
import { listStored } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';
import { ColumnMarks, Restricted } from '../kit/Restricted';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly table: Table;
  readonly data: OneRecordData | null;
  readonly wanted: boolean;
  readonly failed: boolean;
  /** The keys of the tables that references point to, by their ids. */
  readonly targets: Readonly<Record<string, string>>;
  /** The address of a record's own page. */
  readonly page: (number: string) => string;
  readonly forms: readonly FormOfTable[];
  /** What the columns are called that whoever looks does not see. */
  readonly restricted: readonly string[];
  /** Set for those who may remove records. */
  readonly onRemove?: (record: RecordData) => void;
  /** Set for those who may change them: cells as they were before a change. */
  readonly onRestore?: (record: RecordData, line: HistoryLine) => void;
}

/** The record in hand, what is related to it, and what happened to it. */
export function RecordMargin({
  table,
  data,
  wanted,
  failed,
  targets,
  page,
  forms,
  restricted,
  onRemove,
  onRestore,
}: Props) {
  if (!wanted)
    return (
      <p className="margin-part first quiet">{speak`Pick a record to see all of it, what belongs to it, and its history.`}</p>
    );
  if (data === null)
    return (
      <div className="margin-part first" aria-busy={!failed}>
        {failed ? (
          speak`This record cannot be shown; it may be gone.`
        ) : (
          <div className="grid gap-2" aria-hidden>
            {[1, 2, 3, 4].map((i) => (
              <div key={i} className="h-4 rounded bg-slate-100" />
            ))}
          </div>
        )}
      </div>
    );
  const { record } = data;
  const address = page(record.number);
  return (
    <>
      <section className="margin-part first">
        <h2 className="mb-2 flex flex-wrap items-baseline justify-between gap-2">
          <span className="font-mono text-[17px] break-all">{record.number}</span>
          <a href={address} className="inline-flex items-center gap-1 font-sans text-[14px] text-lichen-deep">
            {speak`Open its page`} <ArrowRight size={14} aria-hidden />
          </a>
        </h2>
        <dl className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-x-3 gap-y-1 text-[14px]">
          {table.columns.map((column) => (
            <div key={column.id} className="contents">
              <dt className="text-slate-600" title={aboutColumn(column) || undefined}>
                {heading(column)}
                <ColumnMarks {...column} />
              </dt>
              <dd className="break-words whitespace-pre-wrap">
                <Shown column={column} cell={record.cells[column.id] ?? null} />{' '}
                <CellLink column={column} record={record} targets={targets} />
              </dd>
            </div>
          ))}
          {restricted.map((label) => (
            <div key={label} className="contents">
              <dt className="text-slate-600">{label}</dt>
              <dd>
                <Restricted />
              </dd>
            </div>
          ))}
        </dl>
        <ByForm forms={forms} number={record.number} />
        {onRemove !== undefined && (
          <button type="button" className="button button-stop mt-3" onClick={() => onRemove(record)}>
            <Trash2 size={15} aria-hidden />
            {speak`Remove this record`}
          </button>
        )}
      </section>
      {data.related
        .filter(({ total }) => total > 0)
        .map((related) => (
          <Related
            key={`${related.table.id} ${related.via}`}
            related={related}
            of={table}
            address={address}
          />
        ))}
      <RecordHistory data={data} {...(onRestore !== undefined && { onRestore })} />
    </>
  );
}

interface RelatedProps {
  readonly related: OneRecordData['related'][number];
  readonly of: Table;
  readonly address: string;
}

/** The first of the records of a table that belong or refer to the one in hand. */
function Related({ related, of, address }: RelatedProps) {
  const { table, column, rows, total, about } = related;
  const by = relatedBy(related, of);
  const shown = table.columns.filter(({ id, target }) => id !== column && target !== of.id);
  return (
    <section className="margin-part" aria-label={table.label}>
      <h2 className="margin-title">
        <Rows3 size={16} aria-hidden />
        {table.label}
        {by !== null && <span className="font-normal text-slate-600">{by}</span>}
        <span className="tag bg-slate-200">
          {about ? speak`more than ` : ''}
          {digits(total)}
        </span>
      </h2>
      <ul className="text-[14px]">
        {rows.map((row) => (
          <li key={row.id} className="truncate border-b border-slate-200 py-1">
            <a
              href={`/tables/${table.key}/${encodeURIComponent(row.number)}`}
              className="inline-flex min-h-6 items-center font-mono text-lichen-deep"
            >
              {row.number}
            </a>{' '}
            {shown
              .map((one) => cellText(one, row.cells[one.id] ?? null))
              .filter((one) => one !== '')
              .join(' · ')}
          </li>
        ))}
      </ul>
      {total > rows.length && (
        <a
          href={address}
          className="mt-1 inline-flex min-h-6 items-center text-[14px] text-lichen-deep"
        >{speak`All ${counted(total, 'record')}`}</a>
      )}
    </section>
  );
}

function Shown({ column, cell }: { column: Column; cell: string | boolean | null }) {
  if (column.kind === 'files' && typeof cell === 'string')
    return <FileTiles ids={listStored(cell) ?? []} name={column.label} />;
  return cellText(column, cell) || '—';
}
