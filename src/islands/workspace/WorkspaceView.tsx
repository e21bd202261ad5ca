import { useState, type ReactNode } from 'react';
import type { ProviderData } from '../../contract/sign-in';
import type { WorkspaceData, WorkspaceInput } from '../../contract/workspace';
import { readTime } from '../../core/import/formats/date';
import { limits } from '../../core/limits';
import { call } from '../kit/call';
import { FormatsWords } from '../kit/FormatsWords';
import { Said } from '../kit/Said';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { useSaying, type Saying } from '../kit/use-saying';
import { Closed } from './Closed';
import { DaysOff } from './DaysOff';
import { HolidayPlace } from './HolidayPlace';
import { Logo } from './Logo';
import { Provider } from './Provider';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const WEEK = spoken(() => [
  speak`Monday`,
  speak`Tuesday`,
  speak`Wednesday`,
  speak`Thursday`,
  speak`Friday`,
  speak`Saturday`,
  speak`Sunday`,
]);

interface Props {
  readonly data: WorkspaceData;
  readonly provider: ProviderData;
  /** The address of the logo; null for none. */
  readonly logo: string | null;
}

/** What holds for the whole workspace. Nothing is changed before it is saved, but for the logo. */
export default function WorkspaceView({ data, provider, logo }: Props) {
  const [input, setInput] = useState<WorkspaceInput>(data.settings);
  const [holidays, setHolidays] = useState(data.holidays);
  const { saying, say } = useSaying();
  const change = (part: Partial<WorkspaceInput>) => setInput((before) => ({ ...before, ...part }));
  const save = () =>
    say(
      () => call('PUT', '/api/workspace', input),
      speak`Saved. It holds from now on, for what is under way too.`,
      () => change({ version: input.version + 1 }),
    );
  return (
    <>
      <h1 className="pt-4 pb-4 text-2xl">{speak`Workspace`}</h1>
      <div className="sheet-frame">
        <div>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void save();
            }}
          >
            <Line n={1} label={speak`Name`} at="name" saying={saying}>
              <input
                aria-label={speak`Name`}
                className="box max-w-100"
                maxLength={limits.label}
                placeholder={speak`Tidy Slate`}
                value={input.name}
                onChange={(event) => change({ name: event.target.value })}
              />
            </Line>
            <Line n={2} label={speak`Where it is`} at="zone" saying={saying}>
              <Sentence>{speakIn`Days and times are those of ${(
                <Select
                  label={speak`Time zone`}
                  value={input.zone}
                  choices={data.zones.map((value) => ({ value, label: value.replaceAll('_', ' ') }))}
                  onChange={(zone) => change({ zone })}
                />
              )}`}</Sentence>
            </Line>
            <Line n={3} label={speak`Money`} at="currency" saying={saying}>
              <Sentence>{speakIn`A new question about money is in ${(
                <Word
                  label={speak`Currency, in three letters`}
                  value={input.currency}
                  placeholder={speak`no currency yet`}
                  list="currencies"
                  onChange={(text) => change({ currency: text.trim().toUpperCase() })}
                />
              )}${(
                <datalist id="currencies">
                  {data.currencies.map((one) => (
                    <option key={one} value={one} />
                  ))}
                </datalist>
              )}`}</Sentence>
            </Line>
            <Line n={4} label={speak`How it is written`} at="formats" saying={saying}>
              <FormatsWords
                value={input.formats}
                house={null}
                onChange={(next) => change({ formats: { ...input.formats, ...next } })}
              />
              <p className="quiet">{speak`Anybody may have it otherwise for themselves, in their account.`}</p>
            </Line>
            <Line
              n={5}
              label={speak`Working time`}
              at={input.workdays.length === 0 ? 'workdays' : 'closes'}
              saying={saying}
            >
              <WorkingTime input={input} change={change} />
            </Line>
            <Line n={6} label={speak`Public holidays`} at="holidaysOf" saying={saying}>
              <HolidayPlace
                of={input.holidaysOf}
                countries={data.countries}
                parts={holidays.parts}
                onChange={(holidaysOf) => change({ holidaysOf })}
                onFound={setHolidays}
              />
            </Line>
            <Line n={7} label={speak`Closed besides`} at="closed" saying={saying}>
              <Closed closed={input.closed} today={data.today} change={(closed) => change({ closed })} />
            </Line>
            <div className="py-4 pr-5 pl-[46px] max-sm:pl-4">
              <button
                type="submit"
                className="button button-go"
                disabled={saying.busy}
              >{speak`Save for everybody`}</button>
              <Said saying={saying} />
            </div>
          </form>
          <Logo logo={logo} />
          <Provider data={provider} />
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`What follows from it`}>
          <DaysOff days={holidays.days} closed={input.closed} workdays={input.workdays} today={data.today} />
        </aside>
      </div>
    </>
  );
}

interface LineProps {
  readonly n: number;
  readonly label: string;
  /** The field that is wrong, if it is this one. */
  readonly at: string;
  readonly saying: Saying;
  readonly children: ReactNode;
}

function Line({ n, label, at, saying, children }: LineProps) {
  const wrong = saying.wrong && saying.at === at;
  return (
    <section
      aria-label={label}
      className={`grid grid-cols-[46px_minmax(0,1fr)] border-b border-slate-200 py-3 pr-5 ${wrong ? 'bg-rust-soft' : ''}`}
    >
      <span className="gutter pr-3 text-right">{n}</span>
      <div className="min-w-0">
        <h2 className="mb-1 font-sans text-[15px] font-semibold">{label}</h2>
        {children}
        {wrong && <p className="trouble">{saying.words}</p>}
      </div>
    </section>
  );
}

interface TimeProps {
  readonly input: WorkspaceInput;
  readonly change: (part: Partial<WorkspaceInput>) => void;
}

function WorkingTime({ input: { workdays, opens, closes }, change }: TimeProps) {
  const toggle = (day: number) =>
    change({
      workdays: workdays.includes(day) ? workdays.filter((one) => one !== day) : [...workdays, day].sort(),
    });
  return (
    <>
      <fieldset className="mb-2 flex flex-wrap gap-1.5">
        <legend className="sr-only">{speak`Days people work on`}</legend>
        {WEEK().map((name, i) => (
          <label
            key={name}
            className={`flex cursor-pointer items-center gap-1.5 rounded border px-2 py-1 text-[14px] ${workdays.includes(i + 1) ? 'border-lichen bg-lichen-soft font-semibold' : 'border-slate-300'}`}
          >
            <input type="checkbox" checked={workdays.includes(i + 1)} onChange={() => toggle(i + 1)} />
            {name}
          </label>
        ))}
      </fieldset>
      <Sentence>{speakIn`from ${(<TimeWord label={speak`When work begins`} value={opens} onChange={(next) => change({ opens: next })} />)} until ${(<TimeWord label={speak`When work ends`} value={closes} onChange={(next) => change({ closes: next })} />)}`}</Sentence>
      <p className="quiet">{speak`What is due within working days or hours, in steps and in expressions, counts these.`}</p>
    </>
  );
}

interface TimeWordProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** A time of day, typed in any usual way; what is none is put back when left. */
const TimeWord = ({ label, value, onChange }: TimeWordProps) => (
  <input
    key={value}
    aria-label={label}
    defaultValue={value}
    className="tabular field-sizing-content min-w-12 rounded border border-slate-400 bg-white px-1.5 text-center text-[14px] font-semibold"
    onBlur={(event) => {
      const read = readTime(event.target.value);
      if (read !== null) onChange(read.slice(0, 5));
      event.target.value = read?.slice(0, 5) ?? value;
    }}
  />
);
