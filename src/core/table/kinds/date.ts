import { plainDate, weekday } from '../../expression/moment';
import { DATE } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { asItIs, type Kind } from './kind';

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Wed 25 Nov 2026. Written by hand, because server and browser may carry different locale data. */
export function showDate(iso: string): string {
  const [year = '', month, day] = iso.slice(0, 10).split('-');
  return `${days[weekday(iso) - 1]} ${Number(day)} ${months[Number(month) - 1]} ${year}`;
}

/** Day first, as here, with any of the usual signs between; or with the month in letters, as days are shown. */
const DAY_FIRST = /^(\d{1,2})[/.\- ](\d{1,2})[/.\- ](\d{4})$/;
const IN_LETTERS = /^(?:[a-z]{2,9},? )?(\d{1,2})(?:st|nd|rd|th)? ([a-z]{3})[a-z]*,? (\d{4})$/i;
const YEAR_FIRST = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/;

/** A day as people write it, as ISO text; null for what is none, such as 30 February. Nothing is guessed: years have four digits. */
export function readDay(text: string): string | null {
  const written = text.trim().replace(/[\s\u00a0]+/g, ' ');
  const iso = plainDate(written);
  if (iso !== null) return iso;
  const [, d, m, y] = DAY_FIRST.exec(written) ?? [];
  if (d !== undefined) return ofParts(y, m, d);
  const [, year, month, day] = YEAR_FIRST.exec(written) ?? [];
  if (year !== undefined) return ofParts(year, month, day);
  const [, date, name, inYear] = IN_LETTERS.exec(written) ?? [];
  const at = months.findIndex((one) => one.toLowerCase() === name?.toLowerCase());
  return at < 0 ? null : ofParts(inYear, String(at + 1), date);
}

const ofParts = (year = '', month = '', day = ''): string | null =>
  plainDate(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`);

export const date: Kind = {
  type: DATE,
  columnType: () => 'date',
  read(raw) {
    const known = typeof raw === 'string' ? readDay(raw) : null;
    return known === null ? fail(issue('not-a-date', [])) : ok(known);
  },
  show: (value) => (typeof value === 'string' ? showDate(value) : ''),
  write: asItIs,
};
