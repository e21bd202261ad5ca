import { useCallback, useState } from 'react';
import type { Staged } from '../../core/record/staged';

interface History {
  readonly past: readonly Staged[];
  readonly now: Staged;
  readonly future: readonly Staged[];
}
const MOST_UNDONE = 200;

/** What is staged now, what it was before each edit, and what was undone. `edited` is told before every edit. */
export function useStagedHistory(edited: () => void) {
  const [history, setHistory] = useState<History>({ past: [], now: [], future: [] });
  const edit = useCallback(
    (change: (staged: Staged) => Staged) => {
      edited();
      setHistory(({ past, now, future }) => {
        const next = change(now);
        return next === now || (next.length === 0 && now.length === 0)
          ? { past, now, future }
          : { past: [...past, now].slice(-MOST_UNDONE), now: next, future: [] };
      });
    },
    [edited],
  );
  const undo = useCallback(
    () =>
      setHistory((all) => {
        const last = all.past.at(-1);
        return last === undefined
          ? all
          : { past: all.past.slice(0, -1), now: last, future: [all.now, ...all.future] };
      }),
    [],
  );
  const redo = useCallback(
    () =>
      setHistory((all) => {
        const [next, ...future] = all.future;
        return next === undefined ? all : { past: [...all.past, all.now], now: next, future };
      }),
    [],
  );
  return { history, setHistory, edit, undo, redo };
}
