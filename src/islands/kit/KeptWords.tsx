import type { Keeping } from './use-kept';
import { clock } from './when';

/** Whether what was edited is safe on the server. */
export function KeptWords({ keeping, keep }: { keeping: Keeping; keep: () => Promise<boolean> }) {
  if (keeping.t === 'kept')
    return (
      <span role="status" className="quiet">
        {keeping.at !== null && `All edits kept ${clock(keeping.at)}`}
      </span>
    );
  if (keeping.t === 'keeping')
    return (
      <span role="status" className="quiet">
        Keeping…
      </span>
    );
  return (
    <span role="status" className="max-w-80 text-[13px] font-semibold text-ochre">
      {keeping.t === 'refused' ? keeping.words : 'No connection; edits are not kept yet.'}{' '}
      <button type="button" className="button-plain text-[13px]" onClick={() => void keep()}>
        Try again
      </button>
    </span>
  );
}
