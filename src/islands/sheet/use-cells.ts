import { useCallback, useRef, useSyncExternalStore } from 'react';
import type { Place } from '../../core/form/cells';
import type { Sheet } from '../../core/form/sheet';

/**
 * Draws its component anew when one of these cells is typed in or comes out differently, or begins or ceases
 * to be asked; and for nothing else.
 */
export function useCells(sheet: Sheet, places: readonly Place[]): void {
  const version = useRef(0);
  const key = places.map((place) => place.join('/')).join(' ');
  const subscribe = useCallback(
    (told: () => void) => {
      const changed = (): void => {
        version.current += 1;
        told();
      };
      const ends = key
        .split(' ')
        .map((place) => sheet.watchCell(place.split('/') as unknown as Place, changed));
      return () => ends.forEach((end) => end());
    },
    [sheet, key],
  );
  useSyncExternalStore(
    subscribe,
    () => version.current,
    () => version.current,
  );
}
