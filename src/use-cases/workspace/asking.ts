import { Temporal } from 'temporal-polyfill';
import type { Person } from '../../core/access/rules';
import { forbidden, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { mayDesign } from '../../core/access/rules';

/** What a use case is told of the request besides its input. */
export interface Context {
  readonly person: Person;
  readonly now: Date;
}

/** The date and time of a zone at an instant; the change of clocks is the calendar library's business. */
export const localTime = ({ zone }: { readonly zone: string }, now: Date): string =>
  Temporal.Instant.fromEpochMilliseconds(now.getTime())
    .toZonedDateTimeISO(zone)
    .toPlainDateTime()
    .toString({ smallestUnit: 'second' });

/**
 * The instant at which it is that date and time in a zone; of an hour that comes twice the first, of one that
 * is left out the one after it.
 */
export const instantOf = ({ zone }: { readonly zone: string }, local: string): Date =>
  new Date(Temporal.PlainDateTime.from(local).toZonedDateTime(zone).epochMilliseconds);

export const designer = (context: Context): Result<Person, Refusal> =>
  mayDesign(context.person) ? ok(context.person) : fail(forbidden('design'));
