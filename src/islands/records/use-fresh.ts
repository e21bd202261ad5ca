import { useEffect, useRef, useState } from 'react';
import type { GridLine } from './grid-lines';

/** Long enough to be seen, short enough not to be in the way. */
const MARKED_MS = 3_000;

/** Whether somebody else has changed the record a moment ago. What one saved oneself is no news. */
export function useFresh({ record, state }: GridLine): boolean {
  const version = record?.version ?? 0;
  const before = useRef({ version, isOwn: state === 'changed' });
  const [isFresh, setFresh] = useState(false);
  useEffect(() => {
    const was = before.current;
    const isSame = version === was.version;
    // What was typed here is saved before the record is read again, so it stays one's own until then.
    before.current = { version, isOwn: state === 'changed' || (isSame && was.isOwn) };
    if (isSame || was.version === 0 || was.isOwn) return;
    setFresh(true);
    const over = setTimeout(() => setFresh(false), MARKED_MS);
    return () => {
      clearTimeout(over);
      setFresh(false);
    };
  }, [version, state]);
  return isFresh;
}
