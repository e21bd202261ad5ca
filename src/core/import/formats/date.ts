import { Temporal } from 'temporal-polyfill';
import { plainDate } from '../../expression/moment';

export type DateOrder = 'ymd' | 'dmy' | 'mdy';

/** A text that is a day: its three numbers in the order they stand, and which orders could be meant. */
export interface DateShape {
  readonly parts: readonly [number, number, number];
  /** The orders in which it is a day of the calendar. */
  readonly orders: readonly DateOrder[];
  /** The month is named, or the year comes first: there is only one way to read it. */
  readonly sure: boolean;
  readonly shortYear: boolean;
  /** `HH:MM:SS` when a time of day follows. */
  readonly time: string | null;
  /** The zone that follows the time, as ISO writes it; null where none does, and the time is that of wherever people are. */
  readonly zone: string | null;
}

const NUMERIC = /^(\d{1,4})([./-])(\d{1,2})\2(\d{1,4})\.?$/;
const NAMED_DAY_FIRST =
  /^(\d{1,2})(?:st|nd|rd|th|er|\.|º)?[\s.-]*(?:de |of )?(\p{L}{3,12})\.?[\s,.-]*(?:de |of )?(\d{4}|\d{2})$/u;
const NAMED_MONTH_FIRST = /^(\p{L}{3,12})\.?\s*(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})$/u;
const WITH_TIME =
  /^(.*\d)(?:[T ]|,\s*)(\d{1,2}:\d{2}(?::\d{2}(?:\.\d{1,9})?)?\s*(?:[ap]\.?m\.?)?)\s?(Z|UTC|GMT|[+-]\d{2}:?\d{2})?$/i;

/** Names of months without accents, January first: English, German, French, Spanish, Italian, Dutch, Portuguese, Swedish, Polish. */
const MONTHS: readonly (readonly string[])[] = [
  'january januar janvier enero gennaio januari janeiro stycznia jaenner',
  'february februar fevrier febrero febbraio februari fevereiro lutego',
  'march marz maerz mars marzo maart marco marca mrt mrz',
  'april avril abril aprile kwietnia',
  'may mai mayo maggio mei maio maj maja',
  'june juni juin junio giugno junho czerwca',
  'july juli juillet julio luglio julho lipca',
  'august aout agosto augustus augusti sierpnia',
  'september septembre septiembre settembre setembro wrzesnia sept',
  'october oktober octobre octubre ottobre outubro pazdziernika',
  'november novembre noviembre novembro listopada',
  'december dezember decembre diciembre dicembre dezembro grudnia',
].map((names) => names.split(' '));

function monthNamed(name: string): number | null {
  const plain = name.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
  const at = MONTHS.findIndex((names) => names.some((full) => full.startsWith(plain)));
  return at < 0 ? null : at + 1;
}

/** The first three letters of the days of the week. */
const DAYS =
  'mon tue wed thu fri sat sun mo. di. mi. do. fr. sa. so. mo, di, mi, do, fr, sa, so, die mit don fre sam son lun mar mer jeu ven dim jue vie mie sab dom gio man tir ons tor lor son maa din woe vri zat zon'.split(
    ' ',
  );
const BEGINNINGS = new Set([
  ...MONTHS.flat().map((name) => name.slice(0, 3)),
  ...DAYS,
  'fév',
  'aoû',
  'déc',
  'mär',
  'paź',
  'jän',
]);

/** A day begins with a number or the name of a month, after the day of the week if that is told. */
function mayBegin(text: string): boolean {
  const first = text.charCodeAt(0);
  if (first < 58) return first > 47;
  return BEGINNINGS.has(text.slice(0, 3).toLowerCase());
}

/** Null when it is no day in any order. */
export function dateShape(text: string): DateShape | null {
  if (text.length < 6 || text.length > 40 || !mayBegin(text)) return null;
  const timed = WITH_TIME.exec(text);
  const time = timed === null ? null : readTime(timed[2] ?? '');
  if (timed !== null && time === null) return null;
  const day = timed === null ? text : (timed[1] ?? '');
  const shape =
    numericDate(day, time) ??
    namedDate(day.replace(/^\p{L}{2,10}\.?,?\s+(?=\d)/u, ''), time) ??
    namedDate(day, time);
  const zone = timed?.[3];
  return shape === null || zone === undefined ? shape : { ...shape, zone: /^[+-]/.test(zone) ? zone : 'Z' };
}

function numericDate(text: string, time: string | null): DateShape | null {
  const found = NUMERIC.exec(text);
  if (found === null) return null;
  const [, a = '', separator, b = '', c = ''] = found;
  const parts = [Number(a), Number(b), Number(c)] as const;
  if (a.length >= 3) return shaped(parts, ['ymd'], true, false, time);
  if (c.length === 3 || c.length === 1) return null;
  // Points between day and month are written where the day comes first.
  return shaped(parts, separator === '.' ? ['dmy'] : ['dmy', 'mdy'], separator === '.', c.length === 2, time);
}

function namedDate(text: string, time: string | null): DateShape | null {
  const first = NAMED_DAY_FIRST.exec(text);
  const [, day = '', name = '', year = ''] = first ?? [];
  const other = first === null ? NAMED_MONTH_FIRST.exec(text) : null;
  const [d, m, y] = other === null ? [day, name, year] : [other[2] ?? '', other[1] ?? '', other[3] ?? ''];
  const month = m === '' ? null : monthNamed(m);
  return month === null ? null : shaped([Number(d), month, Number(y)], ['dmy'], true, y.length === 2, time);
}

function shaped(
  parts: DateShape['parts'],
  orders: readonly DateOrder[],
  sure: boolean,
  shortYear: boolean,
  time: string | null,
): DateShape | null {
  const possible = orders.filter((order) => isoOf(parts, order, shortYear) !== null);
  return possible.length === 0 ? null : { parts, orders: possible, sure, shortYear, time, zone: null };
}

/** The day by one order, as ISO text. Years of two digits are those from 70 years ago to 29 years ahead of 2000: 1970 to 2069. */
export function readDate({ parts, orders, shortYear }: DateShape, order: DateOrder): string | null {
  const [only] = orders;
  return isoOf(parts, orders.length === 1 && only !== undefined ? only : order, shortYear);
}

/**
 * The day and the time by one order, `YYYY-MM-DD HH:MM:SS`: what clocks in `here` show then, where the zone
 * is told. Midnight where no time is.
 */
export function readMoment(shape: DateShape, order: DateOrder, here: string): string | null {
  const day = readDate(shape, order);
  if (day === null) return null;
  const time = shape.time ?? '00:00:00';
  if (shape.zone === null) return `${day} ${time}`;
  try {
    return Temporal.Instant.from(`${day}T${time}${shape.zone}`)
      .toZonedDateTimeISO(here)
      .toPlainDateTime()
      .toString({ smallestUnit: 'second' })
      .replace('T', ' ');
  } catch {
    // No clock is that far from Greenwich.
    return null;
  }
}

function isoOf([a, b, c]: DateShape['parts'], order: DateOrder, shortYear: boolean): string | null {
  const [year, month, day] = order === 'ymd' ? [a, b, c] : order === 'dmy' ? [c, b, a] : [c, a, b];
  const full = !shortYear ? year : year >= 70 ? 1900 + year : 2000 + year;
  return plainDate(
    `${String(full).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`,
  );
}

const TIME = /^(\d{1,2})(?::|h)(\d{2})(?::(\d{2})(?:\.\d+)?)?\s*([ap])?\.?m?\.?$/i;

/** `HH:MM:SS` of a time of day, also `2:30 pm` and `14h30`; null when it is none. */
export function readTime(text: string): string | null {
  if (text.length > 16) return null;
  const found = TIME.exec(text.trim());
  if (found === null) return null;
  const [, h = '', m = '', s = '0', half] = found;
  const hour = half === undefined ? Number(h) : (Number(h) % 12) + (half.toLowerCase() === 'p' ? 12 : 0);
  if (
    hour > 23 ||
    Number(m) > 59 ||
    Number(s) > 59 ||
    (half !== undefined && (Number(h) < 1 || Number(h) > 12))
  )
    return null;
  return [hour, Number(m), Number(s)].map((one) => String(one).padStart(2, '0')).join(':');
}
