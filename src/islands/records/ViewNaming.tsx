import { personChoices } from '../kit/person-choices';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { TableAtWork } from '../../contract/answers-from-server';
import type { PersonName } from '../../contract/sheet-from-server';
import type { Picked } from '../../core/check/pick-text';
import type { OfferedView, View } from '../../core/record/view';
import { fetched } from '../kit/call';
import { Several } from '../kit/Several';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly work: TableAtWork;
  readonly picked: Picked | null;
  /** One that is there, to be changed. */
  readonly view?: OfferedView;
  readonly onKeep: (view: Omit<View, 'design'>, asks: readonly string[]) => void;
}

/** The name of a view, whom it is for, and what it asks for first. */
export function ViewNaming({ work, picked, view, onKeep }: Props) {
  const [label, setLabel] = useState(view?.label ?? '');
  const [everybody, setEverybody] = useState(view?.for.everybody ?? false);
  const [groups, setGroups] = useState(view?.for.groups ?? []);
  const [people, setPeople] = useState(view?.for.people ?? []);
  const [asks, setAsks] = useState(view?.design.asks ?? []);
  const [isFirst, setFirst] = useState(view?.isFirst ?? false);
  const { data } = useQuery({
    queryKey: ['viewers', work.table.key],
    queryFn: () => fetched<{ people: PersonName[] }>(`/api/tables/${work.table.key}/views`),
  });
  const colleagues = personChoices(data?.people ?? []);
  const toggled = (list: readonly string[], one: string): readonly string[] =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
  const conditions = [...new Set((picked?.picks ?? []).map(({ left }) => left))];
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (label.trim() === '') return;
        onKeep({ label: label.trim(), for: { everybody, groups, people }, isFirst }, asks);
      }}
    >
      <label className="grid gap-0.5">
        {speak`Its name`}
        <input
          className="box"
          maxLength={200}
          value={label}
          // The question was just opened by pressing a button.
          // oxlint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <fieldset className="grid gap-0.5">
        <legend className="text-slate-600">{speak`For whom, besides you`}</legend>
        <Tick
          words={speak`everybody who sees the table`}
          isOn={everybody}
          onTick={() => setEverybody(!everybody)}
        />
        {work.groups.map(({ id, label: words }) => (
          <Tick
            key={id}
            words={words}
            isOn={groups.includes(id)}
            onTick={() => setGroups(toggled(groups, id))}
          />
        ))}
        {colleagues.length > 0 && (
          <p>{speakIn`and ${(
            <Several
              label={speak`Colleagues`}
              values={people}
              none={speak`nobody by name`}
              choices={colleagues}
              onChange={setPeople}
            />
          )}`}</p>
        )}
      </fieldset>
      {conditions.length > 0 && (
        <fieldset className="grid gap-0.5">
          <legend className="text-slate-600">{speak`Ask for these before anything is shown`}</legend>
          {conditions.map((text) => (
            <Tick
              key={text}
              words={work.filterables.find((one) => one.text === text)?.label ?? text}
              isOn={asks.includes(text)}
              onTick={() => setAsks(toggled(asks, text))}
            />
          ))}
        </fieldset>
      )}
      {work.mayDesign && (
        <Tick words={speak`show it first to everybody`} isOn={isFirst} onTick={() => setFirst(!isFirst)} />
      )}
      <p>
        <button type="submit" className="button button-dark" disabled={label.trim() === ''}>
          {view === undefined ? speak`Keep this view` : speak`Keep it so`}
        </button>
      </p>
    </form>
  );
}

function Tick({
  words,
  isOn,
  onTick,
}: {
  readonly words: string;
  readonly isOn: boolean;
  readonly onTick: () => void;
}) {
  return (
    <label className="flex cursor-pointer items-center gap-2">
      <input type="checkbox" className="size-4 accent-lichen" checked={isOn} onChange={onTick} />
      <span className="min-w-0 break-words">{words}</span>
    </label>
  );
}
