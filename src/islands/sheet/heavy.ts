import type { Select } from '../kit/Select';
import type { Several } from '../kit/Several';
import type { LookupControl } from './LookupControl';

/**
 * Controls that need much script, once that is there. They take the place of their likenesses at once, so
 * that whoever is in one of them stays there.
 */
export const heavy: {
  Select: typeof Select | null;
  Several: typeof Several | null;
  LookupControl: typeof LookupControl | null;
} = {
  Select: null,
  Several: null,
  LookupControl: null,
};

export async function loadHeavy(): Promise<void> {
  const [select, several, lookup] = await Promise.all([
    import('../kit/Select'),
    import('../kit/Several'),
    import('./LookupControl'),
  ]);
  heavy.Select = select.Select;
  heavy.Several = several.Several;
  heavy.LookupControl = lookup.LookupControl;
}
