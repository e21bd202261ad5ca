import type { World } from './expression/functions/builtin';
import { personValue, type KnownPerson } from './expression/person';

/** What holds for the whole workspace. It is stored, and part of the catalogue. */
export interface Workspace {
  /** What the organisation calls itself; may be empty. */
  readonly name: string;
  /** IANA name. Days, years of numbers and times of day are those of this zone, on every machine. */
  readonly zone: string;
  /** ISO 4217, of new money questions and columns; empty where their designer has to say. */
  readonly currency: string;
  /** BCP 47 tag: how days and numbers are written. */
  readonly locale: string;
  /** ISO 8601 numbers, 1 for Monday. */
  readonly workdays: readonly number[];
  /** ISO dates nobody works on. */
  readonly holidays: readonly string[];
}

/** What expressions may ask of the world at an ISO date-time of the workspace's zone, in a form that `sender` sends. */
export const worldAt = (
  { workdays, holidays }: Pick<Workspace, 'workdays' | 'holidays'>,
  now: string,
  sender: KnownPerson | null = null,
): World => ({
  today: now.slice(0, 10),
  now,
  calendar: { workdays: new Set(workdays), holidays: new Set(holidays) },
  sender: sender && personValue(sender),
});
