/** A question mark inside a sentence would end it, so such labels are quoted. */
export const named = (label: string): string =>
  label === '' ? 'This' : /[?.!…]$/.test(label) ? `“${label}”` : label;
export const words = (fact: unknown): string => (fact === null || fact === undefined ? '' : String(fact));
export const orMeant = (fact: unknown): string => (fact ? `; did you mean ${words(fact)}?` : '');
export const plural = (fact: unknown, one: string): string => `${words(fact)} ${one}${fact === 1 ? '' : 's'}`;

const typeWords: Readonly<Record<string, string>> = {
  number: 'a number',
  text: 'text',
  'yes-no': 'yes or no',
  date: 'a date',
  time: 'a time of day',
  'date-time': 'a date with a time',
  days: 'a duration in days or hours',
  months: 'a duration in months or years',
  record: 'a record',
  person: 'a person',
  context: 'a group of values',
  list: 'a list',
  range: 'a range',
  rows: 'repeating rows',
  null: 'nothing',
  value: 'any value',
  'range of the same kind': 'a range of the same kind',
  'list of the same kind': 'a list of the same kind',
  'member of the list': 'something the list can hold',
  'text in quotes': 'text in quotes, such as "P14D",',
};
export const typeWord = (fact: unknown): string => words(fact).split(' or ').map(oneTypeWord).join(' or ');
const oneTypeWord = (name: string): string =>
  typeWords[name] ??
  (name.startsWith('list of ') ? `a list of ${manyWords[name.slice(8)] ?? 'such things'}` : name);
const manyWords: Readonly<Record<string, string>> = {
  number: 'numbers',
  text: 'texts',
  'yes-no': 'yes-or-no answers',
  date: 'dates',
  time: 'times',
  'date-time': 'dates with times',
  days: 'durations',
  months: 'durations',
  record: 'records',
  person: 'people',
  context: 'rows',
};
