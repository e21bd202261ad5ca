import { useState } from 'react';
import {
  clashesOf,
  drop,
  dropCell,
  redrawn,
  type Clash,
  type StagedRecord,
  type TypedCell,
} from '../../core/record/staged';
import type { Column, Table } from '../../core/table/model';
import { counted } from '../../core/wording/numbers';
import { MessageSquareWarning } from '../kit/icons';
import { Select } from '../kit/Select';
import { when } from '../kit/when';
import { clearables, cleared, referring } from './clear-references';
import { shownCell } from './record-cells';
import { heading } from './record-text';
import type { Meanwhile, StagedEdits } from './use-staged';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly table: Table;
  readonly edits: StagedEdits;
}

interface LookOverProps extends Props {
  /** Where it leads back to. */
  readonly back: string;
  readonly onBack: () => void;
}

/** The staged edits, record by record, each against what stood there, before they are saved. */
export function LookOver({ table: main, edits, back, onBack }: LookOverProps) {
  // What is wrong or was changed meanwhile comes first where there is too much to look at.
  const asks = ({ id }: StagedRecord): boolean =>
    edits.meanwhile.has(id) || edits.troubles.some((one) => one.id === id);
  const isLong = edits.staged.length > MOST_LOOKED_OVER;
  const looked = isLong
    ? [...edits.staged.filter(asks), ...edits.staged.filter((one) => !asks(one))].slice(0, MOST_LOOKED_OVER)
    : edits.staged;
  return (
    <>
      <p className="sticky top-0 z-10 flex items-center justify-between gap-3 border-b border-slate-200 bg-slate-50 px-4 py-2">
        <strong>{speak`Look them over`}</strong>
        <button type="button" className="button" onClick={onBack}>
          {back}
        </button>
      </p>
      <Reasons edits={edits} of={(record) => !edits.staged.some(({ id }) => id === record)} />
      {edits.staged.length === 0 && <p className="p-5">{speak`Nothing is staged any more.`}</p>}
      <ol aria-label={speak`Staged edits`}>
        {looked.map((one, i) => {
          const table = edits.tables.get(one.table);
          return table === undefined ? null : (
            <LookedOver
              key={one.id}
              table={table}
              edits={edits}
              one={one}
              place={i + 1}
              isOther={one.table !== main.id}
            />
          );
        })}
        {isLong && (
          <li className="quiet p-4">{speak`And ${counted(edits.staged.length - looked.length, 'record')} more, with nothing wrong that is known yet.`}</li>
        )}
      </ol>
    </>
  );
}

/** More than these nobody reads one by one. */
const MOST_LOOKED_OVER = 300;

function LookedOver({
  table,
  edits,
  one,
  place,
  isOther,
}: Props & { readonly one: StagedRecord; readonly place: number; readonly isOther: boolean }) {
  const now = edits.meanwhile.get(one.id);
  const troubles = edits.troubles.filter(({ id }) => id === one.id);
  const clashes = now !== undefined && one.t === 'change' ? clashesOf(table, one, now.record) : [];
  return (
    <li
      className={`line ${now === undefined ? '' : 'bg-marker-soft shadow-[inset_4px_0_0_var(--color-marker)]'}`}
    >
      <span className="gutter">{place}</span>
      <div className="grid gap-1.5">
        <div className="flex flex-wrap items-baseline gap-2">
          {one.t === 'add' && <span className="tag bg-lichen-soft text-lichen-deep">{speak`new`}</span>}
          {one.t === 'remove' && <span className="tag bg-rust-soft text-rust">{speak`remove`}</span>}
          {isOther && <span className="tag bg-slate-200">{table.label}</span>}
          <strong className="break-words">
            {one.t === 'add' ? speak`Its number comes when it is saved` : one.name}
          </strong>
          {now !== undefined && (
            <span className="tag bg-ochre-soft text-ochre">{speak`changed meanwhile by ${now.by}, ${when(now.at)}`}</span>
          )}
          <button
            type="button"
            className="button-plain ml-auto"
            onClick={() => edits.edit((all) => drop(all, one.id))}
          >{speak`Drop`}</button>
        </div>
        {one.t !== 'remove' &&
          Object.entries(one.typed)
            .filter(([id]) => !clashes.some(({ column }) => column === id))
            .map(([id, cell]) => {
              const column = table.columns.find((known) => known.id === id);
              return column === undefined ? null : (
                <EditLine
                  key={id}
                  column={column}
                  before={one.t === 'change' ? (one.before[id] ?? null) : null}
                  cell={cell}
                  trouble={
                    troubles.find((known) => known.column === id && known.code !== 'reason-needed')
                      ?.sentence ?? null
                  }
                  onDrop={() => edits.edit((all) => dropCell(all, one.id, id))}
                />
              );
            })}
        {clashes.length > 0 && now !== undefined && (
          <Clashes table={table} edits={edits} clashes={clashes} now={now} />
        )}
        {troubles
          .filter(
            ({ column, code }) =>
              code !== 'reason-needed' &&
              (column === null || one.t === 'remove' || !(column in one.typed)) &&
              !(now !== undefined && code === 'record-changed'),
          )
          .map(({ sentence }) => (
            <p key={sentence} className="trouble">
              {sentence}
            </p>
          ))}
        {one.t === 'remove' && troubles.some(({ code }) => code === 'record-named') && (
          <ClearReferences edits={edits} record={one.id} />
        )}
        <Reasons edits={edits} of={(record) => record === one.id} />
        {one.t === 'remove' && now !== undefined && (
          <p>
            <button
              type="button"
              className="button"
              onClick={() => edits.edit((all) => redrawn(table, all, now.record, new Set()))}
            >{speak`Remove it all the same`}</button>
          </p>
        )}
      </div>
    </li>
  );
}

/** A record that others refer to can be removed once they refer to nothing, where that may be. */
function ClearReferences({ edits, record }: { readonly edits: StagedEdits; readonly record: string }) {
  const [words, setWords] = useState('');
  const places = clearables(edits.related.filter(({ column }) => column !== null));
  if (places.length === 0) return null;
  const clear = async () => {
    setWords('');
    const found = await referring(record, places);
    if (found === null)
      return setWords(speak`They could not all be fetched, or are too many to be changed at once.`);
    if (found.length === 0) return setWords(speak`You may not empty it in those records.`);
    edits.edit((all) => cleared(all, found));
    edits.forget(record);
  };
  return (
    <p className="flex flex-wrap items-center gap-2">
      <button
        type="button"
        className="button"
        onClick={() => void clear()}
      >{speak`Empty it in the records that refer to it`}</button>
      {words !== '' && <span className="trouble mt-0!">{words}</span>}
    </p>
  );
}

/** What checks ask about some records, with room to say why. */
function Reasons({ edits, of }: { readonly edits: StagedEdits; readonly of: (record: string) => boolean }) {
  return edits.asked
    .filter(({ record }) => of(record))
    .map((one) => (
      <label
        key={`${one.record} ${one.check}`}
        className="block rounded-md bg-ochre-soft px-3 py-2 text-[14px]"
      >
        <span className="mb-1 flex gap-2 font-semibold text-ochre">
          <MessageSquareWarning size={16} aria-hidden className="mt-0.5 shrink-0" />
          {one.message}
        </span>
        <textarea
          rows={2}
          maxLength={2_000}
          className="box"
          placeholder={speak`Why it is so all the same`}
          value={one.reason}
          onChange={(event) => edits.giveReason(one, event.target.value)}
        />
      </label>
    ));
}

interface EditLineProps {
  readonly column: Column;
  readonly before: TypedCell | null;
  readonly cell: TypedCell;
  readonly trouble: string | null;
  readonly onDrop: () => void;
}

function EditLine({ column, before, cell, trouble, onDrop }: EditLineProps) {
  const [was, is] = [before === null ? '' : shownCell(column, before), shownCell(column, cell)];
  return (
    <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)_minmax(0,3fr)_auto] items-baseline gap-x-3 text-[14px] max-sm:grid-cols-[minmax(0,1fr)_auto]">
      <span className="text-slate-600">{heading(column)}</span>
      <s className="break-words text-slate-600 max-sm:col-span-2 max-sm:row-start-2">
        {before === null ? '' : was === '' ? speak`empty` : was}
      </s>
      <span className="break-words whitespace-pre-wrap max-sm:col-span-2">
        <span className="bg-marker px-0.5">{is === '' ? speak`empty` : is}</span>
        {trouble !== null && <span className="trouble">{trouble}</span>}
      </span>
      <button
        type="button"
        className="button-plain text-[13px] max-sm:col-start-2 max-sm:row-start-1"
        aria-label={speak`Drop the edit of ${column.label}`}
        onClick={onDrop}
      >{speak`drop`}</button>
    </div>
  );
}

interface ClashesProps {
  readonly table: Table;
  readonly edits: StagedEdits;
  readonly clashes: readonly Clash[];
  readonly now: Meanwhile;
}

/** What both changed: how it was, what they made of it, what is typed here, and which of the two is kept. */
function Clashes({ table, edits, clashes, now }: ClashesProps) {
  const [kept, setKept] = useState<Readonly<Record<string, 'theirs' | 'mine'>>>({});
  const decided = clashes.every(({ column }) => kept[column] !== undefined);
  const settle = () =>
    edits.edit((all) =>
      redrawn(
        table,
        all,
        now.record,
        new Set(clashes.flatMap(({ column }) => (kept[column] === 'theirs' ? [column] : []))),
      ),
    );
  const name = now.by.split(' ')[0] ?? 'theirs';
  return (
    <div className="overflow-x-auto">
      <table className="grid-table min-w-[480px]">
        <thead>
          <tr>
            <th scope="col">
              <span className="sr-only">{speak`Column`}</span>
            </th>
            <th scope="col">{speak`when you began`}</th>
            <th scope="col">{name}’s</th>
            <th scope="col">{speak`yours`}</th>
            <th scope="col">{speak`keep`}</th>
          </tr>
        </thead>
        <tbody>
          {clashes.map(({ column: id, before, theirs, mine }) => {
            const column = table.columns.find((known) => known.id === id);
            return column === undefined ? null : (
              <tr key={id}>
                <th scope="row">{column.label}</th>
                <td>{shownCell(column, before) || speak`empty`}</td>
                <td>{shownCell(column, theirs) || speak`empty`}</td>
                <td>
                  <span className="bg-marker px-0.5">{shownCell(column, mine) || speak`empty`}</span>
                </td>
                <td>
                  <Select
                    label={speak`${column.label}: which to keep`}
                    value={kept[id] ?? null}
                    choices={[
                      { value: 'theirs', label: speak`${name}’s` },
                      { value: 'mine', label: speak`yours` },
                    ]}
                    onChange={(value) => setKept({ ...kept, [id]: value === 'mine' ? 'mine' : 'theirs' })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="button"
          disabled={!decided}
          onClick={settle}
        >{speak`Keep these`}</button>
        {!decided && (
          <span className="trouble mt-0!">{speak`Changed by both of you. Choose which to keep.`}</span>
        )}
      </p>
    </div>
  );
}
