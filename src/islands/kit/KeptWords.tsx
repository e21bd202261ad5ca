import type { Keeping } from './keeper';
import { clock } from './when';

/** Whether what was edited is safe on the server. */
export function KeptWords({ keeping, keep }: { keeping: Keeping; keep: () => Promise<boolean> }) {
  switch (keeping.t) {
    case 'fresh':
    case 'typing':
    case 'kept':
      return (
        <span role="status" className="quiet">
          {keeping.t === 'typing' && 'Saving…'}
          {keeping.t === 'kept' && keeping.at !== null && `All edits saved ${clock(keeping.at)}`}
        </span>
      );
    case 'away':
    case 'refused':
      return (
        <span role="status" className="max-w-80 text-[13px] font-semibold text-ochre">
          {keeping.t === 'refused' ? keeping.words : 'No connection; your edits are not saved yet.'}{' '}
          <button type="button" className="button-plain text-[13px]" onClick={() => void keep()}>
            Try again
          </button>
        </span>
      );
  }
}
