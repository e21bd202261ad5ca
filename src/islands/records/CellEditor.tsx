import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { PickOptions } from '../../contract/record-edits';
import { offered } from '../../core/table/choice-list';
import { writtenIn, type TypedCell } from '../../core/record/staged';
import type { Column } from '../../core/table/model';
import { fetched } from '../kit/call';
import { Lookup, type LookupOption } from '../kit/Lookup';
import { leaveBy, type Leave } from './leave';
import { plainCell, typedCell } from './record-cells';
import { SeveralEditor } from './SeveralEditor';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly column: Column;
  readonly cell: TypedCell;
  /** What was typed over the cell; null where what stands there is gone on with. */
  readonly start: string | null;
  /** The key of the table a reference points to. */
  readonly target: string | null;
  readonly onDone: (cell: TypedCell | null, leave: Leave) => void;
}

/** The control of the cell in hand: written with Enter or Tab, left as it was with Escape. */
export function CellEditor(props: Props) {
  const { column } = props;
  if (column.kind === 'choices') return <SeveralEditor {...props} />;
  return column.kind === 'reference' || column.kind === 'choice' || column.kind === 'yes-no' ? (
    <PickEditor {...props} />
  ) : (
    <TextEditor {...props} />
  );
}

function TextEditor({ column, cell, start, onDone }: Props) {
  const was = typedCell(column, cell);
  const [text, setText] = useState(start ?? was);
  const done = useRef(false);
  const box = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    box.current?.focus({ preventScroll: true });
    box.current?.setSelectionRange(start === null ? 0 : start.length, text.length);
    // Once, when the cell is opened.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);
  const leave = (way: Leave, keep = true) => {
    if (done.current) return;
    done.current = true;
    onDone(keep && text !== was ? writtenIn(column, text) : null, way);
  };
  const press = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Escape') return leave('stay', false);
    // A new line within a text, as in a spreadsheet.
    if (event.key === 'Enter' && event.altKey && column.kind === 'text') {
      event.preventDefault();
      return setText((now) => `${now}\n`);
    }
    const way = leaveBy(event);
    if (way === null) return;
    event.preventDefault();
    leave(way);
  };
  return (
    <textarea
      ref={box}
      rows={Math.min(8, text.split('\n').length)}
      aria-label={column.label}
      className="cell-editor"
      inputMode={
        column.kind === 'whole' || column.kind === 'decimal' || column.kind === 'money'
          ? 'decimal'
          : undefined
      }
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={press}
      onBlur={() => leave('stay')}
    />
  );
}

const yesNo = spoken((): readonly LookupOption[] => [
  { id: 'true', title: speak`Yes`, shown: [] },
  { id: 'false', title: speak`No`, shown: [] },
]);

function PickEditor({ column, cell, start, target, onDone }: Props) {
  const done = useRef(false);
  const frame = useRef<HTMLDivElement>(null);
  const leave = (to: TypedCell | null, way: Leave) => {
    if (done.current) return;
    done.current = true;
    onDone(to, way);
  };
  useEffect(() => frame.current?.querySelector('input')?.focus({ preventScroll: true }), []);
  const latest = useRef<readonly LookupOption[]>([]);
  const search = async (words: string): Promise<{ options: readonly LookupOption[] }> => {
    const found = await options(words);
    latest.current = words === '' ? [] : found.options;
    return found;
  };
  const options = async (words: string): Promise<{ options: readonly LookupOption[] }> => {
    if (column.kind === 'reference')
      return target === null
        ? { options: [] }
        : fetched<PickOptions>(`/api/tables/${target}/pick?q=${encodeURIComponent(words)}`);
    const all =
      column.kind === 'yes-no'
        ? yesNo()
        : offered(column.choices).map(({ code, label }) => ({ id: code, title: label, shown: [] }));
    const small = words.trim().toLowerCase();
    return { options: all.filter(({ title }) => title.toLowerCase().includes(small)) };
  };
  const given = (option: LookupOption | null): TypedCell => {
    if (option === null) return { raw: null };
    if (column.kind === 'reference') return { raw: option.id, title: option.title };
    return { raw: column.kind === 'yes-no' ? option.id === 'true' : option.id };
  };
  return (
    <div
      ref={frame}
      role="presentation"
      className="cell-editor p-0!"
      onKeyDownCapture={(event) => {
        if (event.key === 'Escape') {
          event.stopPropagation();
          leave(null, 'stay');
        }
        // Somebody who typed what only one is called need not pick it from a list of one.
        const [only, another] = latest.current;
        const isPicking =
          event.target instanceof Element && event.target.hasAttribute('aria-activedescendant');
        if (event.key === 'Enter' && !isPicking && only !== undefined && another === undefined) {
          event.preventDefault();
          event.stopPropagation();
          leave(given(only), event.shiftKey ? 'up' : 'down');
        }
        if (event.key === 'Tab') {
          event.preventDefault();
          event.stopPropagation();
          leave(null, event.shiftKey ? 'left' : 'right');
        }
      }}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <Lookup
        bare
        label={column.label}
        picked={
          start === null && cell.raw !== null
            ? { id: String(cell.raw), title: plainCell(column, cell) }
            : null
        }
        typed={start ?? ''}
        search={search}
        searchKey={['pick', column.id]}
        onPick={(option) => {
          // Emptied by its letters: what comes next is still being looked for.
          if (option === null) return;
          leave(given(option), 'down');
        }}
        onBlur={() => leave(null, 'stay')}
      />
    </div>
  );
}
