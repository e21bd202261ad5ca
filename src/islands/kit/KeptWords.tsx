import type { Keeping } from './keeper';
import { clock } from './when';
import { speak } from '../../core/wording/speak';

/** Whether what was edited is safe on the server. */
export function KeptWords({ keeping, keep }: { keeping: Keeping; keep: () => Promise<boolean> }) {
  switch (keeping.t) {
    case 'fresh':
    case 'typing':
    case 'kept':
      return (
        <span role="status" className="quiet">
          {keeping.t === 'typing' && speak`Saving…`}
          {keeping.t === 'kept' && keeping.at !== null && speak`All edits saved ${clock(keeping.at)}`}
        </span>
      );
    case 'away':
    case 'refused':
      return (
        <span role="status" className="max-w-80 text-[13px] font-semibold text-ochre">
          {keeping.t === 'refused' ? keeping.words : speak`No connection; your edits are not saved yet.`}{' '}
          <button
            type="button"
            className="button-plain text-[13px]"
            onClick={() => void keep()}
          >{speak`Try again`}</button>
        </span>
      );
  }
}
