import { useQuery } from '@tanstack/react-query';
import { ListChecks, Plus } from '../kit/icons';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ListsData } from '../../contract/choice-lists';
import { offered } from '../../core/table/choice-list';
import type { ColumnChoice } from '../../core/table/model';
import { call, fetched } from '../kit/call';
import { ChoiceEditor } from '../kit/ChoiceEditor';
import { useLive } from '../kit/live';
import { newUuid } from '../../core/kernel/ids';
import { Root } from '../kit/Root';
import { usesWords } from './uses-words';
import { speak } from '../../core/wording/speak';

export default function ListsView({ initial }: { initial: ListsData }) {
  return (
    <Root>
      <Lists initial={initial} />
    </Root>
  );
}

function Lists({ initial }: { initial: ListsData }) {
  const { data, refetch } = useQuery({
    queryKey: ['lists'],
    queryFn: () => fetched<ListsData>('/api/lists'),
    initialData: initial,
  });
  useLive(
    ['lists'],
    useCallback(() => void refetch(), [refetch]),
  );
  const [adding, setAdding] = useState(false);
  return (
    <>
      <p className="quiet pt-4">
        <a href="/tables" className="crumb">{speak`Tables`}</a>
      </p>
      <div className="flex flex-wrap items-center justify-between gap-3 pb-4">
        <h1 className="text-2xl">{speak`Choice lists`}</h1>
        {!adding && (
          <button type="button" className="button button-dark" onClick={() => setAdding(true)}>
            <Plus size={16} aria-hidden />
            {speak`New list`}
          </button>
        )}
      </div>
      <div className="sheet-frame">
        <section aria-label={speak`All choice lists`}>
          {adding && <NewList onCancel={() => setAdding(false)} />}
          {data.lists.length === 0 && !adding && (
            <p className="p-5">{speak`No list yet. Begin with New list and paste its choices, or open a column or question that has choices of its own and make them a list there.`}</p>
          )}
          <ul>
            {data.lists.map((list) => (
              <ListLine key={list.id} list={list} />
            ))}
          </ul>
        </section>
        <aside id="margin" className="margin-pane" aria-label={speak`About choice lists`}>
          <div className="margin-part first">
            <h2 className="margin-title">{speak`What a list is for`}</h2>
            <p className="quiet">{speak`Columns and questions that mean the same take their choices from one list. A choice that is added, reworded or retired here is so in all of them at once, also in forms that are released.`}</p>
          </div>
          <div className="margin-part">
            <h2 className="margin-title">{speak`Retired choices`}</h2>
            <p className="quiet">{speak`They stay where they stand, with their words, and are offered no more. A choice that nothing holds can be taken out.`}</p>
          </div>
        </aside>
      </div>
    </>
  );
}

const SHOWN = 6;

function ListLine({ list: { id, label, description, choices, uses } }: { list: ListsData['lists'][number] }) {
  const shown = offered(choices);
  return (
    <li className="border-b border-slate-200">
      <a
        href={`/lists/${id}`}
        className="grid grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2.5 pr-5 text-ink no-underline hover:bg-slate-50"
      >
        <ListChecks size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
        <span className="min-w-0 break-words">
          <span className="font-semibold">{label}</span>
          {description !== '' && <span className="text-[14px]"> · {description}</span>}
          <span className="quiet block">
            {shown
              .slice(0, SHOWN)
              .map((one) => one.label)
              .join(', ')}
            {shown.length > SHOWN && ' …'}
          </span>
          <span className="quiet block">{usesWords(uses)}</span>
        </span>
        <span className="tabular text-right text-[14px]">
          {shown.length} {shown.length === 1 ? speak`choice` : speak`choices`}
          {shown.length < choices.length && (
            <span className="quiet block">{speak`${choices.length - shown.length} retired`}</span>
          )}
        </span>
      </a>
    </li>
  );
}

function NewList({ onCancel }: { onCancel: () => void }) {
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const [label, setLabel] = useState('');
  const [choices, setChoices] = useState<readonly ColumnChoice[]>([]);
  const [trouble, setTrouble] = useState<readonly string[]>([]);
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    const id = newUuid();
    try {
      const made = await call('PUT', `/api/lists/${id}`, { version: 0, label, description: '', choices });
      if (made.ok) return location.assign(`/lists/${id}`);
      setTrouble(made.error.issues?.map(({ sentence }) => sentence) ?? [made.error.title]);
    } catch {
      setTrouble([speak`The server cannot be reached; the list is not made yet`]);
    }
    setBusy(false);
  };
  return (
    <form
      className="border-b border-slate-300 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <h2 className="mb-3 text-[19px]">{speak`New list`}</h2>
      <label className="mb-3 block text-[14px]">
        {speak`What it is called`}
        <input
          ref={first}
          className="box mt-1 max-w-96"
          maxLength={200}
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <div className="mb-3 max-w-xl text-[14px]" role="group" aria-label={speak`Choices`}>
        <p className="mb-1">{speak`Its choices, each with the code that is stored`}</p>
        <ChoiceEditor choices={choices} there={new Set()} onChange={setChoices} />
      </div>
      <div role="alert">
        {trouble.map((one) => (
          <p key={one} className="trouble mb-2">
            {one}
          </p>
        ))}
      </div>
      <div className="flex gap-2">
        <button
          type="submit"
          className="button button-go"
          disabled={busy || label.trim() === '' || choices.length === 0}
        >{speak`Make the list`}</button>
        <button type="button" className="button" onClick={onCancel}>{speak`Cancel`}</button>
      </div>
    </form>
  );
}
