import { useState } from 'react';
import type { AbsenceData, AbsenceInput } from '../../contract/absences';
import type { PersonName } from '../../contract/sheet-from-server';
import { newUuid } from '../../core/kernel/ids';
import { showDate } from '../../core/formats/days';
import { call } from './call';
import { DayStretch, isDay } from './DayStretch';
import { Luggage } from './icons';
import { Said } from './Said';
import { personChoices } from './person-choices';
import { Select } from './Select';
import { Sentence } from './Sentence';
import { useSaying } from './use-saying';
import { speak } from '../../core/wording/speak';
import { speakIn } from './speak-in';

interface Props {
  /** Whose absences they are, and how that person is called here: "You", or a name. */
  readonly person: string;
  readonly called: string;
  readonly away: readonly AbsenceData[];
  /** Who may stand in; and who usually does. */
  readonly people: readonly PersonName[];
  readonly deputy: string | null;
  readonly done: () => void;
}

/** When somebody is away, and who decides for them meanwhile. */
export function Absences({ person, called, away, people, deputy, done }: Props) {
  const [adding, setAdding] = useState<AbsenceInput | null>(null);
  const { saying, say } = useSaying();
  const takeOut = (id: string) => say(() => call('DELETE', `/api/absences/${id}`), speak`Taken out.`, done);
  const add = (input: AbsenceInput) =>
    say(
      () => call('PUT', `/api/absences/${newUuid()}`, input),
      speak`Saved.`,
      () => {
        setAdding(null);
        done();
      },
    );
  return (
    <section className="margin-part" aria-labelledby="away">
      <h2 id="away" className="margin-title">
        <Luggage size={16} aria-hidden />
        {speak`Away`}
      </h2>
      <ul className="text-[14px]">
        {away.map((one) => (
          <li
            key={one.id}
            className="mb-1.5"
          >{speakIn`${called} ${called === 'You' ? speak`are` : speak`is`} away ${stretchWords(one)}; ${(<strong>{one.standInName}</strong>)} stands in. ${(
            <button
              type="button"
              className="button-plain"
              disabled={saying.busy}
              onClick={() => void takeOut(one.id)}
            >
              {one.now ? speak`Back already` : speak`Take it out`}
            </button>
          )}`}</li>
        ))}
      </ul>
      {adding === null ? (
        <button
          type="button"
          className="button-plain"
          onClick={() => setAdding({ person, from: '', until: '', standIn: deputy ?? '' })}
        >
          {called === 'You' ? speak`Going away?` : speak`Going away: say when`}
        </button>
      ) : (
        <Adding
          input={adding}
          people={people.filter(({ id }) => id !== person)}
          at={saying.at}
          busy={saying.busy}
          set={(part) => setAdding({ ...adding, ...part })}
          onSave={() => void add(adding)}
          onCancel={() => setAdding(null)}
        />
      )}
      <Said saying={saying} />
    </section>
  );
}

export const stretchWords = ({ from, until, now }: Pick<AbsenceData, 'from' | 'until' | 'now'>): string =>
  now
    ? speak`until ${showDate(until)}`
    : from === until
      ? speak`on ${showDate(from)}`
      : speak`from ${showDate(from)} until ${showDate(until)}`;

interface AddingProps {
  readonly input: AbsenceInput;
  readonly people: readonly PersonName[];
  /** What the server found wrong. */
  readonly at: string;
  readonly busy: boolean;
  readonly set: (part: Partial<AbsenceInput>) => void;
  readonly onSave: () => void;
  readonly onCancel: () => void;
}

function Adding({ input, people, at, busy, set, onSave, onCancel }: AddingProps) {
  const ready = isDay(input.from) && isDay(input.until) && input.standIn !== '';
  return (
    <div className="rounded bg-slate-50 p-2">
      <DayStretch
        labels={{ from: speak`First day away`, until: speak`Last day away` }}
        days={input}
        isWrong={(end) => at === end}
        set={set}
      />
      <Sentence>{speakIn`Meanwhile ${(
        <Select
          label={speak`Who stands in`}
          value={input.standIn === '' ? null : input.standIn}
          placeholder={speak`somebody`}
          choices={personChoices(people)}
          onChange={(standIn) => set({ standIn })}
        />
      )} decides what is asked.`}</Sentence>
      <div className="mt-1 flex gap-2">
        <button
          type="button"
          className="button button-go"
          disabled={busy || !ready}
          onClick={onSave}
        >{speak`Save`}</button>
        <button type="button" className="button-plain" onClick={onCancel}>{speak`Cancel`}</button>
      </div>
    </div>
  );
}
