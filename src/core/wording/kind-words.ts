import type { AskedKind } from '../form/edit';
import { speak, spoken } from './speak';

export const kindWords = spoken((): Readonly<Record<AskedKind, string>> => ({
  text: speak`text`,
  whole: speak`whole number`,
  decimal: speak`decimal number`,
  money: speak`money`,
  date: speak`date`,
  time: speak`time of day`,
  'date-time': speak`date with time`,
  'yes-no': speak`yes or no`,
  confirmation: speak`confirmation`,
  choice: speak`one choice`,
  choices: speak`several choices`,
  files: speak`photos or files`,
  'e-mail': speak`e-mail address`,
  'web-address': speak`web address`,
  phone: speak`telephone number`,
  person: speak`person`,
  lookup: speak`lookup`,
  calculated: speak`calculated value`,
  rows: speak`repeating rows`,
  'fixed-text': speak`fixed text`,
}));

export const kindChoices = spoken(() =>
  Object.entries(kindWords()).map(([value, label]) => ({ value, label })),
);
export const columnKindChoices = spoken(() =>
  kindChoices().filter(({ value }) => value !== 'rows' && value !== 'fixed-text'),
);
