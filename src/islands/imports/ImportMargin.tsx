import { CircleHelp, EyeOff } from 'lucide-react';
import { columnPath, type ColumnDecision } from '../../core/import/decisions';
import { detectedKinds, type DetectedColumn, type DetectedKind } from '../../core/import/detection';
import { headingLabel } from '../../core/import/import-plan';
import { recordsOf } from '../../core/import/preview';
import { personalKinds, type PersonalData } from '../../core/table/model';
import { evidenceSentences, grouped, kindWords, personalWords, refusedSentence } from '../../core/wording/proposal-sentence';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import type { Importing } from './use-import';

interface Props {
  readonly importing: Importing;
  readonly picked: string | null;
  readonly pick: (path: string | null) => void;
}

/** The column in hand, or the whole. */
export function ImportMargin({ importing, picked, pick }: Props) {
  const { data: { detection } } = importing;
  const sheet = detection?.sheets.find(({ name, columns }) => columns.some((one) => columnPath(name, one.name) === picked));
  const column = sheet?.columns.find((one) => columnPath(sheet.name, one.name) === picked);
  return (
    <>
      <Whole importing={importing} pick={pick} />
      {column === undefined || picked === null ? <div className="margin-part"><p className="quiet">Pick the heading of a column to see why it is taken for what it is, and to correct it.</p></div> : <ColumnInHand key={picked} importing={importing} path={picked} column={column} />}
      <Refusals importing={importing} />
    </>
  );
}

function Whole({ importing: { plan, data, asks, decisions, decide, accept, cancel, trouble, busy }, pick }: { importing: Importing; pick: (path: string) => void }) {
  const { detection } = data;
  const records = detection === null ? 0 : plan.tables.reduce((sum, one) => sum + recordsOf(one, detection), 0);
  return (
    <div className="margin-part first">
      <h2 className="margin-title">What would be made</h2>
      <p className="mb-2 text-[14px]">{plan.tables.length === 1 ? 'One table' : `${grouped(plan.tables.length)} tables`} with {grouped(records)} records{data.files.length > 1 && ` of ${data.files.length} files`}.</p>
      {asks.length > 0 && (
        <div className="mb-2">
          <p className="mb-1 flex items-center gap-1.5 text-[14px] font-semibold"><CircleHelp size={15} aria-hidden className="text-ochre" />Your word is needed first</p>
          <ul className="space-y-1">{asks.map(({ path, ask }) => <li key={path}><button type="button" className="marked rounded text-left text-[14px] hover:underline" onClick={() => pick(path)}>{path.replace('/', ', ')}: {ask.t === 'date-order' ? 'day or month first' : 'what the separator means'}</button></li>)}</ul>
        </div>
      )}
      <Sentence>If a row does not fit, <Select label="What happens when a row does not fit" value={decisions.refusedRows} choices={[{ value: 'keep-nothing', label: 'keep nothing' }, { value: 'keep-the-rest', label: 'keep the others' }]} onChange={(value) => decide((before) => ({ ...before, refusedRows: value === 'keep-the-rest' ? 'keep-the-rest' : 'keep-nothing' }))} /></Sentence>
      {trouble !== '' && <p role="alert" className="trouble mb-2">{trouble}</p>}
      <div className="flex flex-wrap gap-2 pt-1">
        <button type="button" className="button button-go" disabled={busy || asks.length > 0 || plan.tables.length === 0} onClick={() => void accept()}>Make {plan.tables.length === 1 ? 'the table' : `${grouped(plan.tables.length)} tables`}</button>
        <button type="button" className="button" disabled={busy} onClick={() => void cancel()}>Cancel the import</button>
      </div>
    </div>
  );
}

const dateOrders = [{ value: 'dmy', label: 'day, month, year' }, { value: 'mdy', label: 'month, day, year' }];
const signs = [{ value: '.', label: 'a point comes before decimals' }, { value: ',', label: 'a comma comes before decimals' }];

function ColumnInHand({ importing: { decisions, column: decideColumn }, path, column }: { importing: Importing; path: string; column: DetectedColumn }) {
  const decided = decisions.columns[path] ?? {};
  const change = (part: ColumnDecision) => decideColumn(path, part);
  const kind: DetectedKind = decided.kind ?? column.kind;
  const personal = decided.personal === undefined ? column.personal : decided.personal;
  return (
    <div className="margin-part" role="group" aria-label={`The column ${column.name}`}>
      <h2 className="margin-title">The column “{column.name}”</h2>
      {decided.leaveOut === true ? <p className="mb-2 text-[14px]">It is left out.</p> : (
        <>
          <Sentence>is called <Word label="Name of the column" value={decided.label ?? headingLabel(column.name)} onChange={(label) => change({ label: label.trim() === '' ? column.name : label })} /> and holds <Select label="Kind of the column" value={kind} choices={detectedKinds.filter((one) => one !== 'choice' || column.choices !== null).map((value) => ({ value, label: kindWords[value] }))} onChange={(value) => change({ kind: value as DetectedKind })} /></Sentence>
          {(kind === 'date' || kind === 'date-time') && (column.ask?.t === 'date-order' || column.reading.dateOrder === 'dmy' || column.reading.dateOrder === 'mdy') && <AskedOrder column={column} value={decided.dateOrder ?? (column.ask === null ? column.reading.dateOrder ?? null : null)} onChange={(dateOrder) => change({ dateOrder })} />}
          {(kind === 'decimal' || kind === 'whole' || kind === 'money') && (column.ask?.t === 'decimal-sign' || (column.reading.decimals ?? 0) > 0) && <AskedSign column={column} value={decided.decimalSign ?? (column.ask === null ? column.reading.decimalSign ?? null : null)} onChange={(decimalSign) => change({ decimalSign })} />}
          <Sentence><EyeOff size={14} aria-hidden className="text-plum" />It holds <Select label="Data about people" value={personal ?? 'none'} choices={[{ value: 'none', label: 'nothing about people' }, ...personalKinds.map((value) => ({ value, label: personalWords[value] }))]} onChange={(value) => change({ personal: value === 'none' ? null : (value as PersonalData) })} /></Sentence>
          <ul className="my-2 list-disc space-y-0.5 pl-5 text-[13px] text-slate-700">{evidenceSentences(column).map((one) => <li key={one}>{one}</li>)}</ul>
          {column.misfits > 0 && kind === column.kind && <Misfits column={column} />}
        </>
      )}
      <button type="button" className="button-plain" onClick={() => change({ leaveOut: decided.leaveOut !== true })}>{decided.leaveOut === true ? 'Take it after all' : 'Leave this column out'}</button>
    </div>
  );
}

function AskedOrder({ column: { ask }, value, onChange }: { column: DetectedColumn; value: string | null; onChange: (order: 'dmy' | 'mdy') => void }) {
  return (
    <>
      {ask?.t === 'date-order' && value === null && <p className="text-[14px]"><span className="marked">{ask.examples.slice(0, 2).join(', ')}</span> could be read two ways{ask.suggested !== null && `; the rest of the sheet has ${ask.suggested === 'mdy' ? 'the month' : 'the day'} first`}.</p>}
      <Sentence>It is written <Select label="Order of day and month" value={value} placeholder="say how" choices={dateOrders} onChange={(order) => onChange(order === 'mdy' ? 'mdy' : 'dmy')} /></Sentence>
    </>
  );
}

function AskedSign({ column: { ask }, value, onChange }: { column: DetectedColumn; value: string | null; onChange: (sign: '.' | ',') => void }) {
  return (
    <>
      {ask?.t === 'decimal-sign' && value === null && <p className="text-[14px]"><span className="marked">{ask.examples.slice(0, 2).join(', ')}</span> could be thousands or decimals.</p>}
      <Sentence>In it <Select label="Meaning of the separator" value={value} placeholder="say what comes before decimals" choices={signs} onChange={(sign) => onChange(sign === ',' ? ',' : '.')} /></Sentence>
    </>
  );
}

function Misfits({ column }: { column: DetectedColumn }) {
  return (
    <>
      <p className="text-[14px] font-semibold text-rust">{grouped(column.misfits)} {column.misfits === 1 ? 'cell does' : 'cells do'} not fit</p>
      <ul className="mb-2 list-disc space-y-0.5 pl-5 text-[13px]">{column.misfitCells.slice(0, 8).map(({ row, text }) => <li key={row}>row {grouped(row)}: <span className="font-mono">{text}</span></li>)}</ul>
    </>
  );
}

function Refusals({ importing: { data: { state, result } } }: { importing: Importing }) {
  if (state !== 'refused' || result === null) return null;
  return (
    <div className="margin-part" role="alert">
      <h2 className="margin-title text-rust">Nothing was kept: {grouped(result.refused)} {result.refused === 1 ? 'cell does' : 'cells do'} not fit</h2>
      <ul className="list-disc space-y-1 pl-5 text-[14px]">{result.refusals.slice(0, 12).map((one, i) => <li key={i}>{refusedSentence(one)}</li>)}</ul>
      <p className="quiet mt-2">Correct the sheet and bring it again, make the column a text, or keep the rows that fit.</p>
    </div>
  );
}
