import { useCallback, useRef, useState } from 'react';

const UNDO_STEPS = 200;

/** A value that is edited, with the values it had before. */
export function useUndo<T>(first: T) {
  const [value, setValue] = useState(first);
  const [past, setPast] = useState<readonly T[]>([]);
  const latest = useRef(value);
  latest.current = value;
  const edit = useCallback((change: (value: T) => T) => {
    const before = latest.current;
    const after = change(before);
    if (after === before) return;
    latest.current = after;
    setPast((list) => [...list.slice(-UNDO_STEPS), before]);
    setValue(after);
  }, []);
  const undo = () => {
    const before = past.at(-1);
    if (before === undefined) return;
    latest.current = before;
    setValue(before);
    setPast(past.slice(0, -1));
  };
  return { value, edit, undo, canUndo: past.length > 0 };
}
