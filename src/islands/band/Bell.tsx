import { useEffect, useState } from 'react';
import type { NoticesData } from '../../contract/notices';
import { Age } from '../kit/Age';
import { call, fetched } from '../kit/call';
import { Bell as BellIcon } from '../kit/icons';
import { Root } from '../kit/Root';
import { useWaiting } from './waiting-now';
import { speak } from '../../core/wording/speak';

/** What happened that concerns this person, newest first, and how much of it they have not looked at. */
export default function Bell() {
  return (
    <Root>
      <Notices />
    </Root>
  );
}

type Found = NoticesData['notices'] | 'away' | null;

function Notices() {
  const { unseen, again } = useWaiting();
  const [found, setFound] = useState<Found>(null);
  useSeenHere(again);
  const look = async () => {
    const notices = await fetched<NoticesData>('/api/notices').then(
      (data) => data.notices,
      () => 'away' as const,
    );
    setFound(notices);
    const newest = notices === 'away' ? undefined : notices[0];
    if (newest === undefined) return;
    await call('POST', '/api/notices/seen', { upTo: newest.id }).catch(() => null);
    again();
  };
  return (
    <>
      <button
        type="button"
        popoverTarget="notices"
        className="relative rounded p-1.5 hover:bg-slate-800"
        aria-label={unseen === 0 ? speak`Notices` : speak`Notices, ${unseen} new`}
      >
        <BellIcon size={18} aria-hidden />
        {unseen > 0 && (
          <span
            aria-hidden
            className="absolute -top-0.5 -right-1 rounded-full bg-marker px-1 text-[12px] leading-4 font-bold text-ink"
          >
            {unseen > 99 ? '99+' : unseen}
          </span>
        )}
      </button>
      <div
        id="notices"
        popover="auto"
        role="dialog"
        aria-label={speak`Notices`}
        className="notices"
        onToggle={(event) => {
          if (event.newState === 'open') void look();
          else setFound(null);
        }}
      >
        <div className="flex items-baseline justify-between gap-3 border-b border-slate-200 px-4 py-2">
          <h2 className="font-serif text-[17px] font-semibold">{speak`Notices`}</h2>
          <a href="/account#telling" className="text-[14px]">{speak`How you are told`}</a>
        </div>
        <List found={found} />
      </div>
    </>
  );
}

function List({ found }: { found: Found }) {
  if (found === null) return <p className="quiet px-4 py-3">{speak`One moment…`}</p>;
  if (found === 'away')
    return (
      <p className="trouble px-4 py-3">{speak`The server cannot be reached; try it again in a moment.`}</p>
    );
  if (found.length === 0)
    return (
      <p className="quiet px-4 py-3">{speak`Nothing yet. Here you are told what you are asked to approve, and what became of what you sent.`}</p>
    );
  return (
    <ul>
      {found.map(({ id, submission, sentence, word, at, seen }) => (
        <li key={id} className="border-b border-slate-200 last:border-0">
          <a
            href={`/submissions/${submission}`}
            className={`block px-4 py-2.5 text-ink no-underline hover:bg-slate-50 focus-visible:-outline-offset-2 ${seen ? '' : 'border-l-4 border-marker pl-3'}`}
          >
            <span className={seen ? '' : 'font-semibold'}>
              {!seen && <span className="sr-only">{speak`New:`} </span>}
              <bdi>{sentence}</bdi>
            </span>
            {word !== '' && (
              <span dir="auto" className="mt-0.5 line-clamp-2 block text-[14px] text-plum">
                “{word}”
              </span>
            )}
            <span className="quiet block">
              <Age iso={at} />
            </span>
          </a>
        </li>
      ))}
    </ul>
  );
}

const SHEET = /^\/submissions\/([0-9a-f-]{36})$/;

/** Whoever opens a sheet has looked at what they were told of it. */
function useSeenHere(again: () => void) {
  useEffect(() => {
    const submission = SHEET.exec(location.pathname)?.[1];
    if (submission !== undefined)
      void call('POST', '/api/notices/seen', { submission }).then(again, () => undefined);
  }, [again]);
}
