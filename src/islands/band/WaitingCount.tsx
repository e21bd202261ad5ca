import { Root } from '../kit/Root';
import { useWaiting } from './waiting-now';

/** How many submissions wait for this person, always current. */
export default function WaitingCount() {
  return (
    <Root>
      <Count />
    </Root>
  );
}

function Count() {
  const { waiting } = useWaiting();
  if (waiting === 0) return null;
  return (
    <span className="rounded-full bg-marker px-1.5 text-[13px] font-bold text-ink">
      <span className="sr-only">, waiting for you: </span>
      {waiting}
    </span>
  );
}
