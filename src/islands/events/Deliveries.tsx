import { useQuery } from '@tanstack/react-query';
import type { AddressData, DeliveriesData, DeliveryData } from '../../contract/events';
import { deliveredWords, toldWords } from '../../core/wording/event-sentence';
import { Age } from '../kit/Age';
import { call, fetched } from '../kit/call';
import { Said } from '../kit/Said';
import { useSaying } from '../kit/use-saying';
import { speak } from '../../core/wording/speak';

/** What an address was told lately and what became of it, the newest first; each can be told once more, and everything from there on. */
export function Deliveries({
  address: { id },
  done,
}: {
  readonly address: AddressData;
  readonly done: () => void;
}) {
  const { data, refetch } = useQuery({
    queryKey: ['deliveries', id],
    queryFn: () => fetched<DeliveriesData>(`/api/events/${id}`),
    refetchInterval: 5_000,
  });
  const { saying, say } = useSaying();
  const post = (what: 'again' | 'resume', body: object, well: string) =>
    void say(
      () => call('POST', `/api/events/${id}/${what}`, body),
      well,
      () => {
        done();
        void refetch();
      },
    );
  return (
    <section aria-labelledby="told" className="px-5 pt-5 pb-4">
      <h2 id="told" className="mb-1 text-lg">{speak`Told lately`}</h2>
      <p className="quiet mb-2">{speak`The newest first; kept for 14 days.`}</p>
      <Said saying={saying} />
      {data === undefined ? (
        <p className="quiet">{speak`Looking it up…`}</p>
      ) : data.deliveries.length === 0 ? (
        <p className="quiet">{speak`Nothing yet. It is told as soon as something happens; Try it tells it at once.`}</p>
      ) : (
        <ol>
          {data.deliveries.map((one) => (
            <Line
              key={`${one.position} ${one.at}`}
              one={one}
              busy={saying.busy}
              again={(position) =>
                post('again', { position }, speak`It was told again; the first line says what became of it.`)
              }
              from={(position) =>
                post('resume', { from: position }, speak`It is told all again from there on.`)
              }
            />
          ))}
        </ol>
      )}
    </section>
  );
}

interface LineProps {
  readonly one: DeliveryData;
  readonly busy: boolean;
  readonly again: (position: number) => void;
  readonly from: (position: number) => void;
}

function Line({ one, busy, again, from }: LineProps) {
  const { position, kind, subject, fault, at } = one;
  const what = `${toldWords(kind)} ${subject}`.trim();
  return (
    <li className="grid items-center gap-x-4 gap-y-1 border-t border-slate-200 py-1.5 text-[14px] sm:grid-cols-[6rem_minmax(0,1fr)_9rem_auto]">
      <span className="quiet">
        <Age iso={at} />
      </span>
      <span>
        {toldWords(kind)} <span className="font-mono text-[13px]">{subject}</span>
      </span>
      <span className={fault === null ? 'text-lichen-deep' : 'font-semibold text-rust'}>
        {deliveredWords(one)}
      </span>
      {position === null ? (
        <span />
      ) : (
        <span className="flex flex-wrap gap-3">
          <button
            type="button"
            className="text-lichen underline"
            aria-label={speak`Tell it again: ${what}`}
            disabled={busy}
            onClick={() => again(position)}
          >{speak`Tell it again`}</button>
          <button
            type="button"
            className="text-lichen underline"
            aria-label={speak`All from here on: ${what}`}
            disabled={busy}
            onClick={() => from(position)}
          >{speak`All from here on`}</button>
        </span>
      )}
    </li>
  );
}
