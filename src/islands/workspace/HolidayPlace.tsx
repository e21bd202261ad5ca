import type { HolidaysData, Place } from '../../contract/workspace';
import { call } from '../kit/call';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { useSaying } from '../kit/use-saying';
import { Said } from '../kit/Said';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly of: string;
  readonly countries: readonly Place[];
  readonly parts: readonly Place[];
  readonly onChange: (of: string) => void;
  readonly onFound: (holidays: HolidaysData) => void;
}

/** Whose public holidays are kept: a country's, and of a part of it where that has some of its own. */
export function HolidayPlace({ of, countries, parts, onChange, onFound }: Props) {
  const { saying, say } = useSaying();
  const choose = (next: string) => {
    onChange(next);
    void say(
      async () => {
        const found = await call<HolidaysData>('GET', `/api/workspace/holidays?of=${next}`);
        if (found.ok) onFound(found.value);
        return found;
      },
      '',
      () => undefined,
    );
  };
  const [country = ''] = of.split('-');
  const whole = countries.find(({ code }) => code === country)?.label ?? '';
  return (
    <>
      <Sentence>
        {speakIn`Nobody works on those of ${(
          <Select
            label={speak`Country whose holidays are kept`}
            value={country}
            choices={[
              { value: '', label: speak`no country` },
              ...countries.map(({ code, label }) => ({ value: code, label })),
            ]}
            onChange={choose}
          />
        )}`}
        {parts.length > 0 && (
          <>
            {' '}
            {speakIn`in ${(
              <Select
                label={speak`Part of it whose holidays are kept`}
                value={of}
                choices={[
                  { value: country, label: speak`all of ${whole}` },
                  ...parts.map(({ code, label }) => ({ value: code, label })),
                ]}
                onChange={choose}
              />
            )}`}
          </>
        )}
      </Sentence>
      <Said saying={saying} />
    </>
  );
}
