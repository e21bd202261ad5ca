import type { WaitingSummary } from '../../contract/answers-from-server';
import type { useTogether } from './use-together';
import { speak } from '../../core/wording/speak';

export const isUsual = ({ unusual }: WaitingSummary): boolean => unusual.length === 0;

interface Props {
  readonly together: ReturnType<typeof useTogether>;
  /** How many could be approved together. */
  readonly most: number;
}

/** What has nothing unusual in it may be approved from the list, several at once. */
export function Together({ together: { chosen, told, busy, pickAll, approve }, most }: Props) {
  if (most < 2 && chosen.length === 0 && told === null) return null;
  return (
    <div className="border-b border-slate-200 px-4 py-2">
      <div className="flex min-h-9 flex-wrap items-center gap-3">
        <label className="flex items-center gap-2 text-[14px]">
          <input
            type="checkbox"
            className="size-4 accent-lichen"
            checked={chosen.length > 0 && chosen.length === most}
            onChange={({ target }) => pickAll(target.checked)}
          />
          {chosen.length === 0
            ? speak`Choose the ${most === 1 ? speak`one` : most} with nothing unusual`
            : speak`${chosen.length} of ${most} with nothing unusual`}
        </label>
        {chosen.length > 0 && (
          <button type="button" className="button button-go" disabled={busy} onClick={() => void approve()}>
            {chosen.length === 1 ? speak`Approve it` : speak`Approve these ${chosen.length}`}
          </button>
        )}
        <span role="status" className="text-[14px] font-semibold text-lichen-deep">
          {told !== null && told.done > 0 && speak`${told.done} approved`}
        </span>
      </div>
      <div role="alert">
        {told?.troubles.map((trouble) => (
          <p key={trouble} className="trouble">
            {trouble}
          </p>
        ))}
      </div>
    </div>
  );
}
