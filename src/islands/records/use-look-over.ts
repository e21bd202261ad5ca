import { useCallback, useEffect, useState } from 'react';
import type { StagedEdits } from './use-staged';

/**
 * Looking staged edits over, and saving them by Ctrl S wherever the focus is. What somebody else changed
 * meanwhile is looked over by itself.
 */
export function useLookOver(edits: StagedEdits) {
  const [isLookedOver, setLookedOver] = useState(false);
  const save = useCallback(async () => {
    if ((await edits.save()) || edits.staged.length === 0) setLookedOver(false);
  }, [edits]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      void save();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [save]);
  const { meanwhile } = edits;
  useEffect(() => {
    if (meanwhile.size > 0) setLookedOver(true);
  }, [meanwhile]);
  return { isLookedOver, setLookedOver, save };
}
