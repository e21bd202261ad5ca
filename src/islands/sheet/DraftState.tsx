import { useState } from 'react';
import { call } from '../kit/call';
import type { Keeping } from '../kit/keeper';
import { clock } from '../kit/when';
import { recordAddress } from './sheet-title';
import type { Filling } from './use-fill';
import { speak } from '../../core/wording/speak';

/** Whether what is typed is kept, in words. */
export function KeptWords({ keeping, onDevice }: { keeping: Keeping; onDevice: boolean }) {
  const words = {
    fresh: () => speak`Saved as you type`,
    typing: () => speak`Saving…`,
    kept: (one: Keeping) => (one.t === 'kept' && one.at !== null ? speak`Saved ${clock(one.at)}` : ''),
    away: () =>
      onDevice
        ? speak`No connection · saved on this device`
        : speak`No connection, and this device keeps no more: leave this page open`,
    refused: (one: Keeping) => (one.t === 'refused' ? one.words : ''),
  }[keeping.t](keeping);
  return (
    <span
      role="status"
      className={
        keeping.t === 'away' || keeping.t === 'refused' ? 'text-[13px] font-semibold text-ochre' : 'quiet'
      }
    >
      {words}
    </span>
  );
}

/** Leaves the draft for later, or throws it away. */
export function SetAside({ fill }: { fill: Filling }) {
  const { record } = fill.data;
  const away = record === null ? '/' : recordAddress(record);
  const aside = async () => {
    if (fill.keeping.t === 'fresh' || (await fill.flush())) location.assign(away);
  };
  const [sure, setSure] = useState(false);
  const drop = async () => {
    if (!sure) return setSure(true);
    fill.forget();
    if (fill.keeping.t !== 'fresh') await call('DELETE', `/api/submissions/${fill.id}`);
    location.assign(away);
  };
  const isDraft = fill.data.submission === null || fill.data.submission.state === 'draft';
  return (
    <>
      {isDraft && fill.keeping.t !== 'fresh' && (
        <button
          type="button"
          className="button button-stop"
          onClick={() => void drop()}
          onBlur={() => setSure(false)}
        >
          {sure ? speak`Throw it away for good` : speak`Throw away`}
        </button>
      )}
      <button type="button" className="button" onClick={() => void aside()}>{speak`Set aside`}</button>
    </>
  );
}
