import { Root } from '../kit/Root';
import { useWaiting } from './waiting-now';
import { speak } from '../../core/wording/speak';

/** How many submissions wait for this person, or for nobody, always current. */
export default function WaitingCount({ of = 'waiting' }: { of?: 'waiting' | 'stuck' }) {
  return (
    <Root>
      <Count of={of} />
    </Root>
  );
}

function Count({ of }: { of: 'waiting' | 'stuck' }) {
  const count = useWaiting()[of];
  if (count === 0) return null;
  return (
    <span className="rounded-full bg-marker px-1.5 text-[13px] font-bold text-ink">
      <span className="sr-only">
        , {of === 'waiting' ? speak`waiting for you` : speak`waiting for nobody`}:{' '}
      </span>
      {count}
    </span>
  );
}
