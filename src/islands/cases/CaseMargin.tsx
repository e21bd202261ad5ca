import { useState } from 'react';
import type { WaitingCase, WaitingCases } from '../../contract/waiting-cases';
import { newUuid } from '../../core/kernel/ids';
import { call } from '../kit/call';
import { personChoices } from '../kit/person-choices';
import { Said } from '../kit/Said';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { stepMeant } from './SeveralCases';
import { useSaying } from '../kit/use-saying';
import { MoveWord } from './MoveWord';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly data: WaitingCases;
  readonly one: WaitingCase;
  readonly done: () => void;
}

/** Has somebody else decide what waits, at the same step or at another. */
export function CaseMargin({ data, one, done }: Props) {
  // Once it was moved it waits elsewhere, and what was chosen before is no step of it.
  const [chosen, setChosen] = useState<{ from: number; to: number } | null>(null);
  const usual = stepMeant(one);
  const { from, to } = chosen ?? { from: usual, to: usual };
  const [person, setPerson] = useState<string | null>(null);
  const [word, setWord] = useState('');
  const [key, setKey] = useState(newUuid);
  const { saying, say } = useSaying();
  const steps = one.steps.map((label, at) => ({ value: String(at), label }));
  // Nobody decides their own, and no administrator what they moved themselves.
  const others = data.people.filter(({ id }) => id !== one.sender.id && id !== data.me);
  const move = () =>
    say(
      () => call('POST', `/api/cases/${one.id}/move`, { key, from, to, person, word }),
      speak`Moved. They are told, and the reason stands in its path.`,
      () => {
        setChosen(null);
        setPerson(null);
        setWord('');
        setKey(newUuid());
        done();
      },
    );
  return (
    <section className="margin-part first" aria-labelledby="moving">
      <h2 id="moving" className="margin-title">
        {one.number}
      </h2>
      {one.waits.length > 1 && (
        <Sentence>{speakIn`Of what it waits at, ${(
          <Select
            label={speak`Which step is meant`}
            value={String(from)}
            choices={steps.filter(({ value }) => one.waits.some(({ step }) => String(step) === value))}
            onChange={(value) => setChosen({ from: Number(value), to: Number(value) })}
          />
        )}`}</Sentence>
      )}
      <Sentence>{speakIn`At ${(
        <Select
          label={speak`At which step it goes on`}
          value={String(to)}
          choices={steps}
          onChange={(value) => setChosen({ from, to: Number(value) })}
        />
      )} ask ${(
        <Select
          label={speak`Who is asked instead`}
          value={person}
          placeholder={speak`somebody`}
          choices={personChoices(others)}
          onChange={setPerson}
        />
      )}`}</Sentence>
      {to !== from && (
        <p className="quiet mb-1.5">
          {to > from
            ? speak`What lies between is passed over, and nobody else is asked meanwhile.`
            : speak`It is asked there once more, alone, and those after it follow again.`}
        </p>
      )}
      <MoveWord
        label={speak`Why it is moved`}
        placeholder={speak`Why, for all who see its path`}
        button={speak`Move it`}
        word={word}
        onWord={setWord}
        onMove={person === null ? null : () => void move()}
      />
      <Said saying={saying} />
    </section>
  );
}
