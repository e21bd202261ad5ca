import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Rehearsed } from '../../core/form/rehearsed';
import type { SheetData } from '../../contract/sheet-from-server';
import type { Answers } from '../../core/form/answers';
import { FillLine } from '../sheet/FillLine';
import { loadHeavy } from '../sheet/heavy';
import { SheetSections } from '../sheet/SheetSections';
import { useFill } from '../sheet/use-fill';
import { WakesLater } from '../kit/Awake';
import { Database, Theater } from '../kit/icons';
import { personChoices } from '../kit/person-choices';
import { Select } from '../kit/Select';
import { Word } from '../kit/Sentence';
import { Examples } from './Examples';
import { RehearsalDay } from './RehearsalDay';
import { RehearsalFinder } from './RehearsalFinder';
import { RehearsalMargin } from './RehearsalMargin';
import { Things } from './Things';
import { WrittenRecords } from './WrittenRecords';
import type { FaceProps } from './face-props';
import { momentOf, today, type RehearsalSetting } from './rehearsal-setting';
import { beginRehearsal, rehearsed } from './begin-rehearsal';
import { usePast } from './use-example';
import { useSettled } from './use-settled';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** The draft, filled as a colleague would: what fires, who would be asked, and the rows that would be written. Nothing is kept. */
export function RehearseFace({ bench, goTo }: FaceProps) {
  if (bench.issues.length > 0)
    return (
      <div className="sheet-frame">
        <div className="py-3 pr-5 pl-[46px]">
          <Things bench={bench} issues={bench.issues} goTo={goTo} />
        </div>
      </div>
    );
  return (
    <WakesLater load={loadHeavy}>
      <Opened bench={bench} />
    </WakesLater>
  );
}

function Opened({ bench }: { bench: Workbench }) {
  const { rehearsal: setting, setRehearsal: set, design, data } = bench;
  const opened = useQuery({
    queryKey: ['rehearsal', data.id, design, setting.as, setting.of, momentOf(setting), setting.round],
    queryFn: () => beginRehearsal(bench, setting),
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  return (
    <>
      <Setting bench={bench} set={(part) => set({ ...setting, ...part })} />
      {opened.isError && (
        <p role="alert" className="rounded-b-lg bg-rust-soft px-4 py-3 font-semibold text-rust">
          {opened.error.message}
        </p>
      )}
      {opened.isPending && <div className="h-[60vh] animate-pulse rounded-b-lg bg-white" />}
      {opened.data !== undefined && <Rehearsal key={opened.dataUpdatedAt} bench={bench} data={opened.data} />}
    </>
  );
}

function Setting({ bench, set }: { bench: Workbench; set: (part: Partial<RehearsalSetting>) => void }) {
  const { rehearsal: setting, data } = bench;
  const past = usePast(bench);
  const people = personChoices(data.people);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2 rounded-t-lg border border-b-0 border-slate-200 bg-marker-soft px-4 py-2.5 pl-[46px] text-[14px]">
      <p className="flex items-center gap-2">
        <Theater size={16} aria-hidden />
        {speakIn`${(<strong>{speak`Rehearsal.`}</strong>)} Nothing is kept, nobody is told.`}
      </p>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">{speakIn`as ${(<Select label={speak`Who rehearses it`} value={setting.as} choices={people} onChange={(as) => set({ as })} />)}on ${(<RehearsalDay label={speak`Day of the rehearsal`} setting={setting} set={set} />)}at ${(
        <Word
          label={speak`Time of the rehearsal`}
          value={setting.time}
          placeholder={setting.day === today() ? 'now' : '09:00'}
          onChange={(time) => set({ time })}
        />
      )}with ${(
        <Select
          label={speak`Answers to begin with`}
          value={setting.of ?? 'none'}
          choices={[
            { value: 'none', label: speak`no answers`, short: speak`no answers` },
            ...(past.data?.submissions ?? []).map(({ id, number, sender }) => ({
              value: id,
              label: speak`answers of ${number}, ${sender}`,
              short: speak`answers of ${number}`,
            })),
          ]}
          onChange={(of) => set({ of: of === 'none' ? null : of, answers: null, round: setting.round + 1 })}
        />
      )}`}</div>
    </div>
  );
}

/** After the last key press; then the server is asked what would be written. */
const LOOK_AFTER_MS = 350;

function Rehearsal({ bench, data }: { bench: Workbench; data: SheetData }) {
  const fill = { ...useFill(data), data };
  const { sheet } = fill;
  const answers = JSON.stringify(sheet.answers());
  const { keepRehearsed } = bench;
  const settled = useSettled(answers, LOOK_AFTER_MS);
  useEffect(() => keepRehearsed(JSON.parse(settled) as Answers), [settled, keepRehearsed]);
  const setting = bench.rehearsal;
  const told = useQuery({
    queryKey: ['rehearsed', bench.data.id, bench.design, setting.as, momentOf(setting), settled],
    queryFn: () => rehearsed(bench, JSON.parse(settled) as Answers),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  return (
    <div className="sheet-frame rounded-t-none!">
      <div>
        <SheetSections
          hides
          data={data}
          sheet={sheet}
          line={(line) => <FillLine key={line.id} line={line} fill={fill} />}
        />
        <section aria-labelledby="written" className="border-t-2 border-ink py-3 pr-5 pl-[46px]">
          <h2 id="written" className="mb-1 flex items-center gap-2 font-sans text-[15px]">
            <Database size={16} aria-hidden />
            {speakIn`Rows this would write${(<span className="quiet font-normal">{whenWritten(bench, told.data)}</span>)}`}
          </h2>
          {told.isError && <p className="trouble">{told.error.message}</p>}
          {told.data !== undefined && <WrittenRecords told={told.data} />}
        </section>
      </div>
      <RehearsalMargin bench={bench} fill={fill} told={told.data ?? null}>
        <RehearsalFinder bench={bench} fill={fill} />
        <Examples bench={bench} answers={sheet.answers()} />
      </RehearsalMargin>
    </div>
  );
}

const whenWritten = ({ design: { steps } }: Workbench, told: Rehearsed | undefined): string =>
  told?.records.length === 0
    ? ''
    : steps.length === 0
      ? speak`in one transaction, as soon as it is sent`
      : speak`in one transaction, after ${steps.at(-1)?.label ?? ''}`;
