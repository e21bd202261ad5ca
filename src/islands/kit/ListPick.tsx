import { ListChecks } from './icons';
import { useState, type ReactNode } from 'react';
import { offered, type ChoiceList } from '../../core/table/choice-list';
import type { ColumnChoice, ListName } from '../../core/table/model';
import { call } from './call';
import { newUuid } from '../../core/kernel/ids';
import { Select } from './Select';
import { Sentence } from './Sentence';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

const OWN = 'own';
const SHOWN = 6;

interface Props {
  readonly lists: readonly ChoiceList[];
  readonly list: ListName | null;
  readonly choices: readonly ColumnChoice[];
  /** What a list that is made of these choices is called. */
  readonly name: string;
  readonly onChange: (part: { list: ListName | null; choices: readonly ColumnChoice[] }) => void;
  /** The editor of choices of its own. */
  readonly children: ReactNode;
}

/** Whether choices are its own or those of a list, and the way from the one to the other. */
export function ListPick({ lists, list, choices, name, onChange, children }: Props) {
  const [made, setMade] = useState<readonly ChoiceList[]>([]);
  const all = [...lists, ...made.filter(({ id }) => !lists.some((one) => one.id === id))];
  const pick = (id: string) => {
    const picked = all.find((one) => one.id === id);
    // Its own choices from now on are those it had of the list.
    onChange(
      picked === undefined
        ? { list: null, choices: offered(choices) }
        : { list: { id, label: picked.label }, choices: picked.choices },
    );
  };
  const make = (one: ChoiceList) => {
    setMade([...made, one]);
    onChange({ list: { id: one.id, label: one.label }, choices: one.choices });
  };
  const shown = offered(choices);
  return (
    <>
      {(all.length > 0 || list !== null) && (
        <Sentence>{speakIn`with ${(
          <Select
            label={speak`Where its choices come from`}
            value={list?.id ?? OWN}
            choices={[
              { value: OWN, label: speak`its own choices` },
              ...all.map(({ id, label }) => ({ value: id, label: speak`the list ${label}` })),
            ]}
            onChange={pick}
          />
        )}`}</Sentence>
      )}
      {list === null ? (
        children
      ) : (
        <p className="quiet mb-2">
          {shown
            .slice(0, SHOWN)
            .map(({ label }) => label)
            .join(', ')}
          {shown.length > SHOWN && speak` and ${shown.length - SHOWN} more`}.{' '}
          <a href={`/lists/${list.id}`} className="text-lichen-deep">{speak`Change the list`}</a>
        </p>
      )}
      {list === null && choices.length > 0 && <MakeList name={name} choices={choices} onMade={make} />}
    </>
  );
}

/** Choices that are here already, as a list for other columns and questions too. */
function MakeList({
  name,
  choices,
  onMade,
}: {
  name: string;
  choices: readonly ColumnChoice[];
  onMade: (list: ChoiceList) => void;
}) {
  const [trouble, setTrouble] = useState('');
  const make = async () => {
    const list = { id: newUuid(), label: name.trim(), description: '', choices, version: 0 };
    const { id, ...sent } = list;
    try {
      const kept = await call<{ version: number }>('PUT', `/api/lists/${id}`, sent);
      if (kept.ok) onMade({ ...list, version: kept.value.version });
      else setTrouble(kept.error.issues?.[0]?.sentence ?? kept.error.title);
    } catch {
      setTrouble(speak`The server cannot be reached; no list was made`);
    }
  };
  return (
    <div className="mb-2">
      <button type="button" className="button-plain text-[13px]" onClick={() => void make()}>
        <ListChecks size={14} aria-hidden />
        {speak`Make them a list that others can use`}
      </button>
      <p role="alert" className={trouble === '' ? 'sr-only' : 'trouble'}>
        {trouble}
      </p>
    </div>
  );
}
