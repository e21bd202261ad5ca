import type { Select } from '../kit/Select';
import type { LookupControl } from './LookupControl';

/** Controls that need much script, once that is there. They take the place of their likenesses at once, so that whoever is in one of them stays there. */
export const heavy: { Select: typeof Select | null; LookupControl: typeof LookupControl | null } = {
  Select: null,
  LookupControl: null,
};

export async function loadHeavy(): Promise<void> {
  const [select, lookup] = await Promise.all([import('../kit/Select'), import('./LookupControl')]);
  heavy.Select = select.Select;
  heavy.LookupControl = lookup.LookupControl;
}
