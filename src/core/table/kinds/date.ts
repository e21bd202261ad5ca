import { Temporal } from 'temporal-polyfill';
import { plainDate } from '../../expression/moment';
import { DATE } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import type { Kind } from './kind';

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Wed 25 Nov 2026. Written by hand, because server and browser may carry different locale data. */
export function showDate(iso: string): string {
  const date = Temporal.PlainDate.from(iso);
  return `${days[date.dayOfWeek - 1]} ${date.day} ${months[date.month - 1]} ${date.year}`;
}

export const date: Kind = {
  type: DATE,
  columnType: () => 'date',
  read(raw) {
    const known = typeof raw === 'string' ? plainDate(raw.trim()) : null;
    return known === null ? fail(issue('not-a-date', [])) : ok(known);
  },
  show: (value) => (typeof value === 'string' ? showDate(value) : ''),
};
