import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { ApprovalsData, SubmissionSummary, WaitingSummary } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { StateTag } from '../kit/StateTag';
import { Absences } from '../kit/Absences';
import { WaitingCase } from '../kit/WaitingCase';
import { narrowed, notNarrowed } from '../../core/approval/narrowed';
import { Narrow } from './Narrow';
import { isUsual, Together } from './Together';
import { useNarrowing } from './use-narrowing';
import { useTogether } from './use-together';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function ApprovalsView({ initial }: { initial: ApprovalsData }) {
  return (
    <Root>
      <Approvals initial={initial} />
    </Root>
  );
}

function Approvals({ initial }: { initial: ApprovalsData }) {
  const { data, refetch } = useQuery({
    queryKey: ['approvals'],
    queryFn: () => fetched<ApprovalsData>('/api/approvals'),
    initialData: initial,
  });
  useLive(
    [],
    useCallback(() => void refetch(), [refetch]),
  );
  const [by, narrow] = useNarrowing();
  const shown = narrowed(data.waiting, by);
  const together = useTogether(shown, refetch);
  return (
    <>
      <h1 className="pt-5 pb-4 text-2xl">{speakIn`Approvals ${(
        <span className="quiet font-sans font-normal">
          {data.waiting.length === 0
            ? speak`nothing waits for you`
            : speak`${data.total} ${data.total === 1 ? speak`waits` : speak`wait`} for you, ${data.waiting.some(({ due }) => due !== null) ? speak`soonest due` : speak`longest`} first`}
          {data.standsInFor.length > 0 && speak` · you stand in for ${data.standsInFor.join(speak` and `)}`}
        </span>
      )}`}</h1>
      <div className="sheet-frame">
        <section aria-label={speak`Waiting for you`}>
          {data.waiting.length === 0 && (
            <p className="p-5">{speak`You have decided everything. What comes next appears here by itself.`}</p>
          )}
          <Narrow waiting={data.waiting} by={by} narrow={narrow} />
          <Together together={together} most={shown.filter(isUsual).length} />
          {shown.length === 0 && data.waiting.length > 0 && (
            <p className="flex items-center gap-3 p-5">{speakIn`None of what waits is like that.${(<button type="button" className="button" onClick={() => narrow(notNarrowed)}>{speak`Show all ${data.waiting.length}`}</button>)}`}</p>
          )}
          <ul>
            {shown.map((one, i) => (
              <Waiting
                key={one.id}
                one={one}
                number={i + 1}
                chosen={together.chosen.includes(one)}
                mayChoose={shown.some(isUsual)}
                onPick={(on) => together.pick(one.id, on)}
              />
            ))}
          </ul>
          {data.total > data.waiting.length && (
            <p className="quiet p-4">{speak`These are the ${data.waiting.length} that have waited longest; ${data.total - data.waiting.length} more follow as these are decided.`}</p>
          )}
        </section>
        <aside
          id="margin"
          className="margin-pane"
          aria-label={speak`What you decided, and when you are away`}
        >
          <div className="margin-part first">
            <h2 id="decided" className="margin-title">{speak`What you decided`}</h2>
            {data.decided.length === 0 && <p className="quiet">{speak`Nothing yet.`}</p>}
            <ul className="grid gap-1">
              {data.decided.map((one, i) => (
                <li key={`${one.id}-${i}`}>
                  <a
                    href={`/submissions/${one.id}`}
                    className="flex items-center justify-between gap-2 rounded px-1 py-0.5 text-[14px] text-ink no-underline hover:bg-slate-100"
                  >
                    <span>
                      <span className="font-mono text-[13px]">{one.number}</span> {one.sender}
                    </span>
                    <StateTag state={one.state} words={decidedWords()[one.state]} forYou={false} />
                  </a>
                </li>
              ))}
            </ul>
          </div>
          <Absences
            person={data.me}
            called={speak`You`}
            away={data.away}
            people={data.people}
            deputy={data.deputy}
            done={() => void refetch()}
          />
        </aside>
      </div>
    </>
  );
}

const decidedWords = spoken((): Readonly<Record<SubmissionSummary['state'], string>> => ({
  draft: speak`Draft`,
  waiting: speak`Goes on`,
  'sent-back': speak`Sent back`,
  kept: speak`Kept`,
  declined: speak`Declined`,
  withdrawn: speak`Taken back`,
}));

interface WaitingProps {
  readonly one: WaitingSummary;
  readonly number: number;
  readonly chosen: boolean;
  /** Whether any line of the list may be approved with others, so that it has room for that. */
  readonly mayChoose: boolean;
  readonly onPick: (on: boolean) => void;
}

function Waiting({ one, number, chosen, mayChoose, onPick }: WaitingProps) {
  return (
    <li className={`flex items-center border-b border-slate-200 ${chosen ? 'bg-lichen-soft' : ''}`}>
      <span className={mayChoose ? 'w-9 shrink-0 pl-4' : 'w-4 shrink-0'}>
        {isUsual(one) && (
          <input
            type="checkbox"
            className="size-4 accent-lichen"
            aria-label={speak`Approve ${one.title} ${one.number ?? ''} with others`}
            checked={chosen}
            onChange={({ target }) => onPick(target.checked)}
          />
        )}
      </span>
      <WaitingCase one={one} number={number} />
    </li>
  );
}
