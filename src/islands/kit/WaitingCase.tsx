import type { WaitingSummary } from '../../contract/answers-from-server';
import type { Unusual } from '../../core/approval/unusual';
import { DueWords } from './DueWords';
import { SaidLast } from './SaidLast';
import { when } from './when';
import { speak, spoken } from '../../core/wording/speak';

const unusualWords = spoken((): Readonly<Record<Exclude<Unusual, 'unread'>, string>> => ({
  reasons: speak`with reasons`,
  figures: speak`unusual figures`,
  'sent-again': speak`sent again`,
  change: speak`change`,
  said: speak`asked about`,
}));

/** Something that waits to be decided by whoever looks: what it is, what is unusual in it, and when it is due. */
export function WaitingCase({ one, number }: { readonly one: WaitingSummary; readonly number: number }) {
  const { standsInFor } = one;
  return (
    <a
      href={`/submissions/${one.id}`}
      className="grid min-w-0 flex-1 grid-cols-[30px_minmax(0,1fr)_auto] items-center gap-2 py-2.5 pr-5 text-ink no-underline hover:bg-slate-50 max-sm:grid-cols-[30px_minmax(0,1fr)] max-sm:gap-y-0.5"
    >
      <span className="gutter" aria-hidden>
        {number}
      </span>
      <span className="min-w-0">
        <span className="font-semibold">{one.title}</span>{' '}
        <span className="font-mono text-[14px]">{one.number}</span>
        {one.unusual
          .filter((why) => why !== 'unread')
          .map((why) => (
            <span
              key={why}
              className={`tag ml-2 ${why === 'change' ? 'bg-slate-200' : 'bg-ochre-soft text-ochre'}`}
            >
              {unusualWords()[why]}
            </span>
          ))}
        {standsInFor !== null && <span className="tag ml-2 bg-slate-200">{speak`for ${standsInFor}`}</span>}
        <span className="block truncate text-[14px]">
          {one.sender}, {one.senderPlace} · {one.gist}
        </span>
        <SaidLast said={one.said} />
      </span>
      <span className="text-right text-[13px] text-slate-600 max-sm:col-start-2 max-sm:text-left">
        {one.step}
        <DueWords due={one.due} />
        <span className="block">{speak`since ${when(one.at)}`}</span>
      </span>
    </a>
  );
}
