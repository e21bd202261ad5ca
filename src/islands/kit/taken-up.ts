import { sameJson } from '../../core/kernel/same-json';
import type { Unsent } from './keeper';

/** What a page begins with: what the server holds, what an earlier page left unsent, or both, when somebody changed it meanwhile. */
export type TakenUp<T> =
  | { readonly t: 'server' }
  | { readonly t: 'unsent'; readonly unsent: Unsent<T> }
  | { readonly t: 'both'; readonly unsent: Unsent<T> };

export function takenUp<T>(
  unsent: Unsent<T> | null,
  server: { readonly value: T; readonly version: number },
): TakenUp<T> {
  if (unsent === null || sameJson(unsent.value, server.value)) return { t: 'server' };
  if (unsent.version === server.version) return { t: 'unsent', unsent };
  // What was on its way when the page closed has arrived, and is all that happened since.
  const arrived =
    unsent.flying !== null && unsent.version + 1 === server.version && sameJson(unsent.flying, server.value);
  return arrived
    ? { t: 'unsent', unsent: { value: unsent.value, version: server.version, flying: null } }
    : { t: 'both', unsent };
}
