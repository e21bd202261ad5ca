import { issue, type Issue } from '../kernel/issue';

/** When colleagues may fill a form, beside who may. It is no part of its design: it holds at once, for every release. */
export interface Opening {
  readonly closed: boolean;
  /** ISO date-times of the workspace's zone; null for no end. `until` itself is over. */
  readonly from: string | null;
  readonly until: string | null;
  /** How many submissions there may be; those sent back and sent again count once. */
  readonly most: number | null;
}

export const alwaysOpen: Opening = { closed: false, from: null, until: null, most: null };

export type Shut = 'form-closed' | 'form-not-yet' | 'form-over' | 'form-full';

/** Why a form cannot be filled at a moment of the workspace's zone, with so many submissions sent; null where it can. */
export function shutAt({ closed, from, until, most }: Opening, now: string, sent: number): Shut | null {
  if (closed) return 'form-closed';
  if (from !== null && now < from) return 'form-not-yet';
  if (until !== null && now >= until) return 'form-over';
  return most !== null && sent >= most ? 'form-full' : null;
}

/** What makes no sense of it. */
export const openingIssues = ({ from, until }: Opening): Issue[] =>
  from !== null && until !== null && from >= until ? [issue('opening-order', ['until'])] : [];
