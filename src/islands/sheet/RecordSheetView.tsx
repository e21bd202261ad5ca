import { useMemo, useRef, useState } from 'react';
import type { SheetData } from '../../contract/sheet-from-server';
import { newUuid } from '../../core/kernel/ids';
import { call, troubleOf } from '../kit/call';
import { Database, Pencil, Trash2 } from '../kit/icons';
import { Root } from '../kit/Root';
import { PrintButton } from './PrintButton';
import { shownSheet } from './reviewing';
import { recordAddress, titleOf } from './sheet-title';
import { SheetShown } from './SheetShown';
import { usePatterns } from './use-patterns';
import { speak } from '../../core/wording/speak';

export default function RecordSheetView({ data }: { data: SheetData }) {
  return (
    <Root>
      <RecordSheet data={data} />
    </Root>
  );
}

/** A record as a form shows it: to be looked at, printed, and changed or removed by those who may. */
function RecordSheet({ data }: { data: SheetData }) {
  const first = useMemo(() => shownSheet(data), [data]);
  const patterns = usePatterns(first.sheet.form.usesPatterns);
  const review = useMemo(() => (patterns ? shownSheet(data) : first), [data, first, patterns]);
  const { record, design, formKey } = data;
  if (record === null) return null;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div className="min-w-0">
          <p className="quiet">
            <a href={recordAddress(record)} className="crumb">
              {design.table.label} › {record.number}
            </a>
            {design.area !== '' && ` · ${design.area}`}
          </p>
          <h1 className="text-[23px] break-words">{titleOf(data)}</h1>
        </div>
        <div className="flex flex-wrap items-center gap-2 print:hidden">
          <PrintButton />
          <Removal data={data} record={record} />
          {record.mayChange && (
            <a className="button button-go" href={`/fill/${formKey}/${encodeURIComponent(record.number)}`}>
              <Pencil size={15} aria-hidden />
              {speak`Change it`}
            </a>
          )}
        </div>
      </div>
      <div className="sheet-frame">
        <div>
          <SheetShown review={review} />
        </div>
        <aside id="margin" className="margin-pane print:hidden" aria-label={speak`About this record`}>
          <section className="margin-part first">
            <h2 className="margin-title">
              <Database size={16} aria-hidden />
              {speak`Kept in`}
            </h2>
            <p className="text-[14px]">
              <a className="text-lichen-deep underline" href={recordAddress(record)}>
                {design.table.label} › {record.number}
              </a>
              <span className="quiet block">{speak`with all its columns, what relates to it, and what happened to it`}</span>
            </p>
          </section>
        </aside>
      </div>
    </>
  );
}

interface RemovalProps {
  readonly data: SheetData;
  readonly record: NonNullable<SheetData['record']>;
}

/** Asks once, by its number; it goes to the bin of its table, from where it can be brought back. */
function Removal({ data, record }: RemovalProps) {
  const [sure, setSure] = useState(false);
  const [trouble, setTrouble] = useState('');
  const key = useRef('');
  if (record.mayRemove === null) return null;
  const { table } = data.design;
  const remove = async () => {
    if (!sure) return setSure(true);
    setTrouble('');
    if (key.current === '') key.current = newUuid();
    const edits = [{ t: 'remove', table: table.id, id: record.id, version: record.mayRemove }];
    try {
      const done = await call('POST', '/api/edits', { key: key.current, edits });
      key.current = '';
      if (done.ok) return location.assign(`/tables/${record.tableKey}`);
      setTrouble(troubleOf(done.error));
    } catch {
      setTrouble(speak`The server cannot be reached; nothing was removed. Try again in a moment.`);
    }
  };
  return (
    <>
      <span role="alert" className="text-[14px] font-semibold text-rust">
        {trouble}
      </span>
      <button
        type="button"
        className="button button-stop"
        onClick={() => void remove()}
        onBlur={() => setSure(false)}
      >
        <Trash2 size={15} aria-hidden />
        {sure ? speak`Put ${record.number} in the bin` : speak`Remove`}
      </button>
    </>
  );
}
