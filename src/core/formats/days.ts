import { plainDate, weekday } from '../expression/moment';
import { formatsHere, type DateForm, type Language } from './formats';

interface Names {
  readonly months: readonly string[];
  readonly days: readonly string[];
  /** What stands behind the day of the month. */
  readonly after: string;
}

/** Written by hand, because server and browser may carry different locale data. */
const names: Readonly<Record<Language, Names>> = {
  en: {
    months: ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'],
    days: ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'],
    after: '',
  },
  de: {
    months: ['Jan', 'Feb', 'März', 'Apr', 'Mai', 'Juni', 'Juli', 'Aug', 'Sep', 'Okt', 'Nov', 'Dez'],
    days: ['Mo', 'Di', 'Mi', 'Do', 'Fr', 'Sa', 'So'],
    after: '.',
  },
};

/** 25 Nov, with the year besides: the day a chart or a calendar names. */
export const monthName = (month: number, { language } = formatsHere()): string =>
  names[language].months[month - 1] ?? '';

/** Wed 25 Nov 2026, or in digits where those are wished for. Takes ISO text of a day, or of a day with a time. */
export function showDate(iso: string, { language, dates } = formatsHere()): string {
  const [year = '', month = '', day = ''] = iso.slice(0, 10).split('-');
  if (dates !== 'words') return inDigits[dates](year, month, day);
  const { months, days, after } = names[language];
  return `${days[weekday(iso) - 1]} ${Number(day)}${after} ${months[Number(month) - 1]} ${year}`;
}

type Order = (year: string, month: string, day: string) => string;
const inDigits: Readonly<Record<Exclude<DateForm, 'words'>, Order>> = {
  slashes: (year, month, day) => `${day}/${month}/${year}`,
  dots: (year, month, day) => `${day}.${month}.${year}`,
  'month-first': (year, month, day) => `${month}/${day}/${year}`,
  'year-first': (year, month, day) => `${year}-${month}-${day}`,
};

/** In what order somebody types a day who has it shown in words: that of their language. */
const typedForm = ({ language, dates }: { language: Language; dates: DateForm }) =>
  dates === 'words' ? ({ en: 'slashes', de: 'dots' } as const)[language] : dates;

/** A day as it is typed here: 25/11/2026. */
export const dayInDigits = (iso: string, here = formatsHere()): string => {
  const [year = '', month = '', day = ''] = iso.split('-');
  return inDigits[typedForm(here)](year, month, day);
};

/** What an empty box for a day shows: dd/mm/yyyy. */
export const dayPattern = (here = formatsHere()): string =>
  here.language === 'de'
    ? inDigits[typedForm(here)]('JJJJ', 'MM', 'TT')
    : inDigits[typedForm(here)]('yyyy', 'mm', 'dd');

/** Two numbers and a year, with any of the usual signs between; or with the month in letters, in any language there is. */
const IN_DIGITS = /^(\d{1,2})[/.\- ] ?(\d{1,2})[/.\- ] ?(\d{4})$/;
const IN_LETTERS = /^(?:[a-z]{2,10}[.,]{0,2} )?(\d{1,2})(?:st|nd|rd|th|\.)? ([a-zä]{3})[a-z]*\.?,? (\d{4})$/i;
const YEAR_FIRST = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/;

/**
 * A day as people write it, as ISO text; null for what is none, such as 30 February. Nothing is guessed: years
 * have four digits. Of two numbers the first is the day, but for those who have it the other way round.
 */
export function readDay(text: string, form: DateForm = 'slashes'): string | null {
  const written = text.trim().replace(/[\s\u00a0]+/g, ' ');
  const iso = plainDate(written);
  if (iso !== null) return iso;
  const [, first, second, year] = IN_DIGITS.exec(written) ?? [];
  if (first !== undefined)
    return form === 'month-first' ? ofParts(year, first, second) : ofParts(year, second, first);
  const [, y, m, d] = YEAR_FIRST.exec(written) ?? [];
  if (y !== undefined) return ofParts(y, m, d);
  const [, date, name = '', inYear] = IN_LETTERS.exec(written) ?? [];
  const at = monthNamed(name.toLowerCase());
  return at < 0 ? null : ofParts(inYear, String(at + 1), date);
}

/** What somebody types here as a day. */
export const typedDay = (text: string): string | null => readDay(text, formatsHere().dates);

/** The first three letters tell a month in every language there is. */
const monthNamed = (start: string): number =>
  Object.values(names)
    .map(({ months }) => months.findIndex((one) => one.slice(0, 3).toLowerCase() === start))
    .find((at) => at >= 0) ?? -1;

const ofParts = (year = '', month = '', day = ''): string | null =>
  plainDate(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`);
