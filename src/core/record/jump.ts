import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { typedDay } from '../formats/days';
import { asKept } from '../formats/typed';
import { columnValue } from './column-value';
import type { Place } from './places';

/** How a value of a place is compared: as its kind is, and what is shown by a title as text. */
export const isText = ({ column: { kind } }: Pick<Place, 'column'>): boolean =>
  ['text', 'e-mail', 'web-address', 'phone', 'reference'].includes(kind);

/**
 * What somebody wrote to go to in an order by a place, as PostgreSQL reads it. A day will do for a moment, a
 * choice is named by its words, and of texts the beginning is enough.
 */
export function jumpValue(place: Place, written: string): Result<string, Issue> {
  const text = written.trim();
  const { column } = place;
  const path = ['at'];
  if (text === '') return fail(issue('required', path, { label: place.label }));
  if (isText(place)) return ok(text);
  if (column.kind === 'choice') {
    const small = text.toLowerCase();
    const named = column.choices.find(({ code, label }) =>
      [code, label].some((one) => one.toLowerCase() === small),
    );
    return named === undefined ? fail(issue('not-a-choice', path, { label: place.label })) : ok(named.code);
  }
  if (column.kind === 'yes-no')
    return /^(yes|no|ja|nein)$/i.test(text)
      ? ok(/^(yes|ja)$/i.test(text) ? 'true' : 'false')
      : fail(issue('not-yes-no', path, { label: place.label }));
  const day = column.kind === 'date-time' ? typedDay(text) : null;
  const value = columnValue(column, day === null ? asKept(column.kind, text) : `${day} 00:00`);
  if (!value.ok)
    return fail({ ...value.error, path, facts: { ...value.error.facts, label: place.label } } as Issue);
  return ok(String(value.value));
}
