import { useState } from 'react';
import type { TellingData } from '../../contract/notices';
import type { ByMail } from '../../core/notice/notice';
import { call, troubleOf } from '../kit/call';
import { Bell, CalendarDays } from '../kit/icons';
import { speak, spoken } from '../../core/wording/speak';

const CHOICES = spoken(
  (): readonly { readonly value: ByMail; readonly label: string; readonly about: string }[] => [
    {
      value: 'at-once',
      label: speak`At once`,
      about: speak`within seconds, of what you have not looked at by then`,
    },
    {
      value: 'daily',
      label: speak`Once a day`,
      about: speak`one e-mail in the morning, if there is anything`,
    },
    { value: 'never', label: speak`Never`, about: speak`the bell in the band tells you all the same` },
  ],
);

/** How somebody is told of what concerns them: by e-mail, and in a calendar of their own. */
export function Telling({ telling, email }: { telling: TellingData; email: string }) {
  const [byMail, setByMail] = useState(telling.byMail);
  const [said, setSaid] = useState<{ words: string; wrong: boolean } | null>(null);
  const choose = async (next: ByMail) => {
    const before = byMail;
    setByMail(next);
    setSaid(null);
    const done = await call('PUT', '/api/notices/telling', { byMail: next }).catch(() => null);
    if (done?.ok) return setSaid({ words: speak`Kept.`, wrong: false });
    setByMail(before);
    setSaid({
      words: done === null ? speak`The server cannot be reached; it is as before.` : troubleOf(done.error),
      wrong: true,
    });
  };
  return (
    <section id="telling" className="mb-6 border-b border-slate-200 pb-5">
      <h2 className="mb-3 flex items-center gap-2 text-lg">
        <Bell size={18} aria-hidden />
        {speak`How you are told`}
      </h2>
      <fieldset className="mb-1">
        <legend className="mb-1 font-semibold">{speak`E-mail to ${email}`}</legend>
        {CHOICES().map(({ value, label, about }) => (
          <label key={value} className="flex items-baseline gap-2 py-1">
            <input
              type="radio"
              name="by-mail"
              value={value}
              checked={byMail === value}
              onChange={() => void choose(value)}
            />
            <span>
              {label} <span className="quiet">{about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <div role="status" className="min-h-6">
        {said !== null && (
          <p className={said.wrong ? 'trouble' : 'text-[14px] text-lichen-deep'}>{said.words}</p>
        )}
        {!telling.mails && (
          <p className="quiet">{speak`No mail server is named here yet, so no e-mail is sent to anybody.`}</p>
        )}
      </div>
      <OwnCalendar has={telling.hasCalendar} />
    </section>
  );
}

/** The address by which a calendar program shows what is due. It is a secret, so it is shown once. */
function OwnCalendar({ has }: { has: boolean }) {
  const [state, setState] = useState<{ has: boolean; address: string; trouble: boolean }>({
    has,
    address: '',
    trouble: false,
  });
  const make = async () => {
    const made = await call<{ path: string }>('POST', '/api/notices/calendar').catch(() => null);
    setState((now) =>
      made?.ok
        ? { has: true, address: location.origin + made.value.path, trouble: false }
        : { ...now, trouble: true },
    );
  };
  const end = async () => {
    const ended = await call('DELETE', '/api/notices/calendar').catch(() => null);
    setState((now) => (ended?.ok ? { has: false, address: '', trouble: false } : { ...now, trouble: true }));
  };
  return (
    <div className="mt-3">
      <h3 className="flex items-center gap-2 font-semibold">
        <CalendarDays size={16} aria-hidden />
        {speak`What is due, in your calendar`}
      </h3>
      <p className="quiet mb-2">
        {state.address !== ''
          ? speak`Put this address into your calendar program, as a calendar to subscribe to. It is shown only now; whoever knows it can read what is due for you.`
          : state.has
            ? speak`Your calendar program has an address. Make another one if it is lost; the first then opens nothing any more.`
            : speak`Your calendar program can show what you are asked to decide, each on the day it is due.`}
      </p>
      {state.address !== '' && (
        <input
          readOnly
          value={state.address}
          aria-label={speak`Address of your calendar`}
          className="box mb-2 font-mono text-[14px]"
          onFocus={(event) => event.currentTarget.select()}
        />
      )}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" onClick={() => void make()}>
          {state.has ? speak`Make another address` : speak`Make an address`}
        </button>
        {state.has && (
          <button type="button" className="button" onClick={() => void end()}>{speak`End it`}</button>
        )}
      </div>
      <div role="status">
        {state.trouble && (
          <p className="trouble">{speak`The server cannot be reached; nothing was changed.`}</p>
        )}
      </div>
    </div>
  );
}
