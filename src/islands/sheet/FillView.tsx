import type { SheetData } from '../../contract/sheet-from-server';
import { Root } from '../kit/Root';
import { lazy } from 'react';
import { Later, WakesLater } from '../kit/Awake';
import { Adding } from './Adding';
import { AfterWords } from './AfterWords';
import { ChangedMeanwhile } from './ChangedMeanwhile';
import { Clashes } from './Clashes';
import { BothVersions, NewerRelease, SentBackWord } from './DraftNotices';
import { KeptWords, SetAside } from './DraftState';
import { useSendKey, useUndoKeys } from './fill-keys';
import { FillFrame, ServerWords } from './FillFrame';
import { titleOf, recordAddress } from './sheet-title';
import { loadHeavy } from './heavy';
import { useFill, type Filling } from './use-fill';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const Toasts = lazy(() => import('../kit/Toasts'));

export default function FillView({ data }: { data: SheetData }) {
  return (
    <Root>
      <WakesLater load={loadHeavy}>
        <Adding>
          <Fill data={data} />
        </Adding>
        <Later likeness={null}>{() => <Toasts />}</Later>
      </WakesLater>
    </Root>
  );
}

function Fill({ data }: { data: SheetData }) {
  const fill: Filling = { ...useFill(data), data };
  useSendKey(() => void fill.send());
  useUndoKeys(fill);
  const { submission, record } = data;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-3">
        <div>
          <p className="quiet">
            <Whence data={data} />
          </p>
          <h1 className="text-[23px]">
            {titleOf(data)}{' '}
            <span
              className={`tag align-middle font-sans ${submission?.state === 'sent-back' ? 'bg-marker' : 'bg-slate-200'}`}
            >
              {submission?.state === 'sent-back'
                ? speak`${submission.number ?? ''} was sent back`
                : record === null
                  ? speak`Draft`
                  : speak`Change`}
            </span>
          </h1>
        </div>
        <div className="flex flex-wrap items-center gap-3">
          <KeptWords keeping={fill.keeping} onDevice={fill.onDevice} />
          <SetAside fill={fill} />
          {submission?.state !== 'sent-back' && record === null && (
            <button
              type="button"
              className="button"
              disabled={fill.sending}
              onClick={() => void fill.send(true)}
            >{speak`Send and fill the next`}</button>
          )}
          <button
            type="button"
            className="button button-go max-sm:fixed max-sm:inset-x-3 max-sm:bottom-3 max-sm:z-10 max-sm:justify-center max-sm:shadow-lg"
            disabled={fill.sending}
            onClick={() => void fill.send()}
          >
            {sendWords(data)}
            <kbd className="rounded border border-white/60 px-1 font-mono text-[12px] max-sm:hidden">{speak`Ctrl ⏎`}</kbd>
          </button>
        </div>
      </div>
      {data.after !== null && (
        <p
          role="status"
          className="mb-3 rounded-md bg-lichen-soft px-4 py-2 text-lichen-deep"
        >{speakIn`${(<strong>{speak`${data.after} was sent.`}</strong>)} This is the next one.${(<AfterWords data={data} />)}`}</p>
      )}
      {submission?.state === 'sent-back' && <SentBackWord data={data} />}
      <ServerWords fill={fill} />
      {fill.both !== null && <BothVersions settle={fill.settle} />}
      {record !== null && <ChangedMeanwhile fill={fill} record={record} />}
      {fill.record.clashes.length > 0 && <Clashes fill={fill} />}
      {data.newer !== null && <NewerRelease fill={fill} newer={data.newer} />}
      <FillFrame fill={fill} />
    </>
  );
}

/** Where this sheet stands: among the forms, or by the record it changes. */
function Whence({ data: { design, record } }: { data: SheetData }) {
  const area = design.area !== '' && ` · ${design.area}`;
  if (record === null)
    return (
      <>
        <a href="/" className="crumb">{speak`Home`}</a>
        {area}
      </>
    );
  return (
    <>
      <a href={recordAddress(record)} className="crumb">
        {design.table.label} › {record.number}
      </a>
      {area}
    </>
  );
}

const sendWords = ({ design: { steps }, record }: SheetData): string =>
  record === null
    ? steps.length === 0
      ? speak`Send and keep`
      : speak`Send for approval`
    : steps.length === 0
      ? speak`Save the change`
      : speak`Send the change for approval`;
