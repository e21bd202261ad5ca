import type { OneRecordData, RecordData } from '../../contract/answers-from-server';
import type { Table } from '../../core/table/model';
import { History } from '../kit/icons';
import { when } from '../kit/when';
import { shownCell } from './record-cells';
import { speak, spoken } from '../../core/wording/speak';

export type HistoryLine = OneRecordData['history'][number];

interface Props {
  readonly data: OneRecordData;
  /** Set for those who may change the record: cells as they were before a change. */
  readonly onRestore?: (record: RecordData, line: HistoryLine) => void;
}

/** What happened to a record, the latest first. */
export function RecordHistory({ data: { table, record, history }, onRestore }: Props) {
  return (
    <section className="margin-part" aria-labelledby="changed">
      <h2 id="changed" className="margin-title">
        <History size={16} aria-hidden />
        {speak`What changed`}
      </h2>
      <ol className="grid gap-2 text-[14px]">
        {[...history].reverse().map((line, i) => (
          <Entry
            key={i}
            table={table}
            line={line}
            {...(onRestore !== undefined &&
              line.cells.length > 0 && { onRestore: () => onRestore(record, line) })}
          />
        ))}
      </ol>
    </section>
  );
}

const happened = spoken((): Readonly<Record<string, string>> => ({
  made: speak`Record made`,
  imported: speak`Record imported`,
  changed: speak`Record changed`,
  removed: speak`Record removed`,
  restored: speak`Record brought back`,
}));

function Entry({
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
      {cells.length === 0 && (happened()[line.change] ?? line.change)}
      {cells.map(({ column, before, after }) => (
        <span key={column.id} className="block break-words">
          <span className="font-semibold">{column.label}</span>{' '}
          <s className="text-slate-600">{shownCell(column, before) || speak`empty`}</s>{' '}
          <span className="bg-marker-soft px-0.5">{shownCell(column, after) || speak`empty`}</span>
        </span>
      ))}
      {line.reasons.map(({ message, reason }) => (
        <span key={message} className="my-0.5 block rounded bg-ochre-soft px-2 py-1 break-words">
          <span className="font-semibold text-ochre">{message}</span> {reason}
        </span>
      ))}
      <span className="quiet block">
        {line.by}
        {line.through !== null && speak`, through ${line.through}`}, {when(line.at)}
        {line.submission !== null && speak`, by ${line.submission}`}
      </span>
      {onRestore !== undefined && (
        <button
          type="button"
          className="button-plain min-h-6 text-[13px]! text-lichen-deep!"
          onClick={onRestore}
        >{speak`as it was before`}</button>
      )}
    </li>
  );
}
