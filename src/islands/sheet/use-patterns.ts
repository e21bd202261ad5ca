import { useEffect, useState } from 'react';
import { loadPatterns } from '../../core/expression/functions/patterns';

/** Whether the engine for patterns has come, of which most forms need none. */
export function usePatterns(needed: boolean): boolean {
  const [loaded, setLoaded] = useState(false);
  useEffect(() => {
    if (needed) void loadPatterns().then(() => setLoaded(true));
  }, [needed]);
  return loaded;
}
