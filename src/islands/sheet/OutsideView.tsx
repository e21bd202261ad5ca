import { lazy, useCallback, useEffect, useRef, useState } from 'react';
import type { MetOutside, SentFromOutside } from '../../contract/outside';
import type { SheetData } from '../../contract/sheet-from-server';
import { call } from '../kit/call';
import { Check, Send } from '../kit/icons';
import { Later, WakesLater } from '../kit/Awake';
import { CopyButton } from '../kit/CopyButton';
import { Root } from '../kit/Root';
import { comeFromOutside } from '../kit/way-in';
import { Adding } from './Adding';
import { BothVersions } from './DraftNotices';
import { useSendKey, useUndoKeys } from './fill-keys';
import { FillFrame, ServerWords } from './FillFrame';
import { loadHeavy } from './heavy';
import { followAddress } from './follow-address';
import { useFill, type Filling, type SendsFromOutside } from './use-fill';
import { useProof } from './use-proof';
import { speak } from '../../core/wording/speak';

const Toasts = lazy(() => import('../kit/Toasts'));

/** A form as people without an account fill it: what is asked, and nothing of the rest. */
export default function OutsideView({ met }: { met: MetOutside }) {
  comeFromOutside({ link: met.link });
  const [sent, setSent] = useState<SentFromOutside | null>(null);
  // Another one begins with an empty sheet of its own.
  const [sheets, setSheets] = useState(0);
  return (
    <Root>
      {sent === null ? (
        <WakesLater load={loadHeavy}>
          <Adding>
            <FillFromOutside key={sheets} met={met} onSent={setSent} />
          </Adding>
          <Later likeness={null}>{() => <Toasts />}</Later>
        </WakesLater>
      ) : (
        <Thanks
          met={met}
          sent={sent}
          another={() => {
            setSheets((n) => n + 1);
            setSent(null);
          }}
        />
      )}
    </Root>
  );
}

function FillFromOutside({ met, onSent }: { met: MetOutside; onSent: (sent: SentFromOutside) => void }) {
  const { sheet: data, link, welcome } = met;
  const proof = useProof(link);
  const send: SendsFromOutside['send'] = useCallback(
    async ({ id, key, answers }) => {
      const result = await call<SentFromOutside>('POST', '/api/open/send', {
        id,
        key,
        answers,
        proof: await proof(id),
      });
      if (result.ok) onSent(result.value);
      return result;
    },
    [proof, onSent],
  );
  return <OutsideSheet data={data} send={send} words={speak`Send`} greeting={welcome} prepare={proof} />;
}

/** The sheet of somebody outside: new, or one that was sent back to them. */
export function OutsideSheet({
  data,
  send,
  words,
  greeting,
  prepare,
}: {
  data: SheetData;
  send: SendsFromOutside['send'];
  words: string;
  greeting: string;
  /** What can be done before it is sent, once it is known by which id. */
  prepare?: (id: string) => unknown;
}) {
  const fill: Filling = { ...useFill(data, { send }), data };
  useSendKey(() => void fill.send());
  useUndoKeys(fill);
  useEffect(() => {
    if (fill.id !== '') prepare?.(fill.id);
  }, [fill.id, prepare]);
  const [sure, setSure] = useState(false);
  const hasDraft = fill.keeping.t !== 'fresh' && data.submission === null;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <h1 className="text-[23px]">{data.design.title}</h1>
        <div className="flex flex-wrap items-center gap-3">
          {hasDraft && (
            <>
              <span role="status" className="quiet">
                {fill.onDevice
                  ? speak`Kept on this device`
                  : speak`This device keeps nothing: send before you leave`}
              </span>
              <button
                type="button"
                className="button button-stop"
                onBlur={() => setSure(false)}
                onClick={() => {
                  if (!sure) return setSure(true);
                  fill.forget();
                  location.reload();
                }}
              >
                {sure ? speak`Throw it away for good` : speak`Throw away`}
              </button>
            </>
          )}
          <button
            type="button"
            className="button button-go max-sm:fixed max-sm:inset-x-3 max-sm:bottom-3 max-sm:z-10 max-sm:justify-center max-sm:shadow-lg"
            disabled={fill.sending}
            onClick={() => void fill.send()}
          >
            <Send size={15} aria-hidden />
            {fill.sending ? speak`Sending…` : words}
          </button>
        </div>
      </div>
      {greeting !== '' && (
        <p className="mb-3 max-w-[80ch] text-[15px] break-words whitespace-pre-wrap">{greeting}</p>
      )}
      <ServerWords fill={fill} />
      {fill.both !== null && <BothVersions settle={fill.settle} />}
      <FillFrame fill={fill} />
    </>
  );
}

function Thanks({
  met: { thanks, sheet },
  sent,
  another,
}: {
  met: MetOutside;
  sent: SentFromOutside;
  another: () => void;
}) {
  const address = followAddress(sent.follow);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <section
      aria-labelledby="sent"
      className="mt-8 max-w-2xl rounded-lg border border-slate-200 bg-white px-6 py-5"
    >
      <p className="quiet">{sheet.design.title}</p>
      <h1 id="sent" className="flex items-center gap-2 text-2xl" tabIndex={-1} ref={heading}>
        <Check size={22} aria-hidden className="text-lichen" />
        {speak`Sent as ${sent.number}`}
      </h1>
      {thanks !== '' && <p className="mt-2 break-words whitespace-pre-wrap">{thanks}</p>}
      <h2 className="mt-4 font-sans text-[15px]">{speak`See what becomes of it`}</h2>
      <p className="mb-2 text-[14px]">{speak`Keep this address. It is yours alone: whoever has it sees what you sent, and can answer for you.`}</p>
      <div className="flex flex-wrap items-center gap-2">
        <a
          href={address}
          target="_blank"
          rel="noopener"
          className="min-w-0 flex-1 truncate font-mono text-[13px] text-lichen underline"
        >
          {address}
        </a>
        <CopyButton text={address} label={speak`Copy the address`} />
      </div>
      <button type="button" className="button mt-4" onClick={another}>{speak`Fill another one`}</button>
    </section>
  );
}
