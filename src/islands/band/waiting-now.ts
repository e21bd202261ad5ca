import { useQuery } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';

interface Waiting {
  /** Sheets to decide. */
  readonly waiting: number;
  /** Notices to look at. */
  readonly unseen: number;
  /** What nobody can decide, for administrators. */
  readonly stuck: number;
}

/** Changes come in bursts: what is heard within this time is asked for in one, after it. */
const BURST_MS = 100;
/** Both islands of the band hear of a change in the same moment, and ask for it once. */
const SAME_MS = 20;
let last: { readonly at: number; readonly answer: Promise<Waiting> } | null = null;

function ask(): Promise<Waiting> {
  if (last === null || Date.now() - last.at > SAME_MS)
    last = { at: Date.now(), answer: fetched<Waiting>('/api/waiting') };
  return last.answer;
}

/** How much waits for this person, always current. */
export function useWaiting(): Waiting & { again: () => void } {
  const { data, refetch } = useQuery({ queryKey: ['waiting'], queryFn: ask });
  const soon = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLive(
    [],
    useCallback(() => {
      soon.current ??= setTimeout(() => {
        soon.current = null;
        void refetch();
      }, BURST_MS);
    }, [refetch]),
  );
  const again = useCallback(() => {
    // What was asked for a moment ago does not know of it yet.
    last = null;
    void refetch();
  }, [refetch]);
  return { ...(data ?? { waiting: 0, unseen: 0, stuck: 0 }), again };
}
