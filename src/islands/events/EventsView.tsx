import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddressData, EventsData } from '../../contract/events';
import { eventsSentence, stoppedWords } from '../../core/wording/event-sentence';
import { fetched } from '../kit/call';
import { Plus, Radio } from '../kit/icons';
import { Root } from '../kit/Root';
import { when } from '../kit/when';
import { AddressForm } from './AddressForm';
import { AddressMargin } from './AddressMargin';
import { Deliveries } from './Deliveries';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

export default function EventsView({ initial }: { initial: EventsData }) {
  return (
    <Root>
      <Events initial={initial} />
    </Root>
  );
}

/** Looked at again meanwhile, for it is told beside this page. */
const AGAIN_MS = 5_000;

function Events({ initial }: { initial: EventsData }) {
  const { data, refetch } = useQuery({
    queryKey: ['events'],
    queryFn: () => fetched<EventsData>('/api/events'),
    initialData: initial,
    refetchInterval: AGAIN_MS,
  });
  const [inHand, setInHand] = useState<string | 'new' | null>(null);
  const picked = data.addresses.find(({ id }) => id === inHand);
  const again = () => void refetch();
  return (
    <>
      <p className="quiet pt-4">
        <a href="/people" className="crumb">{speak`People`}</a>
      </p>
      <div className="flex flex-wrap items-center justify-between gap-3 pb-4">
        <h1 className="text-2xl">{speak`Events`}</h1>
        <span className="flex flex-wrap gap-2">
          <a className="button no-underline" href="/api-guide">{speak`What the API answers`}</a>
          <button type="button" className="button button-dark" onClick={() => setInHand('new')}>
            <Plus size={16} aria-hidden />
            {speak`New address`}
          </button>
        </span>
      </div>
      <div className="sheet-frame">
        <div>
          <AddressList data={data} inHand={inHand} pick={setInHand} />
          {picked !== undefined && <Deliveries key={picked.id} address={picked} done={again} />}
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`The address in hand`}>
          {inHand === 'new' ? (
            <AddressForm data={data} address={null} done={again} />
          ) : picked === undefined ? (
            <About />
          ) : (
            <AddressMargin
              key={picked.id}
              data={data}
              address={picked}
              done={again}
              gone={() => setInHand(null)}
            />
          )}
        </aside>
      </div>
    </>
  );
}

const About = () => (
  <section className="margin-part first">
    <h2 className="margin-title">{speak`How programs hear of what happens`}</h2>
    <p className="mb-2 text-[14px]">{speak`An address outside is told each time a record is made, changed or removed, or a submission is sent, decided or kept: as CloudEvents, signed so that its receiver knows they are from here.`}</p>
    <p className="text-[14px]">
      {speakIn`What is not taken is tried again for three days, in its order. A program that cannot be reached asks instead, by a token: ${(<span className="font-mono text-[13px]">{speak`GET /api/v1/events`}</span>)}`}
      .
    </p>
  </section>
);

interface ListProps {
  readonly data: EventsData;
  readonly inHand: string | null;
  readonly pick: (id: string) => void;
}

function AddressList({ data, inHand, pick }: ListProps) {
  const names = new Map([...data.tables, ...data.forms].map(({ id, label }) => [id, label]));
  if (data.addresses.length === 0)
    return (
      <p className="py-4 pr-5 pl-[46px]">{speakIn`Nobody outside is told anything yet. ${(<strong>{speak`New address`}</strong>)} has a program told what happens, as it happens.`}</p>
    );
  return (
    <ul aria-label={speak`Addresses`}>
      {data.addresses.map((address) => (
        <li key={address.id} className="border-b border-slate-200">
          <button
            type="button"
            aria-pressed={inHand === address.id}
            className={`grid w-full grid-cols-[46px_minmax(0,1fr)_auto] items-center gap-2 py-2 pr-5 text-left hover:bg-slate-50 ${inHand === address.id ? 'bg-lichen-soft' : ''}`}
            onClick={() => pick(address.id)}
          >
            <Radio size={16} aria-hidden className="mr-3 ml-auto text-slate-600" />
            <span className="min-w-0">
              <span className="font-semibold break-words">{address.label}</span>{' '}
              <span className="quiet break-all">{address.url}</span>
              <span className="quiet block">{eventsSentence(address, names)}</span>
            </span>
            <State address={address} />
          </button>
        </li>
      ))}
    </ul>
  );
}

function State({ address: { state, because, failingSince, nextAt } }: { address: AddressData }) {
  if (state === 'stopped')
    return (
      <span className="max-w-44 text-right">
        <span className="tag bg-slate-200">{speak`Stopped`}</span>
        {because !== null && <span className="quiet block">{stoppedWords(because)}</span>}
      </span>
    );
  if (state === 'failing')
    return (
      <span className="max-w-44 text-right">
        <span className="tag bg-marker">{speak`Takes nothing`}</span>
        <span className="quiet block">{speakIn`since ${when(failingSince ?? '')}${nextAt !== null && speak`; again ${when(nextAt)}`}`}</span>
      </span>
    );
  return <span className="quiet">{speak`told as it happens`}</span>;
}
