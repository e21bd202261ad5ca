import type { SubmissionSummary } from '../../contract/answers-from-server';
import { DueWords } from '../kit/DueWords';
import { SaidLast } from '../kit/SaidLast';
import { StateTag } from '../kit/StateTag';
import { when } from '../kit/when';
import { speak, spoken } from '../../core/wording/speak';

/** The one thing to do about what is one's own to go on with. */
const todo = spoken((): Readonly<Partial<Record<SubmissionSummary['state'], string>>> => ({
  'sent-back': speak`Answer`,
  draft: speak`Go on`,
}));

/** Something of one's own: how it stands, and what is to be done about it. */
export function MineLine({ one }: { one: SubmissionSummary }) {
  const words = one.state === 'waiting' && one.step !== null ? speak`Waiting · ${one.step}` : undefined;
  const next = todo()[one.state];
  return (
    <li className="border-t border-slate-200">
      <a
        href={`/submissions/${one.id}`}
        className={`grid grid-cols-[minmax(0,1fr)_auto] items-center gap-3 px-5 py-2 text-ink no-underline hover:bg-slate-50 ${next === undefined ? 'max-sm:grid-cols-1 max-sm:gap-1' : ''} ${one.state === 'sent-back' ? 'bg-marker-soft' : ''}`}
      >
        <span className="min-w-0">
          <span className="flex flex-wrap items-center gap-x-2 gap-y-0.5">
            <span className="font-semibold">{one.title}</span>
            {one.number !== null && <span className="font-mono text-[14px]">{one.number}</span>}
            {one.changes && <span className="tag bg-slate-200">{speak`change`}</span>}
            {next !== undefined && <StateTag state={one.state} />}
          </span>
          <span className="block truncate text-[13px] text-slate-600">
            {one.gist || speak`nothing typed yet`} · {when(one.at)}
          </span>
          <SaidLast said={one.said} />
        </span>
        {next === undefined ? (
          <span className="text-right max-sm:text-left">
            <StateTag state={one.state} {...(words && { words })} />
            <span className="mt-0.5 block text-[13px]">
              <DueWords due={one.due} />
            </span>
          </span>
        ) : (
          <span className="button">{next}</span>
        )}
      </a>
    </li>
  );
}
