import { speak, spoken } from '../wording/speak';

/** Days that move with the calendar: how people say them, and how FEEL does. */

const month = 'date(today().year, today().month, 1)';
const ofWeek = (day: 1 | 7): string => `today() - duration("P1D") * (today().weekday - ${day})`;
const off = (days: number): string =>
  days === 0 ? 'today()' : `today() ${days < 0 ? '-' : '+'} duration("P${Math.abs(days)}D")`;

export interface DayRange {
  readonly words: string;
  /** The first and the last day, as FEEL. */
  readonly days: readonly [from: string, to: string];
}

/** Stretches of days that are picked by name. Weeks begin on Monday, as ISO 8601 has it. */
export const dayRanges = spoken((): readonly DayRange[] => [
  { words: speak`this week`, days: [ofWeek(1), ofWeek(7)] },
  { words: speak`this month`, days: [month, `${month} + duration("P1M") - duration("P1D")`] },
  { words: speak`last month`, days: [`${month} - duration("P1M")`, `${month} - duration("P1D")`] },
  { words: speak`this year`, days: ['date(today().year, 1, 1)', 'date(today().year, 12, 31)'] },
  { words: speak`last year`, days: ['date(today().year - 1, 1, 1)', 'date(today().year - 1, 12, 31)'] },
  { words: speak`in the last 7 days`, days: [off(-7), off(0)] },
  { words: speak`in the last 30 days`, days: [off(-30), off(0)] },
  { words: speak`in the next 7 days`, days: [off(0), off(7)] },
  { words: speak`in the next 30 days`, days: [off(0), off(30)] },
]);

/** The name of a stretch between two sides; null where it has none. */
export const rangeWords = ([from, to]: readonly string[]): string | null =>
  dayRanges().find(({ days }) => days[0] === from && days[1] === to)?.words ?? null;

const ends = spoken((): ReadonlySet<string> => new Set(dayRanges().flatMap(({ days }) => days)));
const OFF = /^today\(\) ([-+]) duration\("P(\d{1,5})D"\)$/;

/** Whether an expression is a day that picking can make from today. */
export const isRelativeDay = (feel: string): boolean => ends().has(feel) || OFF.test(feel);

/** `3 days ago`, `tomorrow`; null for what is no day so many days off. */
export function relativeDayWords(feel: string): string | null {
  if (feel === 'today()') return speak`today`;
  const [, sign, count] = OFF.exec(feel) ?? [];
  if (count === undefined) return null;
  if (count === '1') return sign === '-' ? speak`yesterday` : speak`tomorrow`;
  return sign === '-' ? speak`${count} days ago` : speak`in ${count} days`;
}

/** The FEEL of a day that is said from today; null where it is not. */
export function readRelativeDay(said: string): string | null {
  const text = said.trim().toLowerCase().replace(/\s+/g, ' ');
  const known = new Map([
    ['today', 0],
    ['yesterday', -1],
    ['tomorrow', 1],
    ['heute', 0],
    ['gestern', -1],
    ['morgen', 1],
  ]).get(text);
  if (known !== undefined) return off(known);
  const ago = /^(?:(\d{1,5}) days? ago|vor (\d{1,5}) tag(?:en)?)$/.exec(text);
  const ahead = /^in (\d{1,5}) (?:days?|tag(?:en)?)$/.exec(text)?.[1];
  if (ago !== null) return off(-Number(ago[1] ?? ago[2]));
  return ahead !== undefined ? off(Number(ahead)) : null;
}
