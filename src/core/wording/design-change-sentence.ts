import type { DesignChange, Item, List } from '../form/change/design-change';
import { allQuestions, GO_ON, groupsOf, rulesIn, type FormDesign, type Question } from '../form/design';
import { askedKind } from '../form/edit';
import { messageWithout } from '../check/message';
import { kindWords } from './kind-words';
import { timeWords } from './step-sentence';

/** Both designs a change lies between, for the names of what it is about. */
export interface Between {
  readonly before: FormDesign;
  readonly after: FormDesign;
}

/** One change of a form in words: “Bed” must be filled. */
export function designChangeSentence(change: DesignChange, between: Between): string {
  switch (change.t) {
    case 'insert':
      return insertedWords(change.list, change.item, change.at.in, between);
    case 'remove':
      return removedWords(change.list, change.item, between);
    case 'move':
      return `${upper(nameOf(change.of.list, change.of.id, between))} ${movedWords(change, between)}`;
    case 'set':
      return [
        ...new Set(
          Object.entries(change.fields)
            .filter(([field]) => !isImplied(field, change.fields))
            .map(([field, { before, after }]) =>
              change.of === null
                ? formWords(field, before, after)
                : fieldWords({ list: change.of.list, id: change.of.id, field, before, after }, between),
            ),
        ),
      ].join('. ');
  }
}

/** Another kind brings settings of its own. */
const isImplied = (field: string, fields: object): boolean =>
  'kind' in fields && !['kind', 'label', 'key', 'hint', 'required'].includes(field);

function insertedWords(list: List, item: Item, parent: string | null, between: Between): string {
  const words = quoted(item);
  switch (list) {
    case 'sections':
      return `A section ${words} is added`;
    case 'questions':
      return item['kind'] === 'fixed-text'
        ? `Words are added: ${words}`
        : `${words} is asked: ${kindOf(item)}`;
    case 'columns':
      return `${upper(nameOf('questions', parent ?? '', between))} has a column ${words}: ${kindOf(item)}`;
    case 'totals':
      return `Under ${nameOf('questions', parent ?? '', between)} stands ${words}`;
    case 'checks':
    case 'existing':
      return `A check is added on ${nameOf('questions', String(item['on']), between)}: ${words}`;
    case 'steps':
      return `A step ${words} is added`;
    case 'rules':
      return `The rules ${words} are added`;
    case 'conditions':
    case 'rows':
      return `${upper(nameOf('rules', parent ?? '', between))} have ${list === 'rows' ? 'another row' : 'another condition'}`;
    case 'further':
      return item['t'] === 'add'
        ? 'When it is kept, a record of another table is added as well'
        : `When it is kept, ${furtherWords(item, between)} is changed as well`;
  }
}

function removedWords(list: List, item: Item, between: Between): string {
  const words = quoted(item);
  switch (list) {
    case 'sections':
      return `The section ${words} is taken out`;
    case 'questions':
    case 'columns':
      return `${words} is asked no more`;
    case 'totals':
      return `${words} stands under the rows no more`;
    case 'checks':
    case 'existing':
      return `${words} is checked no more`;
    case 'steps':
      return `The step ${words} is taken out`;
    case 'rules':
      return `The rules ${words} are taken out`;
    case 'conditions':
    case 'rows':
      return `${upper(nameOf('rules', rulesWith(list, item.id, between)?.id ?? '', between))} have ${list === 'rows' ? 'a row' : 'a condition'} less`;
    case 'further':
      return item['t'] === 'add'
        ? 'No record of another table is added any more when it is kept'
        : `When it is kept, ${furtherWords(item, between)} stays as it is`;
  }
}

function movedWords({ of, from, to }: DesignChange & { t: 'move' }, between: Between): string {
  const section =
    from.in === to.in || of.list !== 'questions' ? '' : ` in ${nameOf('sections', to.in ?? '', between)}`;
  return to.after === null
    ? `comes first${section}`
    : `comes after ${nameOf(of.list, to.after, between)}${section}`;
}

function formWords(field: string, before: unknown, after: unknown): string {
  switch (field) {
    case 'title':
      return `The form is called “${text(after)}” instead of “${text(before)}”`;
    case 'area':
      return `It belongs to ${text(after) === '' ? 'no area' : `“${text(after)}”`}`;
    case 'record':
      return after === undefined
        ? 'Its records have no name of their own'
        : `One of its records is called “${text(after)}”`;
    case 'finds':
      return after === undefined
        ? 'Sending it always makes a new record'
        : 'Where a record with the same is there, sending leads to a change of it';
    case 'after':
      return 'What is said after sending, or where it goes on, is different';
    case 'listedBy':
      return 'Lists tell it by other answers';
    case 'mails':
      return 'What mails say besides is different';
    case 'table':
      return 'The table it writes to has another name or prefix';
    default:
      return `The ${settingWords(field)} of the form is different`;
  }
}

interface FieldChange {
  readonly list: List;
  readonly id: string;
  readonly field: string;
  readonly before: unknown;
  readonly after: unknown;
}

function fieldWords({ list, id, field, before, after }: FieldChange, between: Between): string {
  const name = upper(nameOf(list, id, between));
  switch (field) {
    case 'label':
    case 'title':
      return `${upper(nameOf(list, id, { before: between.before, after: between.before }))} is called “${text(after)}”`;
    case 'kind':
      return `${name} is another kind of answer: ${kindOf(itemOf(list, id, between.after) ?? {})}`;
    case 'required':
      return after === true ? `${name} must be filled` : `${name} may stay empty`;
    case 'message':
      return `The check “${messageWithout(text(before))}” says “${messageWithout(text(after))}”`;
    case 'otherwise':
      return `${name} ${after === 'ask' ? 'asks for a reason instead of stopping' : 'stops instead of asking for a reason'}`;
    case 'must':
    case 'rule':
    case 'same':
      return `${name} demands something else`;
    case 'people':
    case 'groups':
    case 'manager':
    case 'named':
      return `${name} asks other people`;
    case 'fallback':
      return `${name} asks ${after === undefined ? 'nobody' : 'somebody else'} where nobody is there to ask`;
    case 'hit':
      return `${upper(name)} count other rows where several fit`;
    case 'cells':
      return `${upper(name)} fits something else`;
    case 'fill':
      return `${upper(name)} gives answers something else`;
    case 'fills':
      return `${upper(name)} fill other answers`;
    case 'weight':
      return `${upper(name)} weighs ${String(after ?? 0)}`;
    case 'asks':
    case 'days':
      return `${upper(name)} tell ${field === 'asks' ? 'who is asked' : 'how much time there is'} at other steps`;
    case 'decide':
      return `${name} ${after === undefined ? 'is decided by any one of them' : after === 'all' ? 'must be approved by all of them' : `must be approved by ${String(after)} of them`}`;
    case 'within':
      if (list === 'questions') return innerWords(name, after, between);
      return takesWords(name, id, between);
    case 'hours':
      return takesWords(name, id, between);
    case 'declines':
      return `At ${name}, one who declines ${after === undefined ? 'decides for all' : 'counts as one against'}`;
    case 'corrects':
      return `${name} may correct ${after === undefined ? 'nothing' : 'other answers'}`;
    case 'unlessApproved':
      return `${name} ${after === true ? 'does not ask again where all have approved before' : 'asks again who has approved before'}`;
    case 'beside':
      return `${name} is asked ${after === true ? 'at the same time as the step before it' : 'after the step before it'}`;
    case 'late':
      return `${name} ${after === undefined ? 'asks nobody else' : after === GO_ON ? 'is gone on without' : 'asks somebody else'} once it is late`;
    case 'soon':
      return `${name} is ${after === undefined ? 'not reminded of before the day it is due' : 'reminded of at another time'}`;
    case 'role':
      return `${name} asks ${after === undefined ? 'nobody by a place' : 'others by a place'}`;
    case 'key':
      return `${name} has the key ${text(after)} instead of ${text(before)}`;
    case 'hint':
      return text(after) === '' ? `${name} has no hint any more` : `${name} has the hint “${text(after)}”`;
    case 'askWhen':
    case 'showWhen':
      return text(after) === '' ? `${name} is always asked` : `${name} is asked under another condition`;
    case 'when':
      if (list === 'steps')
        return text(after) === '' ? `${name} is always asked` : `${name} is asked under another condition`;
      return text(after) === '' ? `${name} is always written` : `${name} is written under another condition`;
    case 'sets':
      return `${name} becomes something else`;
    case 'expression':
      if (list === 'conditions') return `${upper(name)} looks at something else`;
      return `${name} is calculated in another way`;
    case 'gives':
      if (list !== 'rows') return `The kind of result of ${name} is different`;
      return `${upper(name)} asks others, or gives another time`;
    case 'choices':
    case 'list':
      return `${name} offers other choices`;
    case 'text':
      return `The words of ${nameOf(list, id, between)} are different`;
    default:
      return `The ${settingWords(field)} of ${nameOf(list, id, between)} ${field.endsWith('s') ? 'are' : 'is'} different`;
  }
}

const settings: Readonly<Record<string, string>> = {
  again: 'setting whether the answer stays for the next one',
  asPicks: 'look',
  begins: 'value it begins with',
  carry: 'value it takes from a lookup',
  column: 'column',
  columns: 'number of columns',
  decimals: 'number of decimals',
  each: 'rows for which it is written',
  lookup: 'lookup',
  default: 'starting value',
  distinct: 'rule which rows may be alike',
  gives: 'kind of result',
  hidden: 'setting whether it is shown',
  keptAs: 'name of the column',
  least: 'least number of rows',
  long: 'length',
  misfit: 'rule what becomes of a pick that fits no more',
  most: 'greatest number',
  of: 'kind of total',
  on: 'place',
  onChange: 'use in changing a record',
  onNew: 'use in a new record',
  requireWhen: 'condition under which it must be filled',
  requiredFor: 'use in which it must be filled',
  show: 'columns shown',
  starts: 'starting rows',
  statement: 'statement',
  table: 'table',
  unit: 'unit',
  what: 'kind of files',
  where: 'choice of records',
};

const settingWords = (field: string): string => settings[field] ?? field;
const furtherWords = (item: Partial<Item>, between: Between): string =>
  item['t'] === 'add'
    ? 'the record added to another table'
    : `the record picked at ${nameOf('questions', String(item['lookup']), between)}`;
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const upper = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;

const innerWords = (name: string, after: unknown, between: Between): string =>
  after === undefined
    ? `${name} stands in no other rows any more`
    : `${name} stands in each row of ${nameOf('questions', text(after), between)}`;

function takesWords(name: string, id: string, { after }: Between): string {
  const time = timeWords(after.steps.find((step) => step.id === id) ?? {});
  return `${name} ${time === '' ? 'may take any time' : `is to be decided within ${time}`}`;
}

function quoted(item: Partial<Item>): string {
  const words =
    text(item['label']) || messageWithout(text(item['message'])) || text(item['title']) || text(item['text']);
  return words === '' ? 'without words' : `“${[...words].slice(0, 60).join('')}”`;
}

// Every item with a kind is a question.
const kindOf = (item: Partial<Item>): string => kindWords[askedKind(item as unknown as Question)];

function nameOf(list: List, id: string, { before, after }: Between): string {
  const item = itemOf(list, id, after) ?? itemOf(list, id, before);
  const words = item === undefined ? 'something that is gone' : quoted(item);
  switch (list) {
    case 'sections':
      return `the section ${words}`;
    case 'checks':
    case 'existing':
      return `the check ${words}`;
    case 'steps':
      return `the step ${words}`;
    case 'rules':
      return `the rules ${words}`;
    case 'conditions':
    case 'rows':
      return rowName(list, id, { before, after });
    case 'further':
      return item === undefined ? words : furtherWords(item, { before, after });
    default:
      return words;
  }
}

/** The table of rules that has a row or a condition, or had it. */
const rulesWith = (list: 'conditions' | 'rows', id: string, { before, after }: Between) =>
  [after, before].flatMap(rulesIn).find((one) => one[list].some((item) => item.id === id));

/** “row 2 of the rules “Spending limits””. */
function rowName(list: 'conditions' | 'rows', id: string, between: Between): string {
  const table = rulesWith(list, id, between);
  const at = (table?.[list] ?? []).findIndex((item) => item.id === id) + 1;
  return `${list === 'rows' ? 'row' : 'condition'} ${at} of ${nameOf('rules', table?.id ?? '', between)}`;
}

function itemOf(list: List, id: string, design: FormDesign): Partial<Item> | undefined {
  const all: readonly { readonly id: string }[] =
    list === 'sections'
      ? design.sections
      : list === 'further'
        ? (design.further ?? [])
        : list === 'checks' || list === 'existing'
          ? [...design.checks, ...(design.existing ?? [])]
          : list === 'steps'
            ? design.steps
            : list === 'rules'
              ? rulesIn(design)
              : [...allQuestions(design), ...groupsOf(design).flatMap(({ totals }) => totals)];
  return all.find((one) => one.id === id) as Partial<Item> | undefined;
}
