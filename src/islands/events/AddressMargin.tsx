import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddressData, EventsData } from '../../contract/events';
import { stoppedWords } from '../../core/wording/event-sentence';
import { call } from '../kit/call';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { when } from '../kit/when';
import { AddressForm } from './AddressForm';
import { speak } from '../../core/wording/speak';

interface Props {
  readonly data: EventsData;
  readonly address: AddressData;
  readonly done: () => void;
  readonly gone: () => void;
}

/** An address in hand: how it stands, and what is done about it. */
export function AddressMargin({ data, address, done, gone }: Props) {
  const { id, label, person, madeBy, madeAt, state, because, failingSince, nextAt } = address;
  const [changing, setChanging] = useState(false);
  const { saying, say } = useSaying();
  const cache = useQueryClient();
  const settled = () => {
    done();
    void cache.invalidateQueries({ queryKey: ['deliveries', id] });
  };
  const post = (what: string, body: object, well: string) =>
    say(() => call('POST', `/api/events/${id}/${what}`, body), well, settled);
  return (
    <>
      <section className="margin-part first" aria-labelledby="in-hand">
        <h2 id="in-hand" className="margin-title">
          <span className="min-w-0 break-words">{label}</span>
        </h2>
        {state !== 'on' && (
          <p className="mb-2 rounded bg-marker-soft p-2 text-[14px]">
            {state === 'stopped'
              ? speak`${stoppedWords(because)}. Nothing is told until it goes on; events wait for 30 days.`
              : speak`It has taken nothing since ${when(failingSince ?? '')}. It is tried again ${nextAt === null ? speak`now` : when(nextAt)}, and nothing is lost.`}
          </p>
        )}
        <dl className="mb-3 grid grid-cols-[7rem_minmax(0,1fr)] gap-y-1 text-[14px]">
          <dt className="text-slate-600">{speak`Sees as`}</dt>
          <dd>{data.people.find((one) => one.id === person)?.name ?? speak`somebody who has left`}</dd>
          <dt className="text-slate-600">{speak`Made`}</dt>
          <dd>{speak`${when(madeAt)} by ${madeBy}`}</dd>
        </dl>
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="button"
            disabled={saying.busy}
            onClick={() =>
              void post('try', {}, speak`It was tried; what became of it stands first under Told lately.`)
            }
          >{speak`Try it`}</button>
          {state !== 'on' && (
            <button
              type="button"
              className="button button-go"
              disabled={saying.busy}
              onClick={() => void post('resume', { from: null }, speak`It goes on from where it stood.`)}
            >
              {state === 'failing' ? speak`Try again now` : speak`Let it go on`}
            </button>
          )}
          {state !== 'stopped' && (
            <button
              type="button"
              className="button"
              disabled={saying.busy}
              onClick={() => void post('stop', {}, speak`It is told nothing now.`)}
            >{speak`Stop it`}</button>
          )}
          <button
            type="button"
            className="button"
            aria-expanded={changing}
            onClick={() => setChanging(!changing)}
          >{speak`Change it`}</button>
          <Remove
            busy={saying.busy}
            remove={() =>
              void say(
                () => call('DELETE', `/api/events/${id}`),
                '',
                () => {
                  gone();
                  done();
                },
              )
            }
          />
        </div>
        <Said saying={saying} />
      </section>
      {changing && <AddressForm key={address.version} data={data} address={address} done={done} />}
    </>
  );
}

function Remove({ busy, remove }: { readonly busy: boolean; readonly remove: () => void }) {
  const [sure, setSure] = useState(false);
  return (
    <button
      type="button"
      className="button button-stop"
      disabled={busy}
      onBlur={() => setSure(false)}
      onClick={() => (sure ? remove() : setSure(true))}
    >
      {sure ? speak`Remove it: what it was not told yet is never told` : speak`Remove it`}
    </button>
  );
}
