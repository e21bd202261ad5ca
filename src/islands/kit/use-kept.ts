import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { Result } from '../../core/kernel/result';

/** After the last edit; an edit is a word or a pick, so waiting longer would only risk more. */
const KEEP_AFTER_MS = 600;

export type Keeping =
  | { t: 'kept'; at: string | null }
  | { t: 'keeping' }
  | { t: 'refused'; words: string }
  | { t: 'no-connection' };

interface Draft<T> {
  readonly value: T;
  /** The version the first value has on the server, and when it was kept there. */
  readonly version: number;
  readonly at: string | null;
  /** Sends a value that was drawn on a version; gives the version it has then. */
  readonly send: (version: number, value: T) => Promise<Result<{ version: number }, Problem>>;
}

/** Keeps a draft on the server a moment after each edit, one request after the other; each names the version it began from. */
export function useKept<T>({ value, version: first, at, send }: Draft<T>) {
  const version = useRef(first);
  const [keeping, setKeeping] = useState<Keeping>({ t: 'kept', at });
  const kept = useRef(value);
  const latest = useRef(value);
  const sending = useRef(send);
  const running = useRef<Promise<boolean> | null>(null);
  latest.current = value;
  sending.current = send;

  const keep = useCallback(async (): Promise<boolean> => {
    if (running.current !== null) await running.current;
    const sent = latest.current;
    if (sent === kept.current) return true;
    setKeeping({ t: 'keeping' });
    running.current = sending.current(version.current, sent).then(
      (result) => {
        if (!result.ok) return (setKeeping({ t: 'refused', words: problemWords(result.error) }), false);
        version.current = result.value.version;
        kept.current = sent;
        setKeeping({ t: 'kept', at: new Date().toISOString() });
        return true;
      },
      () => (setKeeping({ t: 'no-connection' }), false),
    );
    const done = await running.current;
    running.current = null;
    return done;
  }, []);

  useEffect(() => {
    if (value === kept.current) return;
    const timer = setTimeout(() => void keep(), KEEP_AFTER_MS);
    return () => clearTimeout(timer);
  }, [value, keep]);
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (latest.current !== kept.current) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => window.removeEventListener('beforeunload', leave);
  }, []);
  return { keeping, keep, version };
}

const problemWords = ({ title, issues = [] }: Problem): string =>
  [title, ...issues.slice(0, 2).map(({ path, sentence }) => `${path.join('.')}: ${sentence}`)].join('. ');
