import { useRef, useState, type KeyboardEvent } from 'react';
import type { RecordData, TableAtWork } from '../../contract/answers-from-server';
import { stagedOf, typeCell } from '../../core/record/staged';
import { aboutColumn } from '../../core/table/about';
import { isTypedIn, type Column } from '../../core/table/model';
import { CircleX } from '../kit/icons';
import { ColumnMarks, Restricted } from '../kit/Restricted';
import { CellEditor } from './CellEditor';
import type { Leave } from './leave';
import { CellLink } from './CellLink';
import { GridLines, type GridCell } from './grid-lines';
import { editedRecord, shownCell } from './record-cells';
import { heading } from './record-text';
import type { StagedEdits } from './use-staged';
import { listStored } from '../../core/table/kinds/stored-list';
import { FileTiles } from '../kit/FileTile';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly work: TableAtWork;
  readonly record: RecordData;
  readonly edits: StagedEdits;
}

/** A text that is longer stands in a line of its own. */
const LONG = 60;

/** The columns of one record, each with its number; changed in place, and staged as in the grid. */
export function RecordFields({ work: { table, may, targets, restricted }, record, edits }: Props) {
  const [editing, setEditing] = useState<{ readonly column: string; readonly start: string | null } | null>(
    null,
  );
  const frame = useRef<HTMLDListElement>(null);
  const lines = useRef(new GridLines());
  const [line] = lines.current.of({
    table,
    rows: [record],
    staged: edits.staged.filter(({ id }) => id === record.id),
    troubles: edits.troubles,
    isWhole: true,
    fresh: { table: table.id, parent: null, given: {} },
    hasBlank: false,
  });
  if (line === undefined) return null;
  const isOpen = may.change && !line.isFixed && stagedOf(edits.staged, record.id)?.t !== 'remove';
  const focus = (at: number) => {
    // Once the field is a button again.
    setTimeout(() => frame.current?.querySelectorAll<HTMLElement>('[data-field]')[at]?.focus(), 0);
  };
  const write = (column: Column, raw: GridCell['cell']) =>
    edits.edit((all) => typeCell(all, editedRecord(table, record), column, raw));
  const done = (i: number, column: Column) => (cell: GridCell['cell'] | null, leave: Leave) => {
    setEditing(null);
    if (cell !== null) write(column, cell);
    focus(i + steps[leave]);
  };
  const press = (column: Column) => (event: KeyboardEvent) => {
    const { key, ctrlKey, metaKey, altKey } = event;
    if (key === 'Delete' || key === 'Backspace') write(column, { raw: null });
    else if (key === 'F2') setEditing({ column: column.id, start: null });
    else if ((ctrlKey || metaKey) && key.toLowerCase() === 'z') edits.undo();
    else if ((ctrlKey || metaKey) && key.toLowerCase() === 'y') edits.redo();
    else if (key.length === 1 && key !== ' ' && !ctrlKey && !metaKey && !altKey)
      setEditing({ column: column.id, start: key });
    else return;
    event.preventDefault();
  };
  return (
    <dl
      ref={frame}
      className="grid grid-cols-3 gap-x-6 gap-y-3 py-4 pr-5 pl-[46px] max-md:grid-cols-2 max-sm:grid-cols-1 max-sm:pl-3"
    >
      {table.columns.map((column, i) => {
        const cell = line.cellOf(column);
        const isLong =
          shownCell(column, cell.cell).length > LONG || (column.kind === 'files' && cell.cell.raw !== null);
        return (
          <div key={column.id} className={`min-w-0 ${isLong ? 'col-span-full' : ''}`}>
            <dt className="text-[13px] text-slate-600" title={aboutColumn(column) || undefined}>
              <span className="font-mono font-semibold">{i + 1}</span> {heading(column)}
              <ColumnMarks {...column} />
            </dt>
            <dd className="relative min-h-8">
              {editing?.column === column.id ? (
                <CellEditor
                  column={column}
                  cell={cell.cell}
                  start={editing.start}
                  target={targets[column.target ?? ''] ?? null}
                  onDone={done(i, column)}
                />
              ) : (
                <Field
                  column={column}
                  cell={cell}
                  {...(isOpen &&
                    isTypedIn(column) && {
                      onOpen: () => setEditing({ column: column.id, start: null }),
                      onKey: press(column),
                    })}
                />
              )}
              {cell.before === null && editing?.column !== column.id && (
                <span className="ml-1">
                  <CellLink column={column} record={record} targets={targets} />
                </span>
              )}
              {cell.trouble !== null && (
                <p className="trouble">
                  <CircleX size={14} aria-hidden className="mt-0.5 shrink-0" />
                  {cell.trouble}
                </p>
              )}
            </dd>
          </div>
        );
      })}
      {restricted.map((label) => (
        <div key={label} className="min-w-0">
          <dt className="text-[13px] text-slate-600">{label}</dt>
          <dd className="min-h-8">
            <Restricted />
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Which field comes next; a list of fields has no sides. */
const steps: Readonly<Record<Leave, number>> = { down: 0, up: 0, stay: 0, right: 1, left: -1 };

interface FieldProps {
  readonly column: Column;
  readonly cell: GridCell;
  /** Set where it may be changed. */
  readonly onOpen?: () => void;
  readonly onKey?: (event: KeyboardEvent) => void;
}

function Field({ column, cell: { cell, before }, onOpen, onKey }: FieldProps) {
  if (column.kind === 'files' && typeof cell.raw === 'string')
    return <FileTiles ids={listStored(cell.raw) ?? []} name={column.label} />;
  const text = shownCell(column, cell);
  const was = before === null ? '' : shownCell(column, before);
  const words = (
    <>
      <span
        className={`font-semibold break-words whitespace-pre-wrap ${before === null ? '' : 'bg-marker px-0.5'}`}
      >
        {text === '' ? (before === null ? '—' : speak`empty`) : text}
      </span>
      {before !== null && (
        <s className="ml-1.5 break-words text-slate-600">{was === '' ? speak`empty` : was}</s>
      )}
    </>
  );
  if (onOpen === undefined) return words;
  return (
    <button
      type="button"
      data-field
      aria-label={`${column.label}: ${text === '' ? speak`empty` : text}`}
      className="-mx-1.5 max-w-full rounded border border-transparent px-1.5 py-0.5 text-left hover:border-slate-300 hover:bg-slate-50"
      onClick={onOpen}
      onKeyDown={onKey}
    >
      {words}
    </button>
  );
}
