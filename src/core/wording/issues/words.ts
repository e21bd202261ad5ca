import { speak, spoken, translated } from '../speak';

/** A question mark inside a sentence would end it, so such labels are quoted. */
export const named = (label: string): string =>
  label === '' ? speak`This` : /[?.!…]$/.test(label) ? `“${label}”` : label;
export const words = (fact: unknown): string => (fact === null || fact === undefined ? '' : String(fact));
export const orMeant = (fact: unknown): string => (fact ? speak`; did you mean ${words(fact)}?` : '');
/** So many, of what the plural is one with an s. */
export const plural = (fact: unknown, one: string): string =>
  translated(`{0} ${one}`, [Number(fact)]) ?? `${words(fact)} ${one}${fact === 1 ? '' : 's'}`;

const typeWords = spoken((): Readonly<Record<string, string>> => ({
  number: speak`a number`,
  text: speak`text`,
  'yes-no': speak`yes or no`,
  date: speak`a date`,
  time: speak`a time of day`,
  'date-time': speak`a date with a time`,
  days: speak`a duration in days or hours`,
  months: speak`a duration in months or years`,
  record: speak`a record`,
  person: speak`a person`,
  context: speak`a group of values`,
  list: speak`a list`,
  range: speak`a range`,
  rows: speak`repeating rows`,
  null: speak`nothing`,
  value: speak`any value`,
  'range of the same kind': speak`a range of the same kind`,
  'list of the same kind': speak`a list of the same kind`,
  'member of the list': speak`something the list can hold`,
  'text in quotes': speak`text in quotes, such as "P14D",`,
}));
export const typeWord = (fact: unknown): string =>
  words(fact)
    .split(' or ')
    .map(oneTypeWord)
    .join(speak` or `);
const oneTypeWord = (name: string): string =>
  typeWords()[name] ??
  (name.startsWith('list of ') ? speak`a list of ${manyWords()[name.slice(8)] ?? speak`such things`}` : name);
const manyWords = spoken((): Readonly<Record<string, string>> => ({
  number: speak`numbers`,
  text: speak`texts`,
  'yes-no': speak`yes-or-no answers`,
  date: speak`dates`,
  time: speak`times`,
  'date-time': speak`dates with times`,
  days: speak`durations`,
  months: speak`durations`,
  record: speak`records`,
  person: speak`people`,
  context: speak`rows`,
}));
