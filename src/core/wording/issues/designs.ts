import type { DesignFacts } from '../../kernel/issue';
import { columnKindWords } from '../change-sentence';
import type { Sentences } from './sentences';
import { words } from './words';
import { speak } from '../speak';

/** Of forms and tables as they are designed, and of requests. */
export const designSentences: Sentences<DesignFacts> = {
  'checks-contradict': ({ other }) =>
    speak`This and “${words(other)}” contradict each other, so the form could never be sent`,
  'check-never-holds': () => speak`No answer can ever pass this check`,
  'check-never-reached': () => speak`No answer can ever fail this check, so it checks nothing`,
  'condition-never': ({ label }) =>
    speak`No answer can make this condition true${label === 'This' ? '' : speak`, so ${label} never comes up`}`,
  'required-never-asked': ({ label }) => speak`${label} must be filled, and is never asked`,
  'carry-lookup': ({ label }) =>
    speak`${label} is brought along from a lookup that is not there, or not in the same rows`,
  'carry-kind': ({ label }) => speak`${label} cannot hold what the column it is brought along from holds`,
  'existing-columns': () =>
    speak`The answers this check compares must stand together, in the form or in the same rows, and its days must be dates`,
  'label-missing': () => speak`Give it a name`,
  'label-too-long': ({ most }) => speak`At most ${most} characters fit here`,
  'key-invalid': ({ key, most }) =>
    speak`The key “${words(key)}” must be small letters, digits and underscores, beginning with a letter, at most ${most}`,
  'key-taken': ({ key }) => speak`The key “${words(key)}” is used twice`,
  'key-reserved': ({ key }) => speak`The key “${words(key)}” has a meaning of its own; choose another`,
  'choices-missing': () => speak`Write at least one choice`,
  'choice-label-missing': () => speak`A choice is empty`,
  'choice-repeated': ({ label }) => speak`“${words(label)}” is among the choices twice`,
  'table-unknown': () => speak`Say which table to pick from`,
  'columns-missing': () => speak`Repeating rows need at least one column`,
  'row-limits': ({ most }) =>
    speak`The least number of rows must not exceed the most, and the most not ${most}`,
  'rows-within': () =>
    speak`Say in which rows these stand: rows of this form, which stand in no others and are not shown as words in a line`,
  'rows-within-begin': () =>
    speak`Rows within rows cannot begin with any: whoever fills a row adds what stands in it`,
  'starts-lookup': () => speak`Say from which column the rows are begun; it must be one that picks records`,
  'starts-unread': ({ row, label }) =>
    speak`What stands under ${words(label)} in starting row ${words(row)} cannot be read as what is asked there`,
  'opening-order': () => speak`It would close before it opens`,
  'hidden-empty': () => speak`It is hidden and must be filled, and nothing fills it: say what it begins with`,
  'finds-gone': () => speak`An answer by which records are found is gone, or cannot be looked for`,
  'further-lookup': () => speak`The lookup whose record is to be changed is gone: say which one it is`,
  'further-table': () => speak`Say in which table a record is added`,
  'further-rows': () => speak`The rows this is written for are gone: say for which, or once`,
  'further-row': ({ table }) =>
    speak`Rows of ${words(table)} come with the record they belong to, not by themselves`,
  'further-people': () => speak`Colleagues are added and changed under People, by administrators`,
  'further-nothing': () => speak`Say which column becomes what`,
  'further-column': ({ table }) =>
    speak`This column of ${words(table)} is not there any more, or is not to be written`,
  'further-twice': ({ label }) => speak`${label} is written twice`,
  'further-number': ({ label }) => speak`${label} is no number, so it can be set, but not raised or lowered`,
  'further-empty': ({ label }) => speak`Say what ${label} becomes`,
  'further-missing': ({ label }) => speak`${label} must be filled in a new record: say with what`,
  'text-missing': () => speak`Write the text that is to stand here`,
  'questions-missing': () => speak`Ask at least one question`,
  'approver-missing': ({ step }) => speak`Say who decides in “${words(step)}”`,
  'approvers-too-few': ({ step, wanted }) =>
    speak`“${words(step)}” asks for ${words(wanted)} approvals: name at least as many people`,
  'approver-unknown': ({ step }) =>
    speak`Somebody named in “${words(step)}” is not in the directory any more`,
  'check-message-missing': () => speak`Write the message to show`,
  'check-place': () => speak`The question this check belongs to is gone`,
  'table-check-breaks': ({ table, why }) =>
    speak`A check of ${words(table)} could not be told any more: ${words(why)}`,
  'check-empty': () => speak`Say what must hold`,
  'formula-circle': ({ label }) => speak`${words(label)} would be worked out from itself`,
  'formula-kind': ({ label }) =>
    speak`${words(label)} cannot be calculated: choose text, a number, a date, a time, or yes or no`,
  'formula-fixed': ({ label }) =>
    speak`${words(label)} stays as it was made, filled or calculated: add another column, and retire this one`,
  'formula-breaks': ({ table, why }) =>
    speak`A calculated column of ${words(table)} could not be worked out any more: ${words(why)}`,
  'check-column': () =>
    speak`The column this check belongs to is gone: take the check out, or bring the column back`,
  'table-key-taken': ({ key }) => speak`There is already a table called ${words(key)}; choose another key`,
  'kind-changed': ({ before, label }) =>
    speak`${label} is kept as ${columnKindWords(before)}. Ask it as that, or change the column in the design of the table first`,
  'column-clash': ({ key, table, label }) =>
    speak`${words(table)} already has a column ${words(key)}; give ${label} another key`,
  'prefix-invalid': () => speak`Numbers begin with one to six capital letters or digits, the first a letter`,
  'not-a-site': ({ given }) =>
    speak`“${words(given)}” is no site: it takes https, a name, and no page, as in https://garden.example`,
  'day-is-over': () => speak`That day is over`,
  'too-many': ({ most, what }) => speak`At most ${most} ${words(what)} are possible`,
  'default-kind': ({ label }) => speak`${label} cannot hold what this gives`,
  'default-choice': ({ codes }) => speak`Give the code of one of its choices in quotes: ${words(codes)}`,
  'duty-why': () => speak`Say which law or rule asks that its records are kept`,
  'cannot-be-emptied': ({ label, table }) =>
    speak`“${label}” of ${table} must be filled, and cannot be emptied. Let it be left empty first, in the design of the table`,
  'together-too-few': () =>
    speak`Name at least two columns that no two records may share; for one, say so at the column itself`,
  'match-unfinished': () => speak`Pick a table, and a column on both sides that can hold the same value`,
  'retire-first': ({ label }) => speak`Retire ${label} first; it can be removed for good in a later change`,
  'column-retired': ({ table, label }) =>
    speak`${label} was retired from the table ${words(table)}; take the question out, or bring the column back in the design of the table`,
  'values-misfit': ({ examples, rows, label }) =>
    speak`In ${label}, ${rows === 1 ? speak`one record holds` : speak`${words(rows)} records hold`} what does not fit: ${words(examples)}`,
  'values-repeated': ({ examples, rows, label }) =>
    speak`${label} must be different in every record, and ${words(rows)} records share theirs with another: ${words(examples)}`,
  'form-breaks': ({ form, why }) => speak`This is used by ${words(form)}, which would break: ${words(why)}`,
  'form-writes': ({ form, label }) =>
    speak`${label} is still filled by ${words(form)}; release the form without that question first`,
  'change-stopped': ({ why }) => speak`Nothing was changed: ${words(why)}`,
  'not-found-there': () => speak`No record has this name`,
  malformed: ({ detail }) => speak`This is not what was expected here${detail ? `: ${words(detail)}` : ''}`,
  missing: () => speak`This is missing`,
  'word-needed': ({ decision }) =>
    decision === 'remark'
      ? speak`Write something first`
      : decision === 'decline'
        ? speak`Say why you decline`
        : decision === 'return'
          ? speak`Say what is to be looked at again`
          : decision === 'move'
            ? speak`Say why it is moved`
            : speak`Say what to change`,
  'table-no-pick': ({ label }) =>
    speak`${label} picks from a table whose records you may not offer to others; ask who designs it`,
  'table-of-another': ({ table }) =>
    speak`The rows would be kept in ${words(table)}, which belongs to another form; keep them in a table of their own`,
  'table-not-open': ({ table }) =>
    speak`This form is not allowed to write to ${words(table)} yet. Those who design the table have been asked`,
  'table-closed': ({ table }) =>
    speak`This form may not write to ${words(table)} any more: whoever designs that table has taken it off`,
  'table-way-in': ({ others, table }) =>
    speak`${words(table)} is filled by ${words(others)} already. This form would be one more way in, and the approvals of the other would not hold for it`,
  'table-written-beside': ({ table, adds, changes }) =>
    changes !== true
      ? speak`${words(table)}: this form would add records there, whoever sends it`
      : adds === true
        ? speak`${words(table)}: this form would change and add records there, whoever sends it`
        : speak`${words(table)}: this form would change records there, whoever sends it`,
  'nobody-named': ({ step }) =>
    speak`The step “${words(step)}” asks whoever the answers name, and that is nobody who may decide. Name a colleague there: nobody approves their own`,
  'nobody-at-place': ({ step }) =>
    speak`The step “${words(step)}” asks whoever of a group is at the place in the answers, and nobody there may decide. Ask the owner of the form whom it asks then`,
  'soon-too-early': ({ step }) =>
    speak`“${words(step)}” is to be reminded of before it has begun; choose fewer days, or give it more time`,
  'corrects-nothing': () => speak`This step may correct nothing; send it back instead`,
  'move-to-oneself': () => speak`Name somebody else: nobody moves a case to themselves`,
  'move-to-no-step': () => speak`Pick one of the steps of this form`,
  'rules-undecided': ({ step, rules }) =>
    speak`The rules “${words(rules)}” do not say who is asked at “${step}”. Whoever looks after the form can say it there, or name somebody for that`,
  'rules-empty': ({ rules }) => speak`The rules “${words(rules)}” have no rows yet`,
  'rules-fill-several': ({ rules }) =>
    speak`Of the rules “${words(rules)}” several rows count together, so they cannot fill an answer; have one row count`,
  'rule-choice-unknown': ({ text, choices }) =>
    speak`${words(text)} is none of the choices: ${words(choices)}`,
  'rule-asks-nobody': ({ row, step }) =>
    speak`Row ${words(row)} does not say who is asked at “${step}”: pick somebody, or say that nobody is`,
  'nobody-to-ask': ({ own, step }) =>
    own === true
      ? speak`Nobody can decide the step “${words(step)}” for you: you are its only approver, and nobody approves their own. Ask the owner of the form to name somebody else`
      : speak`The step “${words(step)}” has nobody who may decide it: its only approver sent this. Ask the owner of the form to name somebody else`,
  'too-few-to-ask': ({ own, step, found, wanted }) =>
    speak`The step “${words(step)}” asks for ${words(wanted)} approvals, and only ${words(found)} could be given${own === true ? speak` to you: nobody approves their own` : ''}. Ask the owner of the form to name more people`,
  'password-length': ({ least, most }) => speak`Choose a password of ${least} to ${most} characters`,
  'password-common': () =>
    speak`This is one of the passwords that are guessed first; choose another, such as four words`,
  'password-wrong': () => speak`This is not your present password`,
  'codes-already': () => speak`A code is asked of you already; load this page again to see it`,
  'list-wrong': () => speak`Some lines of the list are wrong; mend them first`,
  'own-codes': () => speak`Your own codes you take off under your account, with your password`,
  'secret-needed': () => speak`Give the secret; none is kept for this address`,
  'no-provider-there': () =>
    speak`No OpenID Connect service answers at this address, or it is one that may not be reached from here`,
  'code-wrong': () => speak`This code is not right. A code lasts half a minute; take the next one`,
};
