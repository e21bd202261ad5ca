import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';

/** How many submissions wait for this person, always current. */
export default function WaitingCount() {
  return (
    <Root>
      <Count />
    </Root>
  );
}

function Count() {
  const { data, refetch } = useQuery({
    queryKey: ['waiting'],
    queryFn: () => fetched<{ waiting: number }>('/api/waiting'),
  });
  useLive(
    [],
    useCallback(() => void refetch(), [refetch]),
  );
  if (!data || data.waiting === 0) return null;
  return (
    <span className="rounded-full bg-marker px-1.5 text-[13px] font-bold text-ink">
      <span className="sr-only">, waiting for you: </span>
      {data.waiting}
    </span>
  );
}
