import type { AnswerFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words, plural } from './words';

/** Of answers, and of records that are changed directly. */
export const answerSentences: Sentences<AnswerFacts> = {
  required: ({ label }) => `${label} is not filled`,
  'too-long': ({ given, most, label }) =>
    most === undefined
      ? `${label} is too long`
      : `${label} is ${words(given)} characters long; at most ${words(most)} fit`,
  'not-text': ({ label }) => `${label} must be text`,
  'not-whole': ({ label }) => `${label} must be a whole number`,
  'not-a-number': ({ comma, label }) =>
    comma === true
      ? `${label}: write decimals with a point, as in 1.5`
      : `${label} must be a number, such as 12.5`,
  'number-too-large': ({ most, label }) =>
    most === undefined
      ? `${label} has too many digits before the point`
      : `${label} may have at most ${words(most)} digits before the point`,
  'too-many-decimals': ({ most, label }) =>
    most === undefined
      ? `${label} has too many decimals`
      : `${label} may have at most ${words(most)} decimals`,
  'not-a-date': ({ label }) => `${label} must be a day of the calendar`,
  'not-yes-no': ({ label }) => `${label} must be yes or no`,
  'not-a-choice': ({ label }) => `${label} is not one of the choices`,
  'not-files': ({ label }) => `${label} takes files alone; drop them there`,
  'too-many-files': ({ label, most }) => `${label} takes ${plural(most, 'file')} at most`,
  'file-gone': ({ label }) => `${label}: a file is not there any more; take it out and add it again`,
  'file-type': () => 'Only photos, PDFs, texts and office documents are taken; this file is none of them',
  'not-a-photo': () => 'This is no photo that can be shown (JPEG, PNG, WebP or GIF)',
  'files-waiting': () =>
    'You have brought more files than may wait; send what they are for, or take some out of your drafts',
  'file-broken': () => 'This photo cannot be read; it may be damaged',
  'not-confirmed': ({ label }) => `${label} is still to be ticked`,
  'choice-retired': ({ choice, label }) => `${label}: “${words(choice)}” is offered no more; choose another`,
  'not-a-record': ({ label }) => `${label} must be picked from the list`,
  'pick-misfits': ({ record, label }) =>
    `${label}: ${words(record)} does not go with the other answers; pick another`,
  'record-gone': ({ label }) => `${label}: the picked record cannot be found any more; pick another`,
  'record-not-found': ({ text, label }) =>
    `${label}: “${words(text)}” is not found, or names several; pick a record`,
  'too-few-rows': ({ least, label }) => `${label} needs at least ${plural(least, 'row')}`,
  'too-many-rows': ({ given, most, label }) =>
    `${label} may have at most ${plural(most, 'row')}; there are ${given}`,
  'row-repeated': ({ row }) => `The same stands in row ${words(row)} already`,
  'check-stops': ({ message }) => words(message),
  'record-found': ({ record, label }) => `${label}: ${words(record) || 'another record'} has this already`,
  'too-little': ({ record, there, asked, label }) =>
    words(there) === ''
      ? `${label} of ${words(record)} is less than ${words(asked)}, so that cannot be taken from it`
      : `${label} of ${words(record)} is ${words(there)}, so ${words(asked)} cannot be taken from it`,
  'column-locked': () => 'This is written by forms and imports alone',
  'column-restricted': ({ label }) => `${label} is restricted: who does not see it does not change it`,
  'value-for-all': ({ label }) =>
    `${label} must be different in every record, so it cannot be set to one value in all of them`,
  'column-calculated': () => 'This is worked out, and nothing is typed in it',
  'reason-needed': ({ message }) => `Give a reason: ${words(message)}`,
  'not-a-time': ({ label }) => `${label} must be a time of day, as in 14:30`,
  'not-a-date-time': ({ label }) => `${label} must be a day with a time, as in 2026-11-23 14:30`,
  'not-an-e-mail': ({ label }) => `${label} must be an e-mail address, as in name@place.example`,
  'not-a-web-address': ({ label }) => `${label} must be a web address, beginning with https:// or www.`,
  'not-a-phone': ({ label }) => `${label} must be a telephone number`,
  'already-used': ({ label }) => `${label} is already used by another record`,
  'unknown-answer': () => 'This answer belongs to no question of the form',
  'edit-not-allowed': ({ action, table }) => `You may not ${words(action)} records of ${words(table)}`,
  'record-not-yours': ({ action, table }) =>
    `You may ${words(action)} some records of ${words(table)}, and this is none of them`,
  'beyond-your-records': ({ table }) =>
    `So it would be none of the records of ${words(table)} that are yours to see and to change`,
  'table-gone': () => 'The table is not there any more',
  'record-not-there': ({ table }) => `The record of ${words(table)} is not there any more`,
  'record-changed': () => 'Somebody changed this record meanwhile; look at it again before you remove it',
  'record-removed': () => 'Somebody removed this record meanwhile',
  'record-named': ({ record, table, count }) =>
    `${plural(count, 'record')} of ${words(table)} ${count === 1 ? 'refers' : 'refer'} to it${record === '' ? '' : `: ${words(record)}${Number(count) > 3 ? ' …' : ''}`}`,
  'value-changed': ({ label }) => `Somebody changed ${label} meanwhile`,
  'row-changed': () => 'Somebody changed this row, or removed it, meanwhile',
  'nothing-changed': () => 'Nothing has been changed yet',
};
