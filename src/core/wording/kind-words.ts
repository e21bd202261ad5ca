import type { AskedKind } from '../form/edit';

export const kindWords: Readonly<Record<AskedKind, string>> = {
  text: 'text',
  whole: 'whole number',
  decimal: 'decimal number',
  money: 'money',
  date: 'date',
  time: 'time of day',
  'date-time': 'date with time',
  'yes-no': 'yes or no',
  confirmation: 'confirmation',
  choice: 'one choice',
  choices: 'several choices',
  files: 'photos or files',
  'e-mail': 'e-mail address',
  'web-address': 'web address',
  phone: 'telephone number',
  person: 'person',
  lookup: 'lookup',
  calculated: 'calculated value',
  rows: 'repeating rows',
  'fixed-text': 'fixed text',
};

export const kindChoices = Object.entries(kindWords).map(([value, label]) => ({ value, label }));
export const columnKindChoices = kindChoices.filter(
  ({ value }) => value !== 'rows' && value !== 'fixed-text',
);
