import type { AnswerFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words, plural } from './words';
import { speak } from '../speak';
import { dayInDigits } from '../../formats/days';
import { writtenNumber } from '../../formats/numbers';

/** Of answers, and of records that are changed directly. */
export const answerSentences: Sentences<AnswerFacts> = {
  required: ({ label }) => speak`${label} is not filled`,
  'too-long': ({ given, most, label }) =>
    most === undefined
      ? speak`${label} is too long`
      : speak`${label} is ${words(given)} characters long; at most ${words(most)} fit`,
  'not-text': ({ label }) => speak`${label} must be text`,
  'not-whole': ({ label }) => speak`${label} must be a whole number`,
  'not-a-number': ({ comma, label }) =>
    comma === true
      ? speak`${label}: write decimals as in ${writtenNumber('1.5')}`
      : speak`${label} must be a number, such as ${writtenNumber('12.5')}`,
  'number-too-large': ({ most, label }) =>
    most === undefined
      ? speak`${label} has too many digits before the point`
      : speak`${label} may have at most ${words(most)} digits before the point`,
  'too-many-decimals': ({ most, label }) =>
    most === undefined
      ? speak`${label} has too many decimals`
      : speak`${label} may have at most ${words(most)} decimals`,
  'not-a-date': ({ label }) => speak`${label} must be a day of the calendar`,
  'not-yes-no': ({ label }) => speak`${label} must be yes or no`,
  'not-a-choice': ({ label }) => speak`${label} is not one of the choices`,
  'not-files': ({ label }) => speak`${label} takes files alone; drop them there`,
  'too-many-files': ({ label, most }) => speak`${label} takes ${plural(most, 'file')} at most`,
  'file-gone': ({ label }) => speak`${label}: a file is not there any more; take it out and add it again`,
  'file-type': () =>
    speak`Only photos, PDFs, texts and office documents are taken; this file is none of them`,
  'not-a-photo': () => speak`This is no photo that can be shown (JPEG, PNG, WebP or GIF)`,
  'files-waiting': () =>
    speak`You have brought more files than may wait; send what they are for, or take some out of your drafts`,
  'file-broken': () => speak`This photo cannot be read; it may be damaged`,
  'not-confirmed': ({ label }) => speak`${label} is still to be ticked`,
  'choice-retired': ({ choice, label }) =>
    speak`${label}: “${words(choice)}” is offered no more; choose another`,
  'not-a-record': ({ label }) => speak`${label} must be picked from the list`,
  'pick-misfits': ({ record, label }) =>
    speak`${label}: ${words(record)} does not go with the other answers; pick another`,
  'record-gone': ({ label }) => speak`${label}: the picked record cannot be found any more; pick another`,
  'record-not-found': ({ text, label }) =>
    speak`${label}: “${words(text)}” is not found, or names several; pick a record`,
  'too-few-rows': ({ least, label }) => speak`${label} needs at least ${plural(least, 'row')}`,
  'too-many-rows': ({ given, most, label }) =>
    speak`${label} may have at most ${plural(most, 'row')}; there are ${given}`,
  'row-repeated': ({ row }) => speak`The same stands in row ${words(row)} already`,
  'check-stops': ({ message }) => words(message),
  'record-found': ({ record, label }) =>
    speak`${label}: ${words(record) || speak`another record`} has this already`,
  'too-little': ({ record, there, asked, label }) =>
    words(there) === ''
      ? speak`${label} of ${words(record)} is less than ${words(asked)}, so that cannot be taken from it`
      : speak`${label} of ${words(record)} is ${words(there)}, so ${words(asked)} cannot be taken from it`,
  'column-locked': () => speak`This is written by forms and imports alone`,
  'column-restricted': ({ label }) => speak`${label} is restricted: who does not see it does not change it`,
  'value-for-all': ({ label }) =>
    speak`${label} must be different in every record, so it cannot be set to one value in all of them`,
  'column-calculated': () => speak`This is worked out, and nothing is typed in it`,
  'reason-needed': ({ message }) => speak`Give a reason: ${words(message)}`,
  'not-a-time': ({ label }) => speak`${label} must be a time of day, as in 14:30`,
  'not-a-date-time': ({ label }) =>
    speak`${label} must be a day with a time, as in ${dayInDigits('2026-11-23')} 14:30`,
  'not-an-e-mail': ({ label }) => speak`${label} must be an e-mail address, as in name@place.example`,
  'not-a-web-address': ({ label }) => speak`${label} must be a web address, beginning with https:// or www.`,
  'not-a-phone': ({ label }) => speak`${label} must be a telephone number`,
  'already-used': ({ label }) => speak`${label} is already used by another record`,
  'unknown-answer': () => speak`This answer belongs to no question of the form`,
  'edit-not-allowed': ({ action, table }) => speak`You may not ${words(action)} records of ${words(table)}`,
  'record-not-yours': ({ action, table }) =>
    speak`You may ${words(action)} some records of ${words(table)}, and this is none of them`,
  'beyond-your-records': ({ table }) =>
    speak`So it would be none of the records of ${words(table)} that are yours to see and to change`,
  'table-gone': () => speak`The table is not there any more`,
  'record-not-there': ({ table }) => speak`The record of ${words(table)} is not there any more`,
  'record-changed': () =>
    speak`Somebody changed this record meanwhile; look at it again before you remove it`,
  'record-removed': () => speak`Somebody removed this record meanwhile`,
  'record-named': ({ record, table, count }) =>
    speak`${plural(count, 'record')} of ${words(table)} ${count === 1 ? speak`refers` : speak`refer`} to it${record === '' ? '' : `: ${words(record)}${Number(count) > 3 ? ' …' : ''}`}`,
  'value-changed': ({ label }) => speak`Somebody changed ${label} meanwhile`,
  'row-changed': () => speak`Somebody changed this row, or removed it, meanwhile`,
  'nothing-changed': () => speak`Nothing has been changed yet`,
};
