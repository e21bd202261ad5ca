import { useQuery } from '@tanstack/react-query';
import { CircleAlert, Pencil, RotateCw } from '../kit/icons';
import { useState } from 'react';
import type { SourceData, SourceLook } from '../../contract/sources';
import type { RefreshEvery } from '../../core/link/link';
import { addressText } from '../../core/link/source';
import { everyChoices, sourceFaultSentence } from '../../core/wording/source-sentence';
import { call, fetched } from '../kit/call';
import { Root } from '../kit/Root';
import { Select } from '../kit/Select';
import { FoundList } from './FoundList';
import { FoundTables } from './FoundTables';
import type { LinkingNow } from './LinkButton';
import { SourceFields } from './SourceFields';
import { speak } from '../../core/wording/speak';

export default function SourceView({ initial }: { initial: SourceData }) {
  return (
    <Root>
      <Source initial={initial} />
    </Root>
  );
}

function Source({ initial }: { initial: SourceData }) {
  const { data, refetch } = useQuery({
    queryKey: ['source', initial.id],
    queryFn: () => fetched<SourceData>(`/api/sources/${initial.id}`),
    initialData: initial,
  });
  const look = useQuery({
    queryKey: ['look', initial.id],
    queryFn: () => fetched<SourceLook>(`/api/sources/${initial.id}/look`),
    retry: false,
    refetchOnWindowFocus: false,
  });
  const [changing, setChanging] = useState(false);
  const [every, setEvery] = useState<RefreshEvery>(5);
  const linking = useLinking(data.id, every, () => Promise.all([refetch(), look.refetch()]));
  const kept = () => {
    setChanging(false);
    void refetch().then(() => look.refetch());
  };
  return (
    <>
      <p className="quiet pt-4">
        <a href="/tables" className="crumb">{speak`Tables`}</a> ·{' '}
        <a href="/sources" className="crumb">{speak`Sources outside`}</a>
      </p>
      <div className="flex flex-wrap items-end justify-between gap-3 pb-4">
        <div>
          <h1 className="text-2xl break-words">{data.label}</h1>
          <p className="quiet break-words">{addressText(data.address)}</p>
        </div>
        <p className="flex flex-wrap gap-2">
          <button
            type="button"
            className="button"
            disabled={look.isFetching}
            onClick={() => void look.refetch()}
          >
            <RotateCw size={15} aria-hidden />
            {speak`Look again`}
          </button>
          {data.mayAdminister && !changing && (
            <button type="button" className="button" onClick={() => setChanging(true)}>
              <Pencil size={15} aria-hidden />
              {speak`Change the source`}
            </button>
          )}
        </p>
      </div>
      {changing && (
        <div className="mb-4 rounded-lg border border-slate-200 bg-white p-5">
          <h2 className="mb-3 text-[19px]">{speak`Change the source`}</h2>
          <SourceFields source={data} onKept={kept} onCancel={() => setChanging(false)} />
          <RemoveSource source={data} />
        </div>
      )}
      {linking.trouble !== '' && (
        <p role="alert" className="trouble mb-3">
          <CircleAlert size={15} aria-hidden />
          {linking.trouble}
        </p>
      )}
      {look.data?.t === 'tables' ? (
        <FoundTables
          source={data}
          look={look.data}
          linking={linking}
          everyPick={<EveryPick every={every} onChange={setEvery} />}
        />
      ) : look.data?.t === 'list' ? (
        <FoundList
          source={data}
          look={look.data}
          linking={linking}
          everyPick={<EveryPick every={every} onChange={setEvery} />}
        />
      ) : (
        <div className="sheet-frame">
          <section className="p-6" aria-label={speak`What was found`}>
            {look.isFetching ? (
              <Looking />
            ) : (
              <Failed
                words={
                  look.data === undefined
                    ? speak`The server could not be reached`
                    : sourceFaultSentence(look.data.fault)
                }
                linked={data.linked.length}
              />
            )}
          </section>
          <aside id="margin" className="margin-pane">
            <p className="margin-part first quiet">{speak`What is linked already keeps its last good copy, whatever happens here.`}</p>
          </aside>
        </div>
      )}
    </>
  );
}

function useLinking(id: string, every: RefreshEvery, done: () => Promise<unknown>): LinkingNow {
  const [state, setState] = useState({ busy: false, trouble: '' });
  const ask = async (path: 'tables' | 'follow', body: object): Promise<boolean> => {
    setState({ busy: true, trouble: '' });
    const linked = await call('POST', `/api/sources/${id}/${path}`, body).catch(() => null);
    if (linked?.ok === true) await done();
    setState({
      busy: false,
      trouble:
        linked === null
          ? speak`The server could not be reached; look again to see what is linked`
          : linked.ok
            ? ''
            : (linked.error.issues?.[0]?.sentence ?? linked.error.title),
    });
    return linked?.ok === true;
  };
  return {
    ...state,
    link: (tables) => ask('tables', { tables, every }),
    follow: (table) => ask('follow', { table }),
  };
}

function EveryPick({ every, onChange }: { every: RefreshEvery; onChange: (every: RefreshEvery) => void }) {
  return (
    <Select
      label={speak`How often it is refreshed`}
      value={String(every)}
      choices={everyChoices().map(({ value, label }) => ({ value: String(value), label }))}
      onChange={(value) => onChange(everyChoices().find((one) => String(one.value) === value)?.value ?? 5)}
    />
  );
}

const Looking = () => (
  <div role="status">
    <p className="mb-3">{speak`Looking into it …`}</p>
    <div aria-hidden className="grid gap-3">
      {[1, 2, 3, 4, 5].map((i) => (
        <div key={i} className="h-5 animate-pulse rounded bg-slate-100" />
      ))}
    </div>
  </div>
);

function Failed({ words, linked }: { words: string; linked: number }) {
  return (
    <>
      <h2 className="mb-2 flex items-center gap-2 text-[19px]">
        <CircleAlert size={18} aria-hidden className="text-rust" />
        {speak`It cannot be read now`}
      </h2>
      <p>
        {words}.{linked > 0 && speak` What is linked goes on with what it has, and is tried again by itself.`}
      </p>
    </>
  );
}

function RemoveSource({ source }: { source: SourceData }) {
  const [trouble, setTrouble] = useState('');
  const remove = async (): Promise<void> => {
    const done = await call('DELETE', `/api/sources/${source.id}`).catch(() => null);
    if (done?.ok === true) location.assign('/sources');
    else
      setTrouble(
        done === null
          ? speak`The server could not be reached`
          : (done.error.issues?.[0]?.sentence ?? done.error.title),
      );
  };
  return (
    <div className="mt-4 border-t border-slate-200 pt-3">
      {source.linked.length > 0 ? (
        <p className="quiet">{speak`It can be removed once nothing is linked to it.`}</p>
      ) : (
        <button
          type="button"
          className="button button-stop"
          onClick={() => void remove()}
        >{speak`Remove ${source.label} and its secret`}</button>
      )}
      {trouble !== '' && (
        <p role="alert" className="trouble">
          {trouble}
        </p>
      )}
    </div>
  );
}
