import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import type { HomeData } from '../../contract/answers-from-server';
import { Age } from '../kit/Age';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import { WaitingCase } from '../kit/WaitingCase';
import { counted, digits } from '../../core/wording/numbers';
import { HomeMargin } from './HomeMargin';
import { MineLine } from './MineLine';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function HomeView({ initial, name }: { initial: HomeData; name: string }) {
  return (
    <Root>
      <Home initial={initial} name={name} />
    </Root>
  );
}

function Home({ initial, name }: { initial: HomeData; name: string }) {
  const { data, refetch } = useQuery({
    queryKey: ['home'],
    queryFn: () => fetched<HomeData>('/api/home'),
    initialData: initial,
  });
  useLive(
    ['forms'],
    useCallback(() => void refetch(), [refetch]),
  );
  return (
    <>
      <h1 className="pt-5 pb-4 text-2xl">{speakIn`Good day, ${name.split(' ')[0]}`}</h1>
      {data.alone && (
        <p className="mb-3 rounded-md bg-marker-soft px-4 py-2">{speakIn`You are the only one here so far. ${(<a href="/people" className="font-semibold text-lichen-deep underline">{speak`Add your colleagues`}</a>)}: each gets a link from you and chooses a password.`}</p>
      )}
      <div className="sheet-frame">
        <div>
          {data.total > 0 && <WaitsForYou data={data} />}
          <Yours data={data} />
          {data.tables.length > 0 && <TablesKept data={data} />}
        </div>
        <HomeMargin data={data} />
      </div>
    </>
  );
}

function WaitsForYou({ data: { waiting, total } }: { data: HomeData }) {
  return (
    <section aria-labelledby="waits">
      <div className="home-head">
        <h2 id="waits" className="text-xl">{speak`Waits for you`}</h2>
        <a
          href="/approvals"
          className="font-semibold text-lichen-deep no-underline hover:underline"
        >{speak`All ${digits(total)}`}</a>
      </div>
      <ul>
        {waiting.map((one, i) => (
          <li key={one.id} className="flex border-t border-slate-200 pl-2">
            <WaitingCase one={one} number={i + 1} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Of what is under way, so much is shown until all is asked for. */
const FEW = 6;
const underWay = new Set(['sent-back', 'draft', 'waiting']);
/** What is to be answered first, then what is to be finished, then what others decide. */
const order = ['sent-back', 'draft', 'waiting'];

function Yours({ data: { mine } }: { data: HomeData }) {
  const [all, setAll] = useState(false);
  const open = mine
    .filter(({ state }) => underWay.has(state))
    .sort((a, b) => order.indexOf(a.state) - order.indexOf(b.state));
  const ended = mine.filter(({ state }) => !underWay.has(state));
  const shown = all ? [...open, ...ended] : open.slice(0, FEW);
  return (
    <section aria-labelledby="mine">
      <div className="home-head">
        <h2 id="mine" className="text-xl">
          {all ? speak`All that you have sent and set aside` : speak`Yours under way`}
        </h2>
        {mine.length > shown.length || all ? (
          <button type="button" className="button-plain" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? speak`Only what is under way` : speak`All ${mine.length}`}
          </button>
        ) : null}
      </div>
      {mine.length === 0 && (
        <p className="border-t border-slate-200 px-5 py-4">{speak`Nothing yet. Pick a form to begin; what you type keeps itself.`}</p>
      )}
      {mine.length > 0 && shown.length === 0 && (
        <p className="border-t border-slate-200 px-5 py-4">{speak`Nothing of yours is under way.`}</p>
      )}
      <ul>
        {shown.map((one) => (
          <MineLine key={one.id} one={one} />
        ))}
      </ul>
    </section>
  );
}

function TablesKept({ data: { tables } }: { data: HomeData }) {
  return (
    <section aria-labelledby="tables">
      <div className="home-head">
        <h2 id="tables" className="text-xl">{speak`Tables you keep`}</h2>
      </div>
      <ul>
        {tables.map(({ key, label, records, about, changed, at }) => (
          <li key={key} className="border-t border-slate-200">
            <a
              href={`/tables/${key}`}
              className="flex items-center justify-between gap-3 px-5 py-2 text-ink no-underline hover:bg-slate-50"
            >
              <span className="min-w-0">
                <span className="block truncate font-semibold">{label}</span>
                <span className="block text-[13px] text-slate-600">{speakIn`${counted(changed, 'record')} changed by others lately · ${(<Age iso={at} />)}`}</span>
              </span>
              <span className="shrink-0 text-[13px] text-slate-600">
                {about ? speak`about ` : ''}
                {counted(records, 'record')}
              </span>
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
}
