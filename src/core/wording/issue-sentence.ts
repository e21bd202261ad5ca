import type { Issue } from '../kernel/issue';
import { unreachable } from '../kernel/result';

/** The sentence for an issue: what is wrong and what to do. A missing code fails to compile. */
export function issueSentence({ code, facts }: Issue): string {
  const label = named(text(facts['label']));
  switch (code) {
    case 'required':
      return `${label} is not filled`;
    case 'too-long':
      return `${label} is ${facts['given']} characters long; at most ${facts['most']} fit`;
    case 'not-text':
      return `${label} must be text`;
    case 'not-whole':
      return `${label} must be a whole number`;
    case 'not-a-number':
      return facts['comma'] === true
        ? `${label}: write decimals with a point, as in 1.5`
        : `${label} must be a number, such as 12.5`;
    case 'number-too-large':
      return `${label} may have at most ${facts['most']} digits before the point`;
    case 'too-many-decimals':
      return `${label} may have at most ${facts['most']} decimals`;
    case 'not-a-date':
      return `${label} must be a day of the calendar`;
    case 'not-yes-no':
      return `${label} must be yes or no`;
    case 'not-a-choice':
      return `${label} is not one of the choices`;
    case 'choice-retired':
      return `${label}: “${text(facts['choice'])}” is offered no more; choose another`;
    case 'not-a-record':
      return `${label} must be picked from the list`;
    case 'record-gone':
      return `${label}: the picked record cannot be found any more; pick another`;
    case 'record-not-found':
      return `${label}: “${text(facts['text'])}” is not found, or names several; pick a record`;
    case 'too-few-rows':
      return `${label} needs at least ${plural(facts['least'], 'row')}`;
    case 'too-many-rows':
      return `${label} may have at most ${plural(facts['most'], 'row')}; there are ${facts['given']}`;
    case 'check-stops':
      return text(facts['message']);
    case 'reason-needed':
      return `Give a reason: ${text(facts['message'])}`;
    case 'not-a-time':
      return `${label} must be a time of day, as in 14:30`;
    case 'not-a-date-time':
      return `${label} must be a day with a time, as in 2026-11-23 14:30`;
    case 'not-an-e-mail':
      return `${label} must be an e-mail address, as in name@place.example`;
    case 'not-a-web-address':
      return `${label} must be a web address, beginning with https:// or www.`;
    case 'not-a-phone':
      return `${label} must be a telephone number`;
    case 'already-used':
      return `${label} is already used by another record`;
    case 'unknown-answer':
      return 'This answer belongs to no question of the form';
    case 'edit-not-allowed':
      return `You may not ${text(facts['action'])} records of ${text(facts['table'])}`;
    case 'table-gone':
      return 'The table is not there any more';
    case 'record-not-there':
      return `The record of ${text(facts['table'])} is not there any more`;
    case 'record-changed':
      return 'Somebody changed this record meanwhile; look at it again before you remove it';
    case 'record-removed':
      return 'Somebody removed this record meanwhile';
    case 'record-named':
      return `It is still named by ${text(facts['record'])} in ${text(facts['table'])}`;
    case 'value-changed':
      return `Somebody changed ${label} meanwhile`;
    default:
      return designSentence(code, facts, label);
  }
}

type SheetCode =
  | 'required'
  | 'too-long'
  | 'not-text'
  | 'not-whole'
  | 'not-a-number'
  | 'number-too-large'
  | 'too-many-decimals'
  | 'not-a-date'
  | 'not-yes-no'
  | 'not-a-choice'
  | 'choice-retired'
  | 'not-a-record'
  | 'record-gone'
  | 'record-not-found'
  | 'too-few-rows'
  | 'too-many-rows'
  | 'check-stops'
  | 'reason-needed'
  | 'already-used'
  | 'unknown-answer'
  | 'not-a-time'
  | 'not-a-date-time'
  | 'not-an-e-mail'
  | 'not-a-web-address'
  | 'not-a-phone'
  | 'edit-not-allowed'
  | 'table-gone'
  | 'record-not-there'
  | 'record-changed'
  | 'record-removed'
  | 'record-named'
  | 'value-changed';

function designSentence(
  code: Exclude<Issue['code'], SheetCode>,
  facts: Issue['facts'],
  label: string,
): string {
  switch (code) {
    case 'checks-contradict':
      return `This and “${text(facts['other'])}” contradict each other, so the form could never be sent`;
    case 'check-never-holds':
      return 'No answer can ever pass this check';
    case 'check-never-reached':
      return 'No answer can ever fail this check, so it checks nothing';
    case 'condition-never':
      return `No answer can make this condition true${label === 'This' ? '' : `, so ${label} never comes up`}`;
    case 'required-never-asked':
      return `${label} must be filled, and is never asked`;
    case 'carry-lookup':
      return `${label} is brought along from a lookup that is not there, or not in the same rows`;
    case 'carry-kind':
      return `${label} cannot hold what the column it is brought along from holds`;
    case 'existing-columns':
      return 'The answers this check compares must stand together, in the form or in the same rows, and its days must be dates';
    case 'label-missing':
      return 'Give it a name';
    case 'label-too-long':
      return `At most ${facts['most']} characters fit here`;
    case 'key-invalid':
      return `The key “${text(facts['key'])}” must be small letters, digits and underscores, beginning with a letter, at most ${facts['most']}`;
    case 'key-taken':
      return `The key “${text(facts['key'])}” is used twice`;
    case 'key-reserved':
      return `The key “${text(facts['key'])}” has a meaning of its own; choose another`;
    case 'choices-missing':
      return 'Write at least one choice';
    case 'choice-label-missing':
      return 'A choice is empty';
    case 'choice-repeated':
      return `“${text(facts['label'])}” is among the choices twice`;
    case 'table-unknown':
      return 'Say which table to pick from';
    case 'columns-missing':
      return 'Repeating rows need at least one column';
    case 'row-limits':
      return `The least number of rows must not exceed the most, and the most not ${facts['most']}`;
    case 'questions-missing':
      return 'Ask at least one question';
    case 'approver-missing':
      return `Say who decides in “${text(facts['step'])}”`;
    case 'approver-unknown':
      return `Somebody named in “${text(facts['step'])}” is not in the directory any more`;
    case 'check-message-missing':
      return 'Write the message to show';
    case 'check-place':
      return 'The question this check belongs to is gone';
    case 'table-key-taken':
      return `There is already a table called ${text(facts['key'])}; choose another key`;
    case 'kind-changed':
      return `${label} is kept as ${text(facts['before'])}. Ask it as that, or change the column in the design of the table first`;
    case 'column-clash':
      return `${text(facts['table'])} already has a column ${text(facts['key'])}; give ${label} another key`;
    case 'prefix-invalid':
      return 'Numbers begin with one to six capital letters or digits, the first a letter';
    case 'too-many':
      return `At most ${facts['most']} ${text(facts['what'])} are possible`;
    case 'default-kind':
      return `${label} cannot hold what this gives`;
    case 'default-choice':
      return `Give the code of one of its choices in quotes: ${text(facts['codes'])}`;
    case 'together-too-few':
      return 'Name at least two columns that no two records may share; for one, say so at the column itself';
    case 'retire-first':
      return `Retire ${label} first; it can be removed for good in a later change`;
    case 'column-retired':
      return `${label} was retired from the table ${text(facts['table'])}; take the question out, or bring the column back in the design of the table`;
    case 'values-misfit':
      return `In ${label}, ${facts['rows'] === 1 ? 'one record holds' : `${text(facts['rows'])} records hold`} what does not fit: ${text(facts['examples'])}`;
    case 'values-repeated':
      return `${label} must be different in every record, and ${text(facts['rows'])} records share theirs with another: ${text(facts['examples'])}`;
    case 'form-breaks':
      return `This is used by ${text(facts['form'])}, which would break: ${text(facts['why'])}`;
    case 'form-writes':
      return `${label} is still filled by ${text(facts['form'])}; release the form without that question first`;
    case 'change-stopped':
      return `Nothing was changed: ${text(facts['why'])}`;
    case 'not-found-there':
      return 'No record has this name';
    case 'malformed':
      return `This is not what was expected here${facts['detail'] ? `: ${text(facts['detail'])}` : ''}`;
    case 'missing':
      return 'This is missing';
    case 'word-needed':
      return facts['decision'] === 'decline' ? 'Say why you decline' : 'Say what to change';
    case 'table-no-pick':
      return `${label} picks from a table whose records you may not offer to others; ask who designs it`;
    case 'table-of-another':
      return `The rows would be kept in ${text(facts['table'])}, which belongs to another form; keep them in a table of their own`;
    case 'table-not-open':
      return `This form is not allowed to write to ${text(facts['table'])} yet. Those who design the table have been asked`;
    case 'table-closed':
      return `This form may not write to ${text(facts['table'])} any more: whoever designs that table has taken it off`;
    case 'table-way-in':
      return `${text(facts['table'])} is filled by ${text(facts['others'])} already. This form would be one more way in, and the approvals of the other would not hold for it`;
    case 'nobody-to-ask':
      return facts['own'] === true
        ? `Nobody can decide the step “${text(facts['step'])}” for you: you are its only approver, and nobody approves their own. Ask the owner of the form to name somebody else`
        : `The step “${text(facts['step'])}” has nobody who may decide it: its only approver sent this. Ask the owner of the form to name somebody else`;
    case 'password-length':
      return `Choose a password of ${facts['least']} to ${facts['most']} characters`;
    case 'password-common':
      return 'This is one of the passwords that are guessed first; choose another, such as four words';
    case 'password-wrong':
      return 'This is not your present password';
    default:
      return peopleSentence(code, facts, label);
  }
}

type PeopleCode =
  | 'email-taken'
  | 'not-a-colleague'
  | 'own-access'
  | 'last-administrator'
  | 'group-in-itself'
  | 'group-label-taken'
  | 'group-gone'
  | 'nobody-designs'
  | 'nobody-fills';

function peopleSentence(
  code: PeopleCode | OutsideCode | ExpressionCode,
  facts: Issue['facts'],
  label: string,
): string {
  switch (code) {
    case 'email-taken':
      return `${text(facts['name'])} has this e-mail address already`;
    case 'not-a-colleague':
      return 'Somebody named here has left, or is not one of your colleagues';
    case 'own-access':
      return 'Somebody else must end your own access';
    case 'last-administrator':
      return 'Nobody would administer the workspace any more; make somebody else an administrator first';
    case 'group-in-itself':
      return 'A group cannot be inside itself, nor inside a group that it holds';
    case 'group-label-taken':
      return 'There is a group of this name already';
    case 'group-gone':
      return 'A group named here is not there any more';
    case 'nobody-designs':
      return 'Somebody must be left who may change this';
    case 'nobody-fills':
      return 'Say who may fill it before it is released';
    default:
      return outsideSentence(code, facts, label);
  }
}

type OutsideCode =
  | 'choice-held'
  | 'choice-not-in-list'
  | 'list-lacks'
  | 'list-label-taken'
  | 'list-used'
  | 'linked-structure'
  | 'linked-required'
  | 'linked-no-adding'
  | 'source-silent'
  | 'source-refused'
  | 'source-changed'
  | 'source-fixed'
  | 'source-failed'
  | 'source-used'
  | 'address-invalid'
  | 'address-inside'
  | 'secret-missing'
  | 'not-linkable';

/** Of what stands outside a form and a table: choice lists, and sources with what is linked to them. */
function outsideSentence(code: OutsideCode | ExpressionCode, facts: Issue['facts'], label: string): string {
  switch (code) {
    case 'choice-held':
      return `“${text(facts['choice'])}” cannot be taken out: ${text(facts['where'])}. Retire it instead; then it stays where it stands and is offered no more`;
    case 'choice-not-in-list':
      return `${label} takes its choices from the list “${text(facts['list'])}”, which does not have ${text(facts['choices'])}. Add that to the list, or let the question take its choices from it`;
    case 'list-lacks':
      return `${label} may hold what the list “${text(facts['list'])}” does not have: ${text(facts['choices'])}. Add that to the list, or change the column in the design of its table first`;
    case 'list-label-taken':
      return `There is already a choice list called “${text(facts['list'])}”`;
    case 'list-used':
      return `The list cannot be removed, for it is used by ${text(facts['where'])}`;
    case 'linked-structure':
      return `${label} is as ${text(facts['source'])} has it; here it can be named, described and moved, and no more`;
    case 'linked-required':
      return `${label} must be given in ${text(facts['source'])}, so the form must ask for it`;
    case 'linked-no-adding':
      return `Records of ${text(facts['table'])} cannot be added from here: ${text(facts['source'])} does not allow it`;
    case 'source-silent':
      return `The source ${text(facts['source'])} does not answer, so nothing was kept. Try again in a moment`;
    case 'source-refused':
      return `The source ${text(facts['source'])} refuses this${facts['rule'] ? ` by its rule ${text(facts['rule'])}` : ''}, so nothing was kept`;
    case 'source-changed':
      return `A record was changed in ${text(facts['source'])} meanwhile. Refresh the table ${text(facts['table'])}, and try again`;
    case 'source-fixed':
      return `${text(facts['table'])} cannot be changed like this from here: ${text(facts['source'])} does not allow it`;
    case 'source-failed':
      return `The source ${text(facts['source'])} cannot be read: ${text(facts['why'])}`;
    case 'source-used':
      return `Tables come from it, so end their links first: ${text(facts['tables'])}`;
    case 'address-inside':
      return 'This is on this machine or its own network. Whoever runs the machine may name it in SLATE_SOURCES_INSIDE';
    case 'address-invalid':
      return 'Give the whole address, beginning with http:// or https://';
    case 'secret-missing':
      return 'Give its password';
    case 'not-linkable':
      return `The table ${text(facts['table'])} stays outside. ${text(facts['why'])}`;
    default:
      return expressionSentence(code, facts);
  }
}

type ExpressionCode =
  | 'expression-empty'
  | 'expression-too-long'
  | 'expression-broken'
  | 'expression-unsupported'
  | 'expression-too-deep'
  | 'bracket-open'
  | 'bracket-stray'
  | 'slip'
  | 'unknown-name'
  | 'unknown-function'
  | 'unknown-column'
  | 'name-twice'
  | 'not-a-path'
  | 'not-a-list'
  | 'not-a-condition'
  | 'not-a-moment'
  | 'not-a-duration'
  | 'number-too-long'
  | 'wrong-type'
  | 'list-where-one'
  | 'argument-count'
  | 'circular'
  | 'result-type'
  | 'too-many-steps'
  | 'sheet-too-heavy'
  | 'not-in-sql';

/** What is wrong with an expression, for somebody who has never written a program. */
function expressionSentence(code: ExpressionCode, facts: Issue['facts']): string {
  switch (code) {
    case 'expression-empty':
      return 'Write what to calculate';
    case 'expression-too-long':
      return `The expression is longer than ${facts['most']} characters`;
    case 'expression-broken':
      return 'Something is missing or extra here';
    case 'expression-unsupported':
      return `“${text(facts['text'])}” cannot be used in an expression here yet`;
    case 'unknown-name':
      return `There is no answer called ${text(facts['name'])}${meant(facts['meant'])}`;
    case 'unknown-function':
      return `There is no function called ${text(facts['name'])}${meant(facts['meant'])}`;
    case 'unknown-column':
      return `There is no column called ${text(facts['name'])}${meant(facts['meant'])}`;
    case 'not-a-path':
      return `${text(facts['name'])} cannot be taken from ${typeWord(facts['given'])}`;
    case 'wrong-type':
      return `This is ${typeWord(facts['given'])} where ${typeWord(facts['wanted'])} is needed`;
    case 'argument-count':
      return `${text(facts['name'])} needs ${facts['least'] === facts['most'] ? facts['least'] : `${facts['least']} to ${facts['most']}`} values; ${facts['given']} given`;
    case 'circular':
      return `These need each other to be calculated: ${text(facts['circle'])}`;
    case 'result-type':
      return `This gives ${typeWord(facts['given'])}; ${typeWord(facts['wanted'])} is needed`;
    case 'expression-too-deep':
      return `There are more than ${facts['most']} steps inside one another; work a part of it out in an answer of its own`;
    case 'bracket-open':
      return `The bracket ${text(facts['bracket'])} is not closed`;
    case 'bracket-stray':
      return `The bracket ${text(facts['bracket'])} closes nothing`;
    case 'slip':
      return slipSentence(text(facts['given']), text(facts['meant']));
    case 'name-twice':
      return `The name ${text(facts['name'])} already means something here; take another`;
    case 'not-a-list':
      return `This is ${typeWord(facts['given'])}, and only a list or repeating rows can be gone through`;
    case 'not-a-condition':
      return `After “if” comes something that holds or does not; this is ${typeWord(facts['given'])}. Compare it, as in … > 0`;
    case 'not-a-moment':
      return `${text(facts['text'])} is no date, time or duration; write 2026-11-23, 14:30:00, 2026-11-23T14:30:00, P14D or P1M`;
    case 'not-a-duration':
      return 'A duration is written as P14D, PT2H30M, P1Y or P6M, and months are not mixed with days';
    case 'number-too-long':
      return `Numbers have at most ${facts['most']} digits`;
    case 'list-where-one':
      return `This is ${typeWord(facts['given'])} where ${typeWord(facts['wanted'])} is needed. Add it up with sum( ), take one with [1], or go through it with every … satisfies …`;
    case 'not-in-sql':
      return `The database cannot calculate “${text(facts['what'])}” for existing rows; it is calculated when a sheet is filled`;
    case 'too-many-steps':
      return 'This takes too many steps to calculate; go through fewer things';
    case 'sheet-too-heavy':
      return `All calculations together could take ${text(facts['given'])} steps when every row is filled; a sheet may take ${text(facts['most'])}. Allow fewer rows, or go through fewer things`;
    default:
      return unreachable(code);
  }
}

function slipSentence(given: string, meant: string): string {
  if (given.startsWith("'") || /^[“”„]/.test(given)) return 'Text stands between straight quotes: "…"';
  if (meant === 'a number in full') return `Write ${given} as ${meant}`;
  return meant === 'not( )'
    ? 'Write not( ) with brackets around what is not to hold'
    : `Write ${meant} instead of ${given}`;
}

/** A question mark inside a sentence would end it, so such labels are quoted. */
const named = (label: string): string =>
  label === '' ? 'This' : /[?.!…]$/.test(label) ? `“${label}”` : label;
const text = (fact: unknown): string => (fact === null || fact === undefined ? '' : String(fact));
const meant = (fact: unknown): string => (fact ? `; did you mean ${text(fact)}?` : '');
const plural = (fact: unknown, one: string): string => `${text(fact)} ${one}${fact === 1 ? '' : 's'}`;

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
const typeWord = (fact: unknown): string => text(fact).split(' or ').map(oneTypeWord).join(' or ');
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
