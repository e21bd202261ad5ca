import { useState } from 'react';
import type { FollowedList, FollowedLook } from '../../contract/people-list';
import { followChoices, type FollowEvery } from '../../core/directory/following';
import { followWords, listFaultSentence, outcomeSentence } from '../../core/wording/people-list-sentence';
import { counted } from '../../core/wording/numbers';
import { speak } from '../../core/wording/speak';
import { Age } from '../kit/Age';
import { call, troubleInFull } from '../kit/call';
import { CircleAlert, Eye, RotateCw } from '../kit/icons';
import { Select } from '../kit/Select';
import { speakIn } from '../kit/speak-in';
import { PlanLooked, PlanPart, WrongLines } from './PlanLooked';

type Looked = Extract<FollowedLook, { t: 'looked' }>;

/** A list at an address, which people are kept in step with. */
export function FromAddress({ initial }: { initial: FollowedList }) {
  const [{ sources, followed }, setList] = useState(initial);
  const [source, setSource] = useState(followed?.source ?? sources[0]?.id ?? '');
  const [every, setEvery] = useState<FollowEvery>(followed?.every ?? 60);
  const [endsAccess, setEndsAccess] = useState(followed?.endsAccess ?? true);
  const [looked, setLooked] = useState<Looked | null>(null);
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const attempt = async (work: () => Promise<string>): Promise<void> => {
    setBusy(true);
    setTrouble(await work().catch(() => speak`The server cannot be reached; nothing was changed`));
    setBusy(false);
  };
  const look = () =>
    attempt(async () => {
      setLooked(null);
      const found = await call<FollowedLook>('POST', '/api/people/list', { source });
      if (!found.ok) return troubleInFull(found.error);
      if (found.value.t === 'failed') return listFaultSentence(found.value.fault);
      setLooked(found.value);
      return '';
    });
  const change = (method: 'PUT' | 'DELETE', body: object) =>
    attempt(async () => {
      const kept = await call<FollowedList>(method, '/api/people/list', {
        ...body,
        version: followed?.version ?? 0,
      });
      if (!kept.ok) return troubleInFull(kept.error);
      setList(kept.value);
      setLooked(null);
      return '';
    });
  const label = sources.find(({ id }) => id === source)?.label ?? '';
  if (sources.length === 0)
    return (
      <Part>
        <p className="text-[14px]">{speakIn`Name the JSON address of the list under ${(<a href="/sources">{speak`Sources outside`}</a>)}, then it can be followed from here.`}</p>
      </Part>
    );
  return (
    <Part>
      {followed !== null && (
        <Followed list={{ sources, followed }} busy={busy} onStop={() => void change('DELETE', {})} />
      )}
      {followed !== null && (
        <h3 className="mb-2 font-sans text-[15px] font-semibold">{speak`Look at it now, or follow it otherwise`}</h3>
      )}
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <Select
          label={speak`List of people`}
          value={source}
          choices={sources.map(({ id, label: name }) => ({ value: id, label: name }))}
          onChange={(id) => {
            setSource(id);
            setLooked(null);
          }}
        />
        <Select
          label={speak`How often it is followed`}
          value={String(every)}
          choices={followChoices.map((one) => ({ value: String(one), label: followWords()[one] }))}
          onChange={(value) => setEvery(followChoices.find((one) => String(one) === value) ?? 60)}
        />
        <button type="button" className="button" disabled={busy} onClick={() => void look()}>
          <Eye size={15} aria-hidden />
          {speak`Look it over`}
        </button>
      </div>
      <label className="mb-3 flex items-start gap-2 text-[14px]">
        <input
          type="checkbox"
          className="mt-1"
          checked={endsAccess}
          onChange={({ target }) => setEndsAccess(target.checked)}
        />
        {speak`Whoever came by it and is not in it any more is out at once; what they own goes to whoever they work under, or to you`}
      </label>
      <div role="alert">{trouble !== '' && <p className="trouble mb-3">{trouble}</p>}</div>
      {looked !== null && (
        <>
          <PlanLooked plan={looked.plan} name={label} people={looked.people} unread={looked.unread}>
            <Leaving looked={looked} endsAccess={endsAccess} />
          </PlanLooked>
          <button
            type="button"
            className="button button-go"
            disabled={busy}
            onClick={() => void change('PUT', { source, every, endsAccess, seen: looked.seen })}
          >
            <RotateCw size={15} aria-hidden />
            {followWish(followed?.source ?? null, source)}
          </button>
        </>
      )}
    </Part>
  );
}

/** What pressing it means: the first list, the same otherwise, or another one. */
const followWish = (followed: string | null, source: string): string =>
  followed === null
    ? speak`Follow it from now on`
    : followed === source
      ? speak`Follow it so`
      : speak`Follow this list instead`;

const Part = ({ children }: { readonly children: React.ReactNode }) => (
  <section aria-labelledby="from-address" className="border-t border-slate-200 pt-5">
    <h2 id="from-address" className="mb-2 text-[19px]">{speak`From an address, kept in step`}</h2>
    {children}
  </section>
);

/** Who came by it and is not in it; whoever is here otherwise stays. */
const Leaving = ({ looked: { plan, leaving }, endsAccess }: { looked: Looked; endsAccess: boolean }) => {
  const others = plan.missing.filter(({ id }) => leaving.every((one) => one.id !== id));
  return (
    <>
      <PlanPart title={speak`${leaving.length} not in it any more`} many={leaving.length}>
        {leaving.map(({ id, name }) => (
          <li key={id} className={endsAccess ? 'text-rust' : ''}>
            {endsAccess ? speak`${name} is out at once` : name}
          </li>
        ))}
      </PlanPart>
      <PlanPart title={speak`${others.length} here who did not come by it, and stay`} many={others.length}>
        <li>{others.map(({ name }) => name).join(', ')}</li>
      </PlanPart>
      {plan.issues.length > 0 && (
        <p className="mb-3 text-[14px]">{speak`What is wrong is left out until it is mended there, and nobody leaves by it.`}</p>
      )}
    </>
  );
};

interface FollowedProps {
  readonly list: {
    readonly sources: FollowedList['sources'];
    readonly followed: NonNullable<FollowedList['followed']>;
  };
  readonly busy: boolean;
  readonly onStop: () => void;
}

function Followed({ list: { sources, followed }, busy, onStop }: FollowedProps) {
  const { outcome, triedAt, followedAt, members, namedBy, every } = followed;
  const name = sources.find(({ id }) => id === followed.source)?.label ?? '';
  const isWell = outcome.t === 'followed';
  return (
    <div role="status" className="mb-4 rounded-lg border border-slate-200 p-3 text-[14px]">
      <p>{speakIn`${(<strong>{name}</strong>)} is followed ${followWords()[every]}, as ${namedBy}; ${counted(members, 'person', 'people')} came by it.`}</p>
      <p className={isWell ? '' : 'mt-1 flex items-start gap-1.5 text-rust'}>
        {!isWell && <CircleAlert size={15} aria-hidden className="mt-[3px] shrink-0" />}
        <span>
          {isWell
            ? speakIn`Followed ${(<Age iso={followedAt} />)}: ${outcomeSentence(outcome)}.`
            : speakIn`Tried ${(<Age iso={triedAt} />)}, followed last ${(<Age iso={followedAt} />)}. ${outcomeSentence(outcome)}.`}
        </span>
      </p>
      {isWell && outcome.wrong > 0 && (
        <div className="mt-2">
          <WrongLines issues={outcome.issues} wrong={outcome.wrong} />
        </div>
      )}
      <button type="button" className="button mt-2" disabled={busy} onClick={onStop}>
        {speak`Follow it no more`}
      </button>
    </div>
  );
}
