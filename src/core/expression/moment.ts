import Big from 'big.js';
import { Duration } from './duration';

/**
 * Days, times and date-times without a zone, as ISO text that sorts as it stands. Years run from 1 to 9999; what leaves them is null.
 * Days of the calendar are counted here by arithmetic, since a sheet compares and moves thousands of them,
 * and Temporal would be 20 kB of its script.
 */
const DAY = /^\d{4}-\d{2}-\d{2}$/;
/** To the millionth of a second, which is what PostgreSQL keeps. */
const TIME = /^(\d{2}:\d{2}:\d{2})(?:\.(\d{1,6}))?$/;

/** The text itself when it is a day of the calendar as ISO 8601 writes it, else null (30 February is no day). */
export function plainDate(text: string): string | null {
  if (!DAY.test(text) || text.startsWith('0000')) return null;
  const [y, m, d] = [Number(text.slice(0, 4)), Number(text.slice(5, 7)), Number(text.slice(8, 10))];
  return m >= 1 && m <= 12 && d >= 1 && d <= daysIn(y, m) ? text : null;
}

const leap = (year: number): boolean => year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
const daysIn = (year: number, month: number): number =>
  month === 2 ? (leap(year) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31;

/** `HH:MM:SS` with up to six decimals, zeros at their end cut; null when there is no such time. */
export function plainTime(text: string): string | null {
  const match = TIME.exec(text);
  const [whole = '', part = ''] = match === null ? [] : [match[1], match[2]];
  const [h, m, s] = whole.split(':').map(Number);
  if (match === null || h === undefined || h > 23 || (m ?? 60) > 59 || (s ?? 60) > 59) return null;
  const decimals = part.replace(/0+$/, '');
  return decimals === '' ? whole : `${whole}.${decimals}`;
}

export function plainDateTime(text: string): string | null {
  const [day, time, more] = text.split('T');
  const [d, t] = [plainDate(day ?? ''), plainTime(time ?? '00:00:00')];
  return d === null || t === null || more !== undefined ? null : `${d}T${t}`;
}

/** Days since 1970-01-01, after the arithmetic of Howard Hinnant's "days from civil". */
export function dayNumber(date: string): number {
  const [year, month, day] = [Number(date.slice(0, 4)), Number(date.slice(5, 7)), Number(date.slice(8, 10))];
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const ofEra = y - era * 400;
  const ofYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * 146_097 + ofEra * 365 + Math.floor(ofEra / 4) - Math.floor(ofEra / 100) + ofYear - 719_468;
}

const FIRST = dayNumber('0001-01-01');
const LAST = dayNumber('9999-12-31');

/** The inverse of `dayNumber`; null outside the calendar. */
export function dateOfDay(days: number): string | null {
  if (!(days >= FIRST && days <= LAST)) return null;
  const z = days + 719_468;
  const era = Math.floor(z / 146_097);
  const ofEra = z - era * 146_097;
  const yearOfEra = Math.floor(
    (ofEra - Math.floor(ofEra / 1_460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365,
  );
  const ofYear = ofEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shifted = Math.floor((5 * ofYear + 2) / 153);
  const day = ofYear - Math.floor((153 * shifted + 2) / 5) + 1;
  const month = shifted < 10 ? shifted + 3 : shifted - 9;
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
  return `${pad(year, 4)}-${pad(month, 2)}-${pad(day, 2)}`;
}

const pad = (n: number, width: number): string => String(n).padStart(width, '0');

/** A day some days on; a part of a day rounds down, since a day that is added hours is still that day. */
export const addDays = (date: string, seconds: Big): string | null =>
  dateOfDay(
    dayNumber(date) +
      seconds
        .div(86_400)
        .round(0, seconds.lt(0) ? Big.roundUp : Big.roundDown)
        .toNumber(),
  );

/** The same day of the month some months on, or its last when it is shorter. */
export function addMonths(date: string, months: number): string | null {
  const since = Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1 + months;
  const [year, month] = [Math.floor(since / 12), (((since % 12) + 12) % 12) + 1];
  if (!(year >= 1 && year <= 9999)) return null;
  return `${pad(year, 4)}-${pad(month, 2)}-${pad(Math.min(Number(date.slice(8, 10)), daysIn(year, month)), 2)}`;
}

export const datePart = (moment: string): string => moment.slice(0, 10);
export const timePart = (moment: string): string => moment.slice(11);

function secondsOf(time: string): Big {
  const [h = 0, m = 0, s = 0] = time.split(':');
  return new Big(h).times(3_600).plus(new Big(m).times(60)).plus(s);
}

/** Seconds since the beginning of 1970, as if there were no zones. */
export const momentSeconds = (moment: string): Big =>
  new Big(dayNumber(moment)).times(86_400).plus(moment.length > 10 ? secondsOf(timePart(moment)) : 0);

function timeText(seconds: Big): string {
  const micros = seconds.round(6, Big.roundDown);
  const [h, m, s] = [micros.div(3_600).round(0, 0), micros.mod(3_600).div(60).round(0, 0), micros.mod(60)];
  const [whole = '0', part] = s.toFixed().split('.');
  return `${pad(h.toNumber(), 2)}:${pad(m.toNumber(), 2)}:${whole.padStart(2, '0')}${part === undefined ? '' : `.${part}`}`;
}

function momentOf(seconds: Big): string | null {
  const days = seconds.div(86_400).round(0, Big.roundDown);
  const below = days.times(86_400).gt(seconds) ? days.minus(1) : days;
  const date = dateOfDay(below.toNumber());
  return date && `${date}T${timeText(seconds.minus(below.times(86_400)))}`;
}

/** A day, a time or a date-time moved by a duration; a time goes round the clock. */
export function moved(moment: string, by: Duration): string | null {
  if (by.unit === 'months') {
    const date = addMonths(datePart(moment), by.amount.toNumber());
    return date && (moment.length > 10 ? `${date}T${timePart(moment)}` : date);
  }
  if (moment.charAt(2) === ':') {
    const sum = secondsOf(moment).plus(by.amount).mod(86_400);
    return timeText(sum.lt(0) ? sum.plus(86_400) : sum);
  }
  return moment.length > 10 ? momentOf(momentSeconds(moment).plus(by.amount)) : addDays(moment, by.amount);
}

/** How long from `earlier` to `later`; both days, both times, or both date-times. */
export function between(later: string, earlier: string): Duration {
  const seconds = (moment: string) => (moment.charAt(2) === ':' ? secondsOf(moment) : momentSeconds(moment));
  return new Duration('seconds', seconds(later).minus(seconds(earlier)));
}

/** Whole months from one day to another, cut towards zero. */
export function monthsBetween(from: string, to: string): Duration {
  const [y1, m1, d1, y2, m2, d2] = [from, to].flatMap((day) => [
    Number(day.slice(0, 4)),
    Number(day.slice(5, 7)),
    Number(day.slice(8, 10)),
  ]) as [number, number, number, number, number, number];
  const months = (y2 - y1) * 12 + m2 - m1;
  const short = datePart(to) >= datePart(from) ? (d2 < d1 ? -1 : 0) : d2 > d1 ? 1 : 0;
  return new Duration('months', new Big(months + short));
}

/** 1 for Monday to 7 for Sunday. */
export const weekday = (date: string): number => ((((dayNumber(date) + 3) % 7) + 7) % 7) + 1;

export type MomentPart = 'year' | 'month' | 'day' | 'weekday' | 'hour' | 'minute' | 'second';

export function momentPart(moment: string, part: MomentPart): Big {
  const time = moment.charAt(2) === ':' ? moment : timePart(moment);
  switch (part) {
    case 'year':
      return new Big(Number(moment.slice(0, 4)));
    case 'month':
      return new Big(Number(moment.slice(5, 7)));
    case 'day':
      return new Big(Number(moment.slice(8, 10)));
    case 'weekday':
      return new Big(weekday(moment));
    case 'hour':
      return new Big(Number(time.slice(0, 2)));
    case 'minute':
      return new Big(Number(time.slice(3, 5)));
    case 'second':
      return new Big(Number(time.slice(6, 8)));
  }
}
