import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { fetched } from '../kit/call';
import { useLive } from '../kit/live';

interface Waiting {
  /** Sheets to decide. */
  readonly waiting: number;
  /** Notices to look at. */
  readonly unseen: number;
}

/** What is told to both islands of the band within this time is asked for once. */
const TOGETHER_MS = 250;
let last: { readonly at: number; readonly answer: Promise<Waiting> } | null = null;

function ask(): Promise<Waiting> {
  if (last === null || Date.now() - last.at > TOGETHER_MS)
    last = { at: Date.now(), answer: fetched<Waiting>('/api/waiting') };
  return last.answer;
}

/** How much waits for this person, always current. */
export function useWaiting(): { waiting: number; unseen: number; again: () => void } {
  const { data, refetch } = useQuery({ queryKey: ['waiting'], queryFn: ask });
  useLive(
    [],
    useCallback(() => void refetch(), [refetch]),
  );
  const again = useCallback(() => {
    // What was asked for a moment ago does not know of it yet.
    last = null;
    void refetch();
  }, [refetch]);
  return { waiting: data?.waiting ?? 0, unseen: data?.unseen ?? 0, again };
}
