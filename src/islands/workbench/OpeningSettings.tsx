import { useState } from 'react';
import type { Opening } from '../../core/form/opening';
import { call } from '../kit/call';
import { DateInput } from '../kit/DateInput';
import { Select } from '../kit/Select';
import { NumberWord, Sentence, Word } from '../kit/Sentence';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** When colleagues may fill it. It holds at once, without a release. */
export function OpeningSettings({ bench }: { bench: Workbench }) {
  const [opening, setOpening] = useState(bench.data.opening);
  const [said, setSaid] = useState('');
  const set = async (part: Partial<Opening>) => {
    const next = { ...opening, ...part };
    setOpening(next);
    const result = await call('PUT', `/api/forms/${bench.data.id}/opening`, next).catch(() => null);
    setSaid(
      result === null
        ? speak`The server cannot be reached; this is not saved.`
        : result.ok
          ? speak`Saved; it holds from now on.`
          : (result.error.issues?.[0]?.sentence ?? result.error.title),
    );
  };
  const how = opening.closed
    ? 'closed'
    : opening.from !== null || opening.until !== null
      ? 'between'
      : 'open';
  return (
    <section className="margin-part" aria-labelledby="opening">
      <h2 id="opening" className="margin-title">{speak`When it may be filled`}</h2>
      <Sentence>
        <Select
          label={speak`When it may be filled`}
          value={how}
          choices={[
            { value: 'open', label: speak`Always` },
            { value: 'between', label: speak`Between two days` },
            { value: 'closed', label: speak`Not now` },
          ]}
          onChange={(value) =>
            void set(
              value === 'between'
                ? { closed: false, from: opening.from ?? `${today()}T00:00` }
                : { closed: value === 'closed', from: null, until: null },
            )
          }
        />
      </Sentence>
      {how === 'between' && (
        <>
          <Moment
            words={speak`from`}
            label={speak`It opens`}
            value={opening.from}
            set={(from) => void set({ from })}
          />
          <Moment
            words={speak`until`}
            label={speak`It closes`}
            value={opening.until}
            set={(until) => void set({ until })}
          />
        </>
      )}
      <Sentence>
        <Select
          label={speak`How often it may be filled`}
          value={opening.most === null ? 'any' : 'most'}
          choices={[
            { value: 'any', label: speak`As often as people like` },
            { value: 'most', label: speak`At most` },
          ]}
          onChange={(value) => void set({ most: value === 'most' ? 100 : null })}
        />
        {opening.most !== null && (
          <>{speakIn`${(
            <NumberWord
              label={speak`Most submissions`}
              value={opening.most}
              least={1}
              onChange={(most) => void set({ most })}
            />
          )} times in all`}</>
        )}
      </Sentence>
      <p role="status" className="quiet">
        {said}
      </p>
    </section>
  );
}

const today = (): string => new Date().toLocaleDateString('sv-SE');

interface MomentProps {
  readonly words: string;
  readonly label: string;
  readonly value: string | null;
  readonly set: (value: string | null) => void;
}

function Moment({ words, label, value, set }: MomentProps) {
  const [time, setTime] = useState<string | null>(null);
  const [day = '', clock = '00:00'] = (value ?? '').split('T');
  return (
    <Sentence>
      {words}{' '}
      <span className="w-36">
        <DateInput
          label={speak`${label} on`}
          value={day === '' ? null : day}
          onChange={(next) => {
            if (next === null || /^\d{4}-\d\d-\d\d$/.test(next))
              set(next === null ? null : `${next}T${clock}`);
          }}
        />
      </span>
      {day !== '' && (
        <span
          onBlur={() => {
            if (time !== null && /^([01]\d|2[0-3]):[0-5]\d$/.test(time)) set(`${day}T${time}`);
            setTime(null);
          }}
        >{speakIn`at ${(<Word label={speak`${label} at`} value={time ?? clock} onChange={setTime} />)}`}</span>
      )}
    </Sentence>
  );
}
