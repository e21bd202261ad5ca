import type { DesignFacts } from '../../kernel/issue';
import { columnKindWords } from '../change-sentence';
import type { Sentences } from './sentences';
import { words } from './words';

/** Of forms and tables as they are designed, and of requests. */
export const designSentences: Sentences<DesignFacts> = {
  'checks-contradict': ({ other }) =>
    `This and “${words(other)}” contradict each other, so the form could never be sent`,
  'check-never-holds': () => 'No answer can ever pass this check',
  'check-never-reached': () => 'No answer can ever fail this check, so it checks nothing',
  'condition-never': ({ label }) =>
    `No answer can make this condition true${label === 'This' ? '' : `, so ${label} never comes up`}`,
  'required-never-asked': ({ label }) => `${label} must be filled, and is never asked`,
  'carry-lookup': ({ label }) =>
    `${label} is brought along from a lookup that is not there, or not in the same rows`,
  'carry-kind': ({ label }) => `${label} cannot hold what the column it is brought along from holds`,
  'existing-columns': () =>
    'The answers this check compares must stand together, in the form or in the same rows, and its days must be dates',
  'label-missing': () => 'Give it a name',
  'label-too-long': ({ most }) => `At most ${most} characters fit here`,
  'key-invalid': ({ key, most }) =>
    `The key “${words(key)}” must be small letters, digits and underscores, beginning with a letter, at most ${most}`,
  'key-taken': ({ key }) => `The key “${words(key)}” is used twice`,
  'key-reserved': ({ key }) => `The key “${words(key)}” has a meaning of its own; choose another`,
  'choices-missing': () => 'Write at least one choice',
  'choice-label-missing': () => 'A choice is empty',
  'choice-repeated': ({ label }) => `“${words(label)}” is among the choices twice`,
  'table-unknown': () => 'Say which table to pick from',
  'columns-missing': () => 'Repeating rows need at least one column',
  'row-limits': ({ most }) => `The least number of rows must not exceed the most, and the most not ${most}`,
  'rows-within': () =>
    'Say in which rows these stand: rows of this form, which stand in no others and are not shown as words in a line',
  'rows-within-begin': () =>
    'Rows within rows cannot begin with any: whoever fills a row adds what stands in it',
  'starts-lookup': () => 'Say from which column the rows are begun; it must be one that picks records',
  'starts-unread': ({ row, label }) =>
    `What stands under ${words(label)} in starting row ${words(row)} cannot be read as what is asked there`,
  'opening-order': () => 'It would close before it opens',
  'hidden-empty': () => 'It is hidden and must be filled, and nothing fills it: say what it begins with',
  'finds-gone': () => 'An answer by which records are found is gone, or cannot be looked for',
  'further-lookup': () => 'The lookup whose record is to be changed is gone: say which one it is',
  'further-table': () => 'Say in which table a record is added',
  'further-rows': () => 'The rows this is written for are gone: say for which, or once',
  'further-row': ({ table }) =>
    `Rows of ${words(table)} come with the record they belong to, not by themselves`,
  'further-people': () => 'Colleagues are added and changed under People, by administrators',
  'further-nothing': () => 'Say which column becomes what',
  'further-column': ({ table }) =>
    `This column of ${words(table)} is not there any more, or is not to be written`,
  'further-twice': ({ label }) => `${label} is written twice`,
  'further-number': ({ label }) => `${label} is no number, so it can be set, but not raised or lowered`,
  'further-empty': ({ label }) => `Say what ${label} becomes`,
  'further-missing': ({ label }) => `${label} must be filled in a new record: say with what`,
  'text-missing': () => 'Write the text that is to stand here',
  'questions-missing': () => 'Ask at least one question',
  'approver-missing': ({ step }) => `Say who decides in “${words(step)}”`,
  'approvers-too-few': ({ step, wanted }) =>
    `“${words(step)}” asks for ${words(wanted)} approvals: name at least as many people`,
  'approver-unknown': ({ step }) => `Somebody named in “${words(step)}” is not in the directory any more`,
  'check-message-missing': () => 'Write the message to show',
  'check-place': () => 'The question this check belongs to is gone',
  'table-check-breaks': ({ table, why }) =>
    `A check of ${words(table)} could not be told any more: ${words(why)}`,
  'check-empty': () => 'Say what must hold',
  'formula-circle': ({ label }) => `${words(label)} would be worked out from itself`,
  'formula-kind': ({ label }) =>
    `${words(label)} cannot be calculated: choose text, a number, a date, a time, or yes or no`,
  'formula-fixed': ({ label }) =>
    `${words(label)} stays as it was made, filled or calculated: add another column, and retire this one`,
  'formula-breaks': ({ table, why }) =>
    `A calculated column of ${words(table)} could not be worked out any more: ${words(why)}`,
  'check-column': () =>
    'The column this check belongs to is gone: take the check out, or bring the column back',
  'table-key-taken': ({ key }) => `There is already a table called ${words(key)}; choose another key`,
  'kind-changed': ({ before, label }) =>
    `${label} is kept as ${columnKindWords(before)}. Ask it as that, or change the column in the design of the table first`,
  'column-clash': ({ key, table, label }) =>
    `${words(table)} already has a column ${words(key)}; give ${label} another key`,
  'prefix-invalid': () => 'Numbers begin with one to six capital letters or digits, the first a letter',
  'not-a-site': ({ given }) =>
    `“${words(given)}” is no site: it takes https, a name, and no page, as in https://garden.example`,
  'day-is-over': () => 'That day is over',
  'too-many': ({ most, what }) => `At most ${most} ${words(what)} are possible`,
  'default-kind': ({ label }) => `${label} cannot hold what this gives`,
  'default-choice': ({ codes }) => `Give the code of one of its choices in quotes: ${words(codes)}`,
  'duty-why': () => 'Say which law or rule asks that its records are kept',
  'cannot-be-emptied': ({ label, table }) =>
    `“${label}” of ${table} must be filled, and cannot be emptied. Let it be left empty first, in the design of the table`,
  'together-too-few': () =>
    'Name at least two columns that no two records may share; for one, say so at the column itself',
  'match-unfinished': () => 'Pick a table, and a column on both sides that can hold the same value',
  'retire-first': ({ label }) => `Retire ${label} first; it can be removed for good in a later change`,
  'column-retired': ({ table, label }) =>
    `${label} was retired from the table ${words(table)}; take the question out, or bring the column back in the design of the table`,
  'values-misfit': ({ examples, rows, label }) =>
    `In ${label}, ${rows === 1 ? 'one record holds' : `${words(rows)} records hold`} what does not fit: ${words(examples)}`,
  'values-repeated': ({ examples, rows, label }) =>
    `${label} must be different in every record, and ${words(rows)} records share theirs with another: ${words(examples)}`,
  'form-breaks': ({ form, why }) => `This is used by ${words(form)}, which would break: ${words(why)}`,
  'form-writes': ({ form, label }) =>
    `${label} is still filled by ${words(form)}; release the form without that question first`,
  'change-stopped': ({ why }) => `Nothing was changed: ${words(why)}`,
  'not-found-there': () => 'No record has this name',
  malformed: ({ detail }) => `This is not what was expected here${detail ? `: ${words(detail)}` : ''}`,
  missing: () => 'This is missing',
  'word-needed': ({ decision }) =>
    decision === 'remark'
      ? 'Write something first'
      : decision === 'decline'
        ? 'Say why you decline'
        : decision === 'return'
          ? 'Say what is to be looked at again'
          : decision === 'move'
            ? 'Say why it is moved'
            : 'Say what to change',
  'table-no-pick': ({ label }) =>
    `${label} picks from a table whose records you may not offer to others; ask who designs it`,
  'table-of-another': ({ table }) =>
    `The rows would be kept in ${words(table)}, which belongs to another form; keep them in a table of their own`,
  'table-not-open': ({ table }) =>
    `This form is not allowed to write to ${words(table)} yet. Those who design the table have been asked`,
  'table-closed': ({ table }) =>
    `This form may not write to ${words(table)} any more: whoever designs that table has taken it off`,
  'table-way-in': ({ others, table }) =>
    `${words(table)} is filled by ${words(others)} already. This form would be one more way in, and the approvals of the other would not hold for it`,
  'table-written-beside': ({ table, adds, changes }) =>
    `${words(table)}: this form would ${[changes === true ? 'change' : '', adds === true ? 'add' : ''].filter((word) => word !== '').join(' and ')} records there, whoever sends it`,
  'nobody-named': ({ step }) =>
    `The step “${words(step)}” asks whoever the answers name, and that is nobody who may decide. Name a colleague there: nobody approves their own`,
  'nobody-at-place': ({ step }) =>
    `The step “${words(step)}” asks whoever of a group is at the place in the answers, and nobody there may decide. Ask the owner of the form whom it asks then`,
  'soon-too-early': ({ step }) =>
    `“${words(step)}” is to be reminded of before it has begun; choose fewer days, or give it more time`,
  'corrects-nothing': () => 'This step may correct nothing; send it back instead',
  'move-to-oneself': () => 'Name somebody else: nobody moves a case to themselves',
  'move-to-no-step': () => 'Pick one of the steps of this form',
  'rules-undecided': ({ step, rules }) =>
    `The rules “${words(rules)}” do not say who is asked at “${step}”. Whoever looks after the form can say it there, or name somebody for that`,
  'rules-empty': ({ rules }) => `The rules “${words(rules)}” have no rows yet`,
  'rules-fill-several': ({ rules }) =>
    `Of the rules “${words(rules)}” several rows count together, so they cannot fill an answer; have one row count`,
  'rule-choice-unknown': ({ text, choices }) => `${words(text)} is none of the choices: ${words(choices)}`,
  'rule-asks-nobody': ({ row, step }) =>
    `Row ${words(row)} does not say who is asked at “${step}”: pick somebody, or say that nobody is`,
  'nobody-to-ask': ({ own, step }) =>
    own === true
      ? `Nobody can decide the step “${words(step)}” for you: you are its only approver, and nobody approves their own. Ask the owner of the form to name somebody else`
      : `The step “${words(step)}” has nobody who may decide it: its only approver sent this. Ask the owner of the form to name somebody else`,
  'too-few-to-ask': ({ own, step, found, wanted }) =>
    `The step “${words(step)}” asks for ${words(wanted)} approvals, and only ${words(found)} could be given${own === true ? ' to you: nobody approves their own' : ''}. Ask the owner of the form to name more people`,
  'password-length': ({ least, most }) => `Choose a password of ${least} to ${most} characters`,
  'password-common': () =>
    'This is one of the passwords that are guessed first; choose another, such as four words',
  'password-wrong': () => 'This is not your present password',
  'codes-already': () => 'A code is asked of you already; load this page again to see it',
  'list-wrong': () => 'Some lines of the list are wrong; mend them first',
  'own-codes': () => 'Your own codes you take off under your account, with your password',
  'secret-needed': () => 'Give the secret; none is kept for this address',
  'no-provider-there': () =>
    'No OpenID Connect service answers at this address, or it is one that may not be reached from here',
  'code-wrong': () => 'This code is not right. A code lasts half a minute; take the next one',
};
