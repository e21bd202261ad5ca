import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem } from '../../contract/answers-from-server';
import type { Result } from '../../core/kernel/result';
import { Keeper, pageClock, type Keeping } from './keeper';

/** After the last edit; an edit is a word or a pick, so waiting longer would only risk more. */
const KEEP_AFTER_MS = 600;

interface Draft<T> {
  readonly value: T;
  /** The version the first value has on the server, and when it was kept there. */
  readonly version: number;
  readonly at: string | null;
  /** Sends a value that was drawn on a version; gives the version it has then. */
  readonly send: (version: number, value: T) => Promise<Result<{ version: number }, Problem>>;
}

/** Keeps a draft on the server a moment after each edit, and warns before the page is left while something is not there. */
export function useKept<T>({ value, version, at, send }: Draft<T>) {
  const [keeping, setKeeping] = useState<Keeping>({ t: 'kept', at });
  const sending = useRef(send);
  useEffect(() => {
    sending.current = send;
  }, [send]);
  const [keeper] = useState(
    () =>
      new Keeper<T>(
        { value, version, keeping: { t: 'kept', at }, keepAfter: KEEP_AFTER_MS },
        {
          send: (drawnOn, next) => sending.current(drawnOn, next),
          ...pageClock,
          told: setKeeping,
          // A design is edited at a desk: what could not be sent is warned of, and not kept on the device.
          store: () => undefined,
        },
      ),
  );
  const seen = useRef(value);
  useEffect(() => {
    if (value === seen.current) return;
    seen.current = value;
    keeper.edited(value);
  }, [value, keeper]);
  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (keeper.isBehind) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => {
      window.removeEventListener('beforeunload', leave);
      keeper.stop();
    };
  }, [keeper]);
  const keep = useCallback(() => keeper.flush(), [keeper]);
  return { keeping, keep, keeper };
}
