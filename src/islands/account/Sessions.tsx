import { useState } from 'react';
import type { SessionData } from '../../contract/sign-in';
import { call } from '../kit/call';
import { MonitorSmartphone } from '../kit/icons';
import { when } from '../kit/when';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Where somebody is signed in, and the end of that where it is not here. */
export function Sessions({ sessions }: { readonly sessions: readonly SessionData[] }) {
  const [there, setThere] = useState(sessions);
  const [trouble, setTrouble] = useState('');
  const others = there.filter(({ isThis }) => !isThis);
  const end = async (id: string | null) => {
    const done = await call('DELETE', '/api/sessions', { id }).catch(() => null);
    if (done?.ok === true) {
      setTrouble('');
      setThere(there.filter((one) => one.isThis || (id !== null && one.id !== id)));
    } else
      setTrouble(done === null ? speak`The server cannot be reached; nothing was changed` : done.error.title);
  };
  return (
    <section aria-labelledby="sessions" className="mb-8">
      <h2 id="sessions" className="mb-3 flex items-center gap-2 text-lg">
        <MonitorSmartphone size={18} aria-hidden />
        {speak`Where you are signed in`}
      </h2>
      <ul className="grid max-w-xl gap-2">
        {there.map(({ id, browser, address, since, isThis }) => (
          <li
            key={id}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-slate-200 pb-2"
          >
            <span>
              <strong>{browser}</strong>
              {isThis && ', here'}
              <span className="quiet block">{speakIn`since ${when(since)}${address !== '' && speak`, from ${address}`}`}</span>
            </span>
            {!isThis && (
              <button
                type="button"
                className="button-plain"
                aria-label={speak`Sign out ${browser}, since ${when(since)}`}
                onClick={() => void end(id)}
              >{speak`Sign out there`}</button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <button
          type="button"
          className="button mt-3"
          onClick={() => void end(null)}
        >{speak`Sign out everywhere else`}</button>
      )}
      <div role="alert">{trouble !== '' && <p className="trouble">{trouble}</p>}</div>
    </section>
  );
}
