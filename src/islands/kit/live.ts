import { useEffect, useRef } from 'react';

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
  listenTo(wanted);
}

/** A browser gives up for good when it is answered anything but a stream, as while the database is away; then it is asked again. */
const AGAIN_MS = 5_000;

function listenTo(wanted: string): void {
  const stream = new EventSource(wanted);
  source = stream;
  stream.addEventListener('error', () => {
    if (stream.readyState !== EventSource.CLOSED) return;
    setTimeout(() => {
      if (source === stream && open === wanted) listenTo(wanted);
    }, AGAIN_MS);
  });
  stream.addEventListener('changed', (event) => tell((JSON.parse(event.data) as { topic: string }).topic));
  // What happened after the page was made and before it listened, or while the browser was connecting again, is asked for.
  stream.addEventListener('open', () => tell('again'));
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
  // A function made anew at every render must not make the stream anew.
  const latest = useRef(changed);
  useEffect(() => {
    latest.current = changed;
  }, [changed]);
  useEffect(() => {
    const wanted = key === '' ? [] : key.split(',');
    const told: Told = (topic) => {
      if (topic === 'again' || topic.startsWith('person:') || wanted.includes(topic)) latest.current();
    };
    followers.set(told, wanted);
    watchVisibility();
    refresh();
    return () => {
      followers.delete(told);
      // Another island may begin to follow in the same moment; one stream serves both.
      queueMicrotask(refresh);
    };
  }, [key]);
}

/** What is told in one topic beside that something changed: words behind its name. */
export function useLiveWords(topic: string, told: (words: string) => void): void {
  const latest = useRef(told);
  useEffect(() => {
    latest.current = told;
  }, [told]);
  useEffect(() => {
    const hear: Told = (words) => {
      if (words.startsWith(`${topic} `)) latest.current(words.slice(topic.length + 1));
    };
    followers.set(hear, [topic]);
    watchVisibility();
    refresh();
    return () => {
      followers.delete(hear);
      queueMicrotask(refresh);
    };
  }, [topic]);
}
