import { useState } from 'react';
import type { GroupInput, PeopleData } from '../../contract/people';
import { call } from '../kit/call';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { peopleIn } from './people-words';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly data: PeopleData;
  /** Of none yet, for a new group. */
  readonly id: string;
  readonly done: (gone: boolean) => void;
}

/** A group in hand: what it is called and who is in it. */
export function GroupMargin({ data, id, done }: Props) {
  const group = data.groups.find((one) => one.id === id);
  const [input, setInput] = useState<GroupInput>(() => ({
    label: group?.label ?? '',
    people: [...(group?.people ?? [])],
    groups: [...(group?.groups ?? [])],
  }));
  const [sure, setSure] = useState(false);
  const { saying, say } = useSaying();
  const here = data.people.filter((one) => !one.ended || input.people.includes(one.id));
  const others = data.groups.filter((one) => one.id !== id);
  const all = peopleIn([...others, { ...input, id }], id);
  return (
    <form
      className="margin-part first"
      onSubmit={(event) => {
        event.preventDefault();
        void say(
          () => call('PUT', `/api/groups/${id}`, input),
          speak`Saved.`,
          () => done(false),
        );
      }}
    >
      <h2 className="margin-title">{group === undefined ? speak`A new group` : group.label}</h2>
      <label className="mb-2 block text-[14px] font-semibold">
        {speak`Name`}
        <input
          value={input.label}
          maxLength={200}
          className={`box mt-0.5 font-normal ${saying.at === 'label' ? 'wrong' : ''}`}
          onChange={(event) => setInput({ ...input, label: event.target.value })}
        />
      </label>
      <Sentence>
        {speakIn`In it are ${(
          <Several
            label={speak`People in the group`}
            values={input.people}
            none={speak`nobody by name`}
            choices={here.map((one) => ({
              value: one.id,
              label: one.place === '' ? one.name : `${one.name}, ${one.place}`,
              short: one.name,
            }))}
            onChange={(people) => setInput({ ...input, people })}
          />
        )}`}
        {others.length > 0 && (
          <>
            {' '}
            {speakIn`and everybody in ${(
              <Several
                label={speak`Groups in the group`}
                values={input.groups}
                none={speak`no other group`}
                choices={others.map((one) => ({ value: one.id, label: one.label }))}
                onChange={(groups) => setInput({ ...input, groups })}
              />
            )}`}
          </>
        )}
      </Sentence>
      <p className="quiet mb-2">{speak`${all.size === 1 ? '1 person' : speak`${all.size} people`}, each counted once.`}</p>
      <span className="flex flex-wrap gap-2">
        <button type="submit" className="button button-go" disabled={saying.busy}>
          {group === undefined ? speak`Make the group` : speak`Save`}
        </button>
        {group !== undefined && (
          <button
            type="button"
            className="button button-stop"
            onBlur={() => setSure(false)}
            onClick={() =>
              sure
                ? void say(
                    () => call('DELETE', `/api/groups/${id}`),
                    '',
                    () => done(true),
                  )
                : setSure(true)
            }
          >
            {sure ? speak`Take it away, with all it may do` : speak`Take the group away`}
          </button>
        )}
      </span>
      <Said saying={saying} />
    </form>
  );
}
