import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { LinkData, OutsideData, ShownOutside } from '../../contract/outside';
import { newUuid } from '../../core/kernel/ids';
import { digits } from '../../core/wording/numbers';
import { call, fetched, troubleInFull } from '../kit/call';
import { CopyButton } from '../kit/CopyButton';
import { DateInput } from '../kit/DateInput';
import { Globe, Link2, X } from '../kit/icons';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { when } from '../kit/when';

/** By which links people without an account fill the form, and what it says and shows to them. It holds at once, without a release. */
export function FromOutside({ form }: { form: string }) {
  const path = `/api/forms/${form}`;
  const key = ['outside', form];
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: key, queryFn: () => fetched<OutsideData>(`${path}/outside`) });
  const [said, setSaid] = useState('');
  /** False where it was refused; then the reason stands beside. */
  const ask = async (method: 'PUT' | 'POST' | 'DELETE', at: string, body: unknown, done: string) => {
    const result = await call<OutsideData>(method, `${path}/${at}`, body).catch(() => null);
    if (result?.ok === true) queries.setQueryData(key, result.value);
    setSaid(
      result === null
        ? 'The server cannot be reached; this is not saved.'
        : result.ok
          ? done
          : troubleInFull(result.error),
    );
    return result?.ok === true;
  };
  return (
    <section className="margin-part" aria-labelledby="from-outside">
      <h2 id="from-outside" className="margin-title">
        <Globe size={16} aria-hidden />
        People outside
      </h2>
      {data !== undefined && <Outside data={data} ask={ask} />}
      <p role="status" className="quiet">
        {said}
      </p>
    </section>
  );
}

type Ask = (method: 'PUT' | 'POST' | 'DELETE', at: string, body: unknown, done: string) => Promise<boolean>;

function Outside({ data, ask }: { data: OutsideData; ask: Ask }) {
  const [making, setMaking] = useState(false);
  const open = data.links.filter(({ state }) => state === 'open');
  if (!data.isLive)
    return <p className="quiet">Once it is released, people without an account can fill it by a link.</p>;
  const closed = data.shows.filter(({ id }) => !data.lookups.includes(id));
  return (
    <>
      <p className="mb-2 text-[14px]">
        {open.length === 0
          ? 'Nobody without an account can fill it.'
          : closed.length > 0
            ? 'Nobody outside gets in just now: first say below what they may look up.'
            : `Anybody who has ${open.length === 1 ? 'this link' : 'one of these links'} can fill it, and nothing else.`}
      </p>
      <ul className="grid gap-2">
        {data.links.map((link) => (
          <LinkLine key={link.id} link={link} ask={ask} />
        ))}
      </ul>
      {making ? (
        <NewLink ask={ask} close={() => setMaking(false)} />
      ) : (
        <button type="button" className="button mt-2" onClick={() => setMaking(true)}>
          <Link2 size={15} aria-hidden />
          Make a link
        </button>
      )}
      {(data.links.length > 0 || data.version > 0) && (
        <>
          <Shows data={data} ask={ask} />
          <Mails data={data} ask={ask} />
          <Words key={data.version} data={data} ask={ask} />
        </>
      )}
    </>
  );
}

const stateWords: Readonly<Record<LinkData['state'], string>> = {
  open: '',
  stopped: 'Stopped',
  over: 'Its time is over',
  full: 'As many as may have been sent',
};

function LinkLine({ link, ask }: { link: LinkData; ask: Ask }) {
  const [sure, setSure] = useState(false);
  const { id, label, address, state, sent, most, endsAt, madeBy } = link;
  const stop = () => {
    if (!sure) return setSure(true);
    void ask(
      'DELETE',
      `links/${id}`,
      {},
      `${label} leads nowhere from now on. What was sent by it goes its way.`,
    );
  };
  return (
    <li className={state === 'open' ? '' : 'text-slate-600'}>
      <span className="flex flex-wrap items-center gap-2">
        <strong className="min-w-0 flex-1 break-words">{label}</strong>
        {state === 'open' && (
          <>
            <CopyButton text={address} label={`Copy the address of ${label}`} />
            <button
              type="button"
              className="button button-stop"
              aria-label={sure ? `Stop ${label} for good` : `Stop ${label}`}
              onClick={stop}
              onBlur={() => setSure(false)}
            >
              <X size={15} aria-hidden />
              {sure ? 'For good' : 'Stop'}
            </button>
          </>
        )}
      </span>
      <span className="quiet block">
        {[
          stateWords[state],
          most === null ? `${digits(sent)} sent` : `${digits(sent)} of ${digits(most)} sent`,
          endsAt !== null && state === 'open' ? `until ${when(endsAt)}` : '',
          `made by ${madeBy}`,
        ]
          .filter((one) => one !== '')
          .join(' · ')}
      </span>
    </li>
  );
}

function NewLink({ ask, close }: { ask: Ask; close: () => void }) {
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
      'Whoever you give the address to can fill the form.',
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
      <label className="text-[14px]">
        What it is called
        <input
          className="box mt-1"
          ref={first}
          maxLength={200}
          value={label}
          placeholder="Garden website"
          onChange={(event) => setLabel(event.target.value)}
        />
        <span className="quiet block">What comes by it is sent in this name.</span>
      </label>
      <Sentence>
        <Select
          label="How long it leads here"
          value={until === null ? 'always' : 'until'}
          choices={[
            { value: 'always', label: 'Until it is stopped' },
            { value: 'until', label: 'Up to and including' },
          ]}
          onChange={(value) => setUntil(value === 'until' ? '' : null)}
        />
        {until !== null && (
          <span className="w-36">
            <DateInput
              label="The last day"
              value={until === '' ? null : until}
              onChange={(day) => setUntil(day ?? '')}
            />
          </span>
        )}
      </Sentence>
      <Sentence>
        <Select
          label="How many may be sent by it"
          value={most === null ? 'any' : 'most'}
          choices={[
            { value: 'any', label: 'As many as come' },
            { value: 'most', label: 'At most' },
          ]}
          onChange={(value) => setMost(value === 'most' ? 100 : null)}
        />
        {most !== null && <NumberWord label="Most sent by it" value={most} least={1} onChange={setMost} />}
      </Sentence>
      <div className="flex gap-2">
        <button type="submit" className="button button-go" disabled={label.trim() === ''}>
          Make it
        </button>
        <button type="button" className="button" onClick={close}>
          Not now
        </button>
      </div>
    </form>
  );
}

/** What of our tables people outside would meet. */
function Shows({ data, ask }: { data: OutsideData; ask: Ask }) {
  /** What was ticked and is not answered yet. */
  const [asked, setAsked] = useState<readonly string[] | null>(null);
  const open = asked ?? data.lookups;
  if (data.shows.length === 0) return null;
  const set = async (id: string, isOpen: boolean) => {
    const { version, welcome, thanks, origins, mailTo } = data;
    const lookups = isOpen ? [...open, id] : open.filter((one) => one !== id);
    setAsked(lookups);
    await ask(
      'PUT',
      'outside',
      { version, welcome, thanks, origins, mailTo, lookups },
      'Saved; it holds from now on.',
    );
    setAsked(null);
  };
  return (
    <>
      <h3 className="mt-3 mb-1 font-sans text-[15px]">What they may look up</h3>
      <ul className="grid gap-1.5 text-[14px]">
        {data.shows.map((one) => (
          <li key={one.id}>
            <label className="flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-1 shrink-0"
                checked={open.includes(one.id)}
                onChange={(event) => void set(one.id, event.target.checked)}
              />
              <span className="min-w-0 break-words">{shownWords(one)}</span>
            </label>
          </li>
        ))}
      </ul>
    </>
  );
}

const shownWords = ({ label, table, columns, read }: ShownOutside): string =>
  `${label}: ${columns.join(', ') || 'the number'} of the records of ${table}${read.length > 0 ? `; the form works with ${read.join(', ')} as well, which goes to their browser` : ''}`;

/** Where they are told what becomes of what they sent, besides the address they are shown. */
function Mails({ data, ask }: { data: OutsideData; ask: Ask }) {
  if (data.addresses.length === 0) return null;
  const { version, welcome, thanks, lookups, origins } = data;
  const set = (mailTo: string | null) =>
    void ask(
      'PUT',
      'outside',
      { version, welcome, thanks, lookups, origins, mailTo },
      'Saved; it holds from now on.',
    );
  return (
    <div className="mt-3">
      <Sentence>
        <Select
          label="How they are told what becomes of it"
          value={data.mailTo ?? ''}
          choices={[
            { value: '', label: 'They get no e-mail' },
            ...data.addresses.map(({ id, label }) => ({
              value: id,
              label: `They get e-mails at “${label}”`,
            })),
          ]}
          onChange={(value) => set(value === '' ? null : value)}
        />
      </Sentence>
      <p className="quiet">When it has arrived, is sent back, accepted or declined.</p>
    </div>
  );
}

/** Saved when they are left, for they are written in one go. */
function Words({ data, ask }: { data: OutsideData; ask: Ask }) {
  const [welcome, setWelcome] = useState(data.welcome);
  const [thanks, setThanks] = useState(data.thanks);
  const [sites, setSites] = useState(data.origins.join('\n'));
  const origins = sites.split('\n').filter((one) => one.trim() !== '');
  const isSame =
    welcome === data.welcome && thanks === data.thanks && origins.join('\n') === data.origins.join('\n');
  const save = () =>
    ask(
      'PUT',
      'outside',
      { version: data.version, lookups: data.lookups, mailTo: data.mailTo, welcome, thanks, origins },
      'Saved; it holds from now on.',
    );
  return (
    <div className="mt-3 grid gap-2 text-[14px]">
      <label>
        What they read first
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={welcome}
          onChange={(event) => setWelcome(event.target.value)}
        />
      </label>
      <label>
        What they read once it is sent
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={thanks}
          onChange={(event) => setThanks(event.target.value)}
        />
      </label>
      <label>
        Sites that may show it in a page of theirs, one a line
        <textarea
          rows={sites === '' ? 1 : 2}
          className="box mt-1 font-mono text-[13px]"
          placeholder="https://garden.example"
          value={sites}
          onChange={(event) => setSites(event.target.value)}
        />
      </label>
      {!isSame && (
        <div className="flex gap-2">
          <button type="button" className="button button-go" onClick={() => void save()}>
            Save
          </button>
          <button
            type="button"
            className="button"
            onClick={() => {
              setWelcome(data.welcome);
              setThanks(data.thanks);
              setSites(data.origins.join('\n'));
            }}
          >
            Drop it
          </button>
        </div>
      )}
    </div>
  );
}
