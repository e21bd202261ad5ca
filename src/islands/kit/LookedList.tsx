import type { LookedData } from '../../contract/people';
import { when } from './when';
import { speak } from '../../core/wording/speak';

const SHOWN = 5;

/** Who looked as somebody, the latest first. */
export function LookedList({ looked }: { readonly looked: readonly LookedData[] }) {
  if (looked.length === 0) return null;
  return (
    <ul className="quiet mt-2 grid gap-0.5" aria-label={speak`Who looked`}>
      {looked.slice(0, SHOWN).map(({ by, from, until }) => (
        <li key={from}>
          {by}, {when(from)}
          {until === null && speak`, still looking`}
        </li>
      ))}
      {looked.length > SHOWN && <li>{speak`and ${looked.length - SHOWN} times before`}</li>}
    </ul>
  );
}
