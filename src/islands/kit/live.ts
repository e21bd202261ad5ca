import { useEffect } from 'react';

/**
 * One stream per page, shared by its islands, and closed while the page is hidden: browsers allow six connections
 * to a host, over all tabs. Coming back counts as a change, for something may have been missed.
 */
type Told = (topic: string) => void;

const followers = new Map<Told, readonly string[]>();
let source: EventSource | null = null;
let open = '';

function refresh(): void {
  const topics = [...new Set([...followers.values()].flat())].sort().join(',');
  const wanted =
    followers.size === 0 || document.hidden ? '' : `/api/live?topics=${encodeURIComponent(topics)}`;
  if (wanted === open) return;
  source?.close();
  source = null;
  open = wanted;
  if (wanted === '') return;
  source = new EventSource(wanted);
  source.addEventListener('changed', (event) => tell((JSON.parse(event.data) as { topic: string }).topic));
  // What happened after the page was made and before it listened, or while the browser was connecting again, is asked for.
  source.addEventListener('open', () => tell('again'));
}

function tell(topic: string): void {
  for (const told of followers.keys()) told(topic);
}

let watching = false;
function watchVisibility(): void {
  if (watching) return;
  watching = true;
  document.addEventListener('visibilitychange', () => {
    refresh();
    if (!document.hidden) tell('again');
  });
}

/** Calls `changed` when anybody's change lands in one of the topics, or in what concerns this person. */
export function useLive(topics: readonly string[], changed: () => void): void {
  const key = topics.join(',');
  useEffect(() => {
    const wanted = key === '' ? [] : key.split(',');
    const told: Told = (topic) => {
      if (topic === 'again' || topic.startsWith('person:') || wanted.includes(topic)) changed();
    };
    followers.set(told, wanted);
    watchVisibility();
    refresh();
    return () => {
      followers.delete(told);
      refresh();
    };
  }, [key, changed]);
}
