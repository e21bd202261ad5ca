import { plainDateTime, plainTime } from '../../expression/moment';
import { DATE_TIME, TIME } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { showDate } from './date';
import type { Kind } from './kind';

/** A time of day in the workspace's zone; seconds are shown where there are any. */
export const time: Kind = {
  type: TIME,
  columnType: () => 'time',
  read(raw) {
    const known = typeof raw === 'string' ? plainTime(withSeconds(raw.trim())) : null;
    return known === null ? fail(issue('not-a-time', [])) : ok(known);
  },
  show: (value) => (typeof value === 'string' ? showTime(value) : ''),
};

/** A day with a time of day, without a zone. PostgreSQL parts them by a space, ISO by a T. */
export const dateTime: Kind = {
  type: DATE_TIME,
  columnType: () => 'timestamp',
  read(raw) {
    const [day = '', at = ''] = typeof raw === 'string' ? raw.trim().split(/[T ]/) : [];
    const known = at === '' ? null : plainDateTime(`${day}T${withSeconds(at)}`);
    return known === null ? fail(issue('not-a-date-time', [])) : ok(known);
  },
  show(value) {
    const [day = '', at = ''] = typeof value === 'string' ? value.split(/[T ]/) : [];
    return day === '' ? '' : `${showDate(day)}, ${showTime(at)}`;
  },
};

const withSeconds = (text: string): string => (/^\d{2}:\d{2}$/.test(text) ? `${text}:00` : text);
const showTime = (text: string): string => text.replace(/:00(\.0+)?$/, '');
