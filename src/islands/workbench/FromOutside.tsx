import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { LinkData, OutsideData, ShownOutside } from '../../contract/outside';
import { languages } from '../../core/formats/formats';
import { newUuid } from '../../core/kernel/ids';
import { digits } from '../../core/wording/numbers';
import { call, fetched, troubleInFull } from '../kit/call';
import { CopyButton } from '../kit/CopyButton';
import { DateInput } from '../kit/DateInput';
import { languageNames } from '../kit/FormatsWords';
import { Globe, Link2, X } from '../kit/icons';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { when } from '../kit/when';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

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
        ? speak`The server cannot be reached; this is not saved.`
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
        {speak`People outside`}
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
    return (
      <p className="quiet">{speak`Once it is released, people without an account can fill it by a link.`}</p>
    );
  const closed = data.shows.filter(({ id }) => !data.lookups.includes(id));
  return (
    <>
      <p className="mb-2 text-[14px]">
        {open.length === 0
          ? speak`Nobody without an account can fill it.`
          : closed.length > 0
            ? speak`Nobody outside gets in just now: first say below what they may look up.`
            : speak`Anybody who has ${open.length === 1 ? speak`this link` : speak`one of these links`} can fill it, and nothing else.`}
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
          {speak`Make a link`}
        </button>
      )}
      {(data.links.length > 0 || data.version > 0) && (
        <>
          <Shows data={data} ask={ask} />
          <Mails data={data} ask={ask} />
          <Speaks data={data} ask={ask} />
          <Words key={data.version} data={data} ask={ask} />
        </>
      )}
    </>
  );
}

const stateWords = spoken((): Readonly<Record<LinkData['state'], string>> => ({
  open: '',
  stopped: speak`Stopped`,
  over: speak`Its time is over`,
  full: speak`As many as may have been sent`,
}));

function LinkLine({ link, ask }: { link: LinkData; ask: Ask }) {
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

/** What of our tables people outside would meet. */
function Shows({ data, ask }: { data: OutsideData; ask: Ask }) {
  /** What was ticked and is not answered yet. */
  const [asked, setAsked] = useState<readonly string[] | null>(null);
  const open = asked ?? data.lookups;
  if (data.shows.length === 0) return null;
  const set = async (id: string, isOpen: boolean) => {
    const { version, welcome, thanks, origins, mailTo, language } = data;
    const lookups = isOpen ? [...open, id] : open.filter((one) => one !== id);
    setAsked(lookups);
    await ask(
      'PUT',
      'outside',
      { version, welcome, thanks, origins, mailTo, language, lookups },
      speak`Saved; it holds from now on.`,
    );
    setAsked(null);
  };
  return (
    <>
      <h3 className="mt-3 mb-1 font-sans text-[15px]">{speak`What they may look up`}</h3>
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
  speak`${label}: ${columns.join(', ') || speak`the number`} of the records of ${table}${read.length > 0 ? speak`; the form works with ${read.join(', ')} as well, which goes to their browser` : ''}`;

/** Where they are told what becomes of what they sent, besides the address they are shown. */
function Mails({ data, ask }: { data: OutsideData; ask: Ask }) {
  if (data.addresses.length === 0) return null;
  const { version, welcome, thanks, lookups, origins, language } = data;
  const set = (mailTo: string | null) =>
    void ask(
      'PUT',
      'outside',
      { version, welcome, thanks, lookups, origins, language, mailTo },
      speak`Saved; it holds from now on.`,
    );
  return (
    <div className="mt-3">
      <Sentence>
        <Select
          label={speak`How they are told what becomes of it`}
          value={data.mailTo ?? ''}
          choices={[
            { value: '', label: speak`They get no e-mail` },
            ...data.addresses.map(({ id, label }) => ({
              value: id,
              label: speak`They get e-mails at “${label}”`,
            })),
          ]}
          onChange={(value) => set(value === '' ? null : value)}
        />
      </Sentence>
      <p className="quiet">{speak`When it has arrived, is sent back, accepted or declined.`}</p>
    </div>
  );
}

/** In which language the form meets them: its buttons, its words on what is wrong, and its mails. What the form asks is its designer's. */
function Speaks({ data, ask }: { data: OutsideData; ask: Ask }) {
  const { version, welcome, thanks, lookups, origins, mailTo } = data;
  const set = (language: string) =>
    void ask(
      'PUT',
      'outside',
      {
        version,
        welcome,
        thanks,
        lookups,
        origins,
        mailTo,
        language: languages.find((one) => one === language) ?? null,
      },
      speak`Saved; it holds from now on.`,
    );
  return (
    <div className="mt-3">
      <Sentence>{speakIn`It speaks ${(
        <Select
          label={speak`Language people outside meet it in`}
          value={data.language ?? ''}
          choices={[
            { value: '', label: speak`the language of the workspace` },
            ...languages.map((one) => ({ value: one, label: languageNames[one] })),
          ]}
          onChange={set}
        />
      )}`}</Sentence>
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
      {
        version: data.version,
        lookups: data.lookups,
        mailTo: data.mailTo,
        language: data.language,
        welcome,
        thanks,
        origins,
      },
      speak`Saved; it holds from now on.`,
    );
  return (
    <div className="mt-3 grid gap-2 text-[14px]">
      <label>
        {speak`What they read first`}
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={welcome}
          onChange={(event) => setWelcome(event.target.value)}
        />
      </label>
      <label>
        {speak`What they read once it is sent`}
        <textarea
          rows={2}
          className="box mt-1"
          maxLength={5_000}
          value={thanks}
          onChange={(event) => setThanks(event.target.value)}
        />
      </label>
      <label>
        {speak`Sites that may show it in a page of theirs, one a line`}
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
          <button
            type="button"
            className="button button-go"
            onClick={() => void save()}
          >{speak`Save`}</button>
          <button
            type="button"
            className="button"
            onClick={() => {
              setWelcome(data.welcome);
              setThanks(data.thanks);
              setSites(data.origins.join('\n'));
            }}
          >{speak`Drop it`}</button>
        </div>
      )}
    </div>
  );
}
