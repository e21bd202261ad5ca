import { useQuery, useQueryClient } from '@tanstack/react-query';
import { lazy, useCallback, useMemo, useState } from 'react';
import type { Followed, SentFromOutside } from '../../contract/outside';
import { newUuid } from '../../core/kernel/ids';
import { call, fetched, troubleInFull } from '../kit/call';
import { Undo2 } from '../kit/icons';
import { Later, WakesLater } from '../kit/Awake';
import { Root } from '../kit/Root';
import { StateTag } from '../kit/StateTag';
import { comeFromOutside } from '../kit/way-in';
import { when } from '../kit/when';
import { Adding } from './Adding';
import { followedHere } from './follow-address';
import { loadHeavy } from './heavy';
import { OutsideSheet } from './OutsideView';
import { shownSheet } from './reviewing';
import { SheetShown } from './SheetShown';
import type { SendsFromOutside } from './use-fill';
import { speak, spoken } from '../../core/wording/speak';

const Toasts = lazy(() => import('../kit/Toasts'));

/** What somebody outside has sent, as it stands; where it was sent back to them, to be answered. */
export default function FollowedView() {
  const [visit] = useState(followedHere);
  comeFromOutside({ visit });
  return (
    <Root>
      <WakesLater load={loadHeavy}>
        <Adding>
          <Found />
        </Adding>
        <Later likeness={null}>{() => <Toasts />}</Later>
      </WakesLater>
    </Root>
  );
}

function Found() {
  const { data, error } = useQuery({
    queryKey: ['followed'],
    queryFn: () => fetched<Followed>('/api/open/followed', {}),
    // Nobody tells this page that something moved; whoever leaves it open sees it all the same.
    refetchInterval: 60_000,
  });
  if (error !== null)
    return (
      <h1 role="alert" className="mt-16 max-w-xl rounded-lg border border-slate-200 bg-white p-6 text-2xl">
        {error.message}
      </h1>
    );
  if (data === undefined) return <h1 className="mt-16 text-2xl">{speak`Looking for what you sent…`}</h1>;
  return data.state === 'sent-back' ? (
    <Again key={data.version} data={data} />
  ) : (
    <AsItStands key={data.version} data={data} />
  );
}

const words = spoken((): Readonly<Record<Followed['state'], string>> => ({
  draft: speak`Not sent yet`,
  waiting: speak`Being looked at`,
  'sent-back': speak`Sent back to you`,
  kept: speak`Accepted`,
  declined: speak`Declined`,
  withdrawn: speak`Taken back`,
}));

function AsItStands({ data }: { data: Followed }) {
  const { sheet, number, state, sentAt, word } = data;
  const shown = useMemo(() => shownSheet(sheet), [sheet]);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div>
          <p className="quiet">
            {number}
            {sentAt !== null && speak`, sent ${when(sentAt)}`}
          </p>
          <h1 className="text-[23px]">
            {sheet.design.title}{' '}
            <span className="align-middle font-sans">
              <StateTag state={state} words={words()[state]} />
            </span>
          </h1>
        </div>
        {state === 'waiting' && <TakeBack version={data.version} />}
      </div>
      {word !== '' && <Word word={word} />}
      <div className="overflow-clip rounded-lg border border-slate-200 bg-white">
        <SheetShown review={shown} />
      </div>
    </>
  );
}

const Word = ({ word }: { word: string }) => (
  <blockquote className="mb-3 border-l-4 border-marker bg-marker-soft px-4 py-2 break-words whitespace-pre-wrap">
    {word}
  </blockquote>
);

/** Taken back for good, so it is asked about once more. */
function TakeBack({ version }: { version: number }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const [trouble, setTrouble] = useState('');
  const take = async () => {
    if (!sure) return setSure(true);
    const done = await call('POST', '/api/open/withdraw', { key: newUuid(), version }).catch(() => null);
    setTrouble(
      done === null
        ? speak`The server cannot be reached; nothing was changed`
        : done.ok
          ? ''
          : troubleInFull(done.error),
    );
    await queries.invalidateQueries({ queryKey: ['followed'] });
  };
  return (
    <div className="flex items-center gap-3">
      <span role="alert" className="text-[14px] font-semibold text-rust">
        {trouble}
      </span>
      <button
        type="button"
        className="button button-stop"
        onClick={() => void take()}
        onBlur={() => setSure(false)}
      >
        <Undo2 size={15} aria-hidden />
        {sure ? speak`Take it back for good` : speak`Take it back`}
      </button>
    </div>
  );
}

function Again({ data }: { data: Followed }) {
  const queries = useQueryClient();
  const send: SendsFromOutside['send'] = useCallback(
    async ({ key, version, answers }) => {
      const result = await call<SentFromOutside>('POST', '/api/open/again', { key, version, answers });
      if (result.ok) await queries.invalidateQueries({ queryKey: ['followed'] });
      return result;
    },
    [queries],
  );
  return (
    <>
      <p className="quiet mt-3.5">
        {data.number} <StateTag state="sent-back" words={words()['sent-back']} />
      </p>
      {data.word !== '' && <Word word={data.word} />}
      <OutsideSheet data={data.sheet} send={send} words={speak`Send it again`} greeting="" />
    </>
  );
}
