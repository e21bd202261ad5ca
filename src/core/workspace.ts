import { minutesOf, type WorkingTime } from './approval/working-hours';
import type { Formats, FormatsHere } from './formats/formats';
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
  /** How days and numbers are written, in which language: for all who did not choose otherwise. */
  readonly formats: Formats;
  /** ISO 8601 numbers, 1 for Monday. */
  readonly workdays: readonly number[];
  /** ISO dates nobody works on. */
  readonly holidays: readonly string[];
  /** From when until when people work on a working day: `HH:MM`, perhaps with seconds, the second after the first. */
  readonly opens: string;
  readonly closes: string;
}

/** How days and numbers are written for somebody: as for everybody here, but for what they have otherwise. */
export const formatsOf = (
  { formats, zone }: Pick<Workspace, 'formats' | 'zone'>,
  own: Partial<Formats>,
): FormatsHere => ({ ...formats, ...own, zone });

/** When people work here. */
export const workingTime = ({
  workdays,
  holidays,
  opens,
  closes,
}: Pick<Workspace, 'workdays' | 'holidays' | 'opens' | 'closes'>): WorkingTime => ({
  workdays: new Set(workdays),
  holidays: new Set(holidays),
  opens: minutesOf(opens),
  closes: minutesOf(closes),
});

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

/** Days in a row that nobody works on, by ISO dates, both included. */
export interface ClosedDays {
  readonly from: string;
  readonly until: string;
  readonly name: string;
}
