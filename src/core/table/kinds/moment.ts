import { plainDateTime, plainTime } from '../../expression/moment';
import { DATE_TIME, TIME } from '../../expression/type';
import { issue } from '../../kernel/issue';
import { fail, ok } from '../../kernel/result';
import { readDay, showDate } from '../../formats/days';
import { asItIs, type Kind } from './kind';

/** A time of day in the workspace's zone; seconds are shown where there are any. */
export const time: Kind = {
  type: TIME,
  columnType: () => 'time',
  read(raw) {
    const known = typeof raw === 'string' ? plainTime(withSeconds(raw.trim())) : null;
    return known === null ? fail(issue('not-a-time', [])) : ok(known);
  },
  show: (value) => (typeof value === 'string' ? showTime(value) : ''),
  write: asItIs,
};

/** A day with a time of day, without a zone. PostgreSQL parts them by a space, ISO by a T. */
export const dateTime: Kind = {
  type: DATE_TIME,
  columnType: () => 'timestamp',
  read(raw) {
    // The time stands last, after a T, a comma or a space; what is before it is the day, however it is written.
    const [, day = '', at = ''] =
      typeof raw === 'string' ? (/^(.*?)(?:T|,? +)([^ ]+)$/.exec(raw.trim()) ?? []) : [];
    const date = readDay(day);
    const known = date === null ? null : plainDateTime(`${date}T${withSeconds(at)}`);
    return known === null ? fail(issue('not-a-date-time', [])) : ok(known);
  },
  show(value) {
    const [day = '', at = ''] = typeof value === 'string' ? value.split(/[T ]/) : [];
    return day === '' ? '' : `${showDate(day)}, ${showTime(at)}`;
  },
  write: asItIs,
};

/** 9:30 as 09:30:00. */
function withSeconds(text: string): string {
  const padded = /^\d:/.test(text) ? `0${text}` : text;
  return /^\d{2}:\d{2}$/.test(padded) ? `${padded}:00` : padded;
}
const showTime = (text: string): string => text.replace(/:00(\.0+)?$/, '');
