import { useState } from 'react';
import type { WaitingCase, WaitingCases } from '../../contract/waiting-cases';
import { newUuid } from '../../core/kernel/ids';
import { counted } from '../../core/wording/numbers';
import { call } from '../kit/call';
import { personChoices } from '../kit/person-choices';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { MoveWord } from './MoveWord';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly data: WaitingCases;
  readonly cases: readonly WaitingCase[];
  /** With what became of them, a line each. */
  readonly done: (moved: readonly string[], said: readonly string[]) => void;
}

/** Which step of one is meant: where it stays, or else the first it waits at. */
export const stepMeant = ({ waits }: WaitingCase): number =>
  (waits.find(({ stuck, trouble }) => stuck || trouble !== null) ?? waits[0])?.step ?? 0;

/** Has one person decide several, each at the step it waits at and each by itself: one that cannot be moved keeps none of the others. */
export function SeveralCases({ data, cases, done }: Props) {
  const [person, setPerson] = useState<string | null>(null);
  const [word, setWord] = useState('');
  const [moving, setMoving] = useState(false);
  const others = data.people.filter(({ id }) => id !== data.me);
  const move = async () => {
    setMoving(true);
    const moved: string[] = [];
    const refused: string[] = [];
    for (const one of cases) {
      const from = stepMeant(one);
      const result = await call<unknown>('POST', `/api/cases/${one.id}/move`, {
        key: newUuid(),
        from,
        to: from,
        person,
        word,
      }).catch(() => null);
      if (result === null) {
        refused.push(speak`The server cannot be reached; the others were left as they are`);
        break;
      }
      if (result.ok) moved.push(one.id);
      else refused.push(`${one.number}: ${result.error.issues?.[0]?.sentence ?? result.error.title}`);
    }
    setMoving(false);
    done(moved, [
      speak`${counted(moved.length, 'case')} moved. They are told, and the reason stands in each path.`,
      ...refused,
    ]);
  };
  return (
    <section className="margin-part first" aria-labelledby="moving">
      <h2 id="moving" className="margin-title">
        {counted(cases.length, 'case')}
      </h2>
      <Sentence>{speakIn`At the step each waits at, ask ${(
        <Select
          label={speak`Who is asked instead`}
          value={person}
          placeholder={speak`somebody`}
          choices={personChoices(others)}
          onChange={setPerson}
        />
      )}`}</Sentence>
      <MoveWord
        label={speak`Why they are moved`}
        placeholder={speak`Why, for all who see their paths`}
        button={speak`Move them`}
        word={word}
        onWord={setWord}
        onMove={person === null || moving ? null : () => void move()}
      />
    </section>
  );
}
