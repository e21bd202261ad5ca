import { useEffect } from 'react';

/** On a telephone the margin is far below the list: it is gone to once something is in hand. */
export function useToMargin(inHand: unknown): void {
  useEffect(() => {
    if (inHand !== null && matchMedia('(max-width: 1023px)').matches)
      document.getElementById('margin')?.scrollIntoView({ block: 'start' });
  }, [inHand]);
}
