import { useEffect, useRef, useState } from 'react';
import type { LinkData } from '../../contract/outside';
import { newUuid } from '../../core/kernel/ids';
import { digits } from '../../core/wording/numbers';
import { speak, spoken } from '../../core/wording/speak';
import { CopyButton } from '../kit/CopyButton';
import { DateInput } from '../kit/DateInput';
import { X } from '../kit/icons';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { speakIn } from '../kit/speak-in';
import { when } from '../kit/when';
import type { AskOutside } from './ask-outside';

const stateWords = spoken((): Readonly<Record<LinkData['state'], string>> => ({
  open: '',
  stopped: speak`Stopped`,
  over: speak`Its time is over`,
  full: speak`As many as may have been sent`,
}));

/** A link: what came by it, its address, and how it is stopped. */
export function LinkLine({ link, ask }: { link: LinkData; ask: AskOutside }) {
  const [sure, setSure] = useState(false);
  const { id, label, address, state, sent, most, endsAt, madeBy } = link;
  const stop = () => {
    if (!sure) return setSure(true);
    void ask(
      'DELETE',
      `links/${id}`,
      {},
      speak`${label} leads nowhere from now on. What was sent by it goes its way.`,
    );
  };
  return (
    <li className={state === 'open' ? '' : 'text-slate-600'}>
      <span className="flex flex-wrap items-center gap-2">
        <strong className="min-w-0 flex-1 break-words">{label}</strong>
        {state === 'open' && (
          <>
            <CopyButton text={address} label={speak`Copy the address of ${label}`} />
            <button
              type="button"
              className="button button-stop"
              aria-label={sure ? speak`Stop ${label} for good` : speak`Stop ${label}`}
              onClick={stop}
              onBlur={() => setSure(false)}
            >
              <X size={15} aria-hidden />
              {sure ? speak`For good` : speak`Stop`}
            </button>
          </>
        )}
      </span>
      <span className="quiet block">
        {[
          stateWords()[state],
          most === null ? speak`${digits(sent)} sent` : speak`${digits(sent)} of ${digits(most)} sent`,
          endsAt !== null && state === 'open' ? speak`until ${when(endsAt)}` : '',
          speak`made by ${madeBy}`,
        ]
          .filter((one) => one !== '')
          .join(' · ')}
      </span>
    </li>
  );
}

/** A link to be made: what it is called, how long it leads here, how many may be sent by it. */
export function NewLink({ ask, close }: { ask: AskOutside; close: () => void }) {
  const [id] = useState(newUuid);
  const [label, setLabel] = useState('');
  const [until, setUntil] = useState<string | null>(null);
  const [most, setMost] = useState<number | null>(null);
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const make = async () => {
    const day = until !== null && /^\d{4}-\d\d-\d\d$/.test(until) ? until : null;
    const made = await ask(
      'POST',
      'links',
      { id, label, until: day, most },
      speak`Whoever you give the address to can fill the form.`,
    );
    if (made) close();
  };
  return (
    <form
      className="mt-2 grid gap-2 rounded-md border border-slate-200 bg-white p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <label className="text-[14px]">{speakIn`What it is called${(
        <input
          className="box mt-1"
          ref={first}
          maxLength={200}
          value={label}
          placeholder={speak`Garden website`}
          onChange={(event) => setLabel(event.target.value)}
        />
      )}${(<span className="quiet block">{speak`What comes by it is sent in this name.`}</span>)}`}</label>
      <Sentence>
        <Select
          label={speak`How long it leads here`}
          value={until === null ? 'always' : 'until'}
          choices={[
            { value: 'always', label: speak`Until it is stopped` },
            { value: 'until', label: speak`Up to and including` },
          ]}
          onChange={(value) => setUntil(value === 'until' ? '' : null)}
        />
        {until !== null && (
          <span className="w-36">
            <DateInput
              label={speak`The last day`}
              value={until === '' ? null : until}
              onChange={(day) => setUntil(day ?? '')}
            />
          </span>
        )}
      </Sentence>
      <Sentence>
        <Select
          label={speak`How many may be sent by it`}
          value={most === null ? 'any' : 'most'}
          choices={[
            { value: 'any', label: speak`As many as come` },
            { value: 'most', label: speak`At most` },
          ]}
          onChange={(value) => setMost(value === 'most' ? 100 : null)}
        />
        {most !== null && (
          <NumberWord label={speak`Most sent by it`} value={most} least={1} onChange={setMost} />
        )}
      </Sentence>
      <div className="flex gap-2">
        <button
          type="submit"
          className="button button-go"
          disabled={label.trim() === ''}
        >{speak`Make it`}</button>
        <button type="button" className="button" onClick={close}>{speak`Not now`}</button>
      </div>
    </form>
  );
}
