import type { DesignChange, Item, List } from '../form/change/design-change';
import { allQuestions, GO_ON, groupsOf, rulesIn, type FormDesign, type Question } from '../form/design';
import { askedKind } from '../form/edit';
import { messageWithout } from '../check/message';
import { kindWords } from './kind-words';
import { timeWords } from './step-sentence';
import { speak, spoken } from './speak';

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
      return speak`A section ${words} is added`;
    case 'questions':
      return item['kind'] === 'fixed-text'
        ? speak`Words are added: ${words}`
        : speak`${words} is asked: ${kindOf(item)}`;
    case 'columns':
      return speak`${upper(nameOf('questions', parent ?? '', between))} has a column ${words}: ${kindOf(item)}`;
    case 'totals':
      return speak`Under ${nameOf('questions', parent ?? '', between)} stands ${words}`;
    case 'checks':
    case 'existing':
      return speak`A check is added on ${nameOf('questions', String(item['on']), between)}: ${words}`;
    case 'steps':
      return speak`A step ${words} is added`;
    case 'rules':
      return speak`The rules ${words} are added`;
    case 'conditions':
    case 'rows':
      return speak`${upper(nameOf('rules', parent ?? '', between))} have ${list === 'rows' ? speak`another row` : speak`another condition`}`;
    case 'further':
      return item['t'] === 'add'
        ? speak`When it is kept, a record of another table is added as well`
        : speak`When it is kept, ${furtherWords(item, between)} is changed as well`;
  }
}

function removedWords(list: List, item: Item, between: Between): string {
  const words = quoted(item);
  switch (list) {
    case 'sections':
      return speak`The section ${words} is taken out`;
    case 'questions':
    case 'columns':
      return speak`${words} is asked no more`;
    case 'totals':
      return speak`${words} stands under the rows no more`;
    case 'checks':
    case 'existing':
      return speak`${words} is checked no more`;
    case 'steps':
      return speak`The step ${words} is taken out`;
    case 'rules':
      return speak`The rules ${words} are taken out`;
    case 'conditions':
    case 'rows':
      return speak`${upper(nameOf('rules', rulesWith(list, item.id, between)?.id ?? '', between))} have ${list === 'rows' ? 'a row' : 'a condition'} less`;
    case 'further':
      return item['t'] === 'add'
        ? speak`No record of another table is added any more when it is kept`
        : speak`When it is kept, ${furtherWords(item, between)} stays as it is`;
  }
}

function movedWords({ of, from, to }: DesignChange & { t: 'move' }, between: Between): string {
  const section =
    from.in === to.in || of.list !== 'questions'
      ? ''
      : speak` in ${nameOf('sections', to.in ?? '', between)}`;
  return to.after === null
    ? speak`comes first${section}`
    : speak`comes after ${nameOf(of.list, to.after, between)}${section}`;
}

function formWords(field: string, before: unknown, after: unknown): string {
  switch (field) {
    case 'title':
      return speak`The form is called “${text(after)}” instead of “${text(before)}”`;
    case 'area':
      return speak`It belongs to ${text(after) === '' ? speak`no area` : `“${text(after)}”`}`;
    case 'record':
      return after === undefined
        ? speak`Its records have no name of their own`
        : speak`One of its records is called “${text(after)}”`;
    case 'finds':
      return after === undefined
        ? speak`Sending it always makes a new record`
        : speak`Where a record with the same is there, sending leads to a change of it`;
    case 'after':
      return speak`What is said after sending, or where it goes on, is different`;
    case 'listedBy':
      return speak`Lists tell it by other answers`;
    case 'mails':
      return speak`What mails say besides is different`;
    case 'table':
      return speak`The table it writes to has another name or prefix`;
    default:
      return speak`The ${settingWords(field)} of the form is different`;
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
      return speak`${upper(nameOf(list, id, { before: between.before, after: between.before }))} is called “${text(after)}”`;
    case 'kind':
      return speak`${name} is another kind of answer: ${kindOf(itemOf(list, id, between.after) ?? {})}`;
    case 'required':
      return after === true ? speak`${name} must be filled` : speak`${name} may stay empty`;
    case 'message':
      return speak`The check “${messageWithout(text(before))}” says “${messageWithout(text(after))}”`;
    case 'otherwise':
      return `${name} ${after === 'ask' ? speak`asks for a reason instead of stopping` : speak`stops instead of asking for a reason`}`;
    case 'must':
    case 'rule':
    case 'same':
      return speak`${name} demands something else`;
    case 'people':
    case 'groups':
    case 'manager':
    case 'named':
      return speak`${name} asks other people`;
    case 'fallback':
      return speak`${name} asks ${after === undefined ? speak`nobody` : speak`somebody else`} where nobody is there to ask`;
    case 'hit':
      return speak`${upper(name)} count other rows where several fit`;
    case 'cells':
      return speak`${upper(name)} fits something else`;
    case 'fill':
      return speak`${upper(name)} gives answers something else`;
    case 'fills':
      return speak`${upper(name)} fill other answers`;
    case 'weight':
      return speak`${upper(name)} weighs ${String(after ?? 0)}`;
    case 'asks':
    case 'days':
      return speak`${upper(name)} tell ${field === 'asks' ? speak`who is asked` : speak`how much time there is`} at other steps`;
    case 'decide':
      return `${name} ${after === undefined ? speak`is decided by any one of them` : after === 'all' ? speak`must be approved by all of them` : speak`must be approved by ${String(after)} of them`}`;
    case 'within':
      if (list === 'questions') return innerWords(name, after, between);
      return takesWords(name, id, between);
    case 'hours':
      return takesWords(name, id, between);
    case 'declines':
      return speak`At ${name}, one who declines ${after === undefined ? speak`decides for all` : speak`counts as one against`}`;
    case 'corrects':
      return speak`${name} may correct ${after === undefined ? speak`nothing` : speak`other answers`}`;
    case 'unlessApproved':
      return `${name} ${after === true ? speak`does not ask again where all have approved before` : speak`asks again who has approved before`}`;
    case 'beside':
      return speak`${name} is asked ${after === true ? speak`at the same time as the step before it` : speak`after the step before it`}`;
    case 'late':
      return speak`${name} ${after === undefined ? speak`asks nobody else` : after === GO_ON ? speak`is gone on without` : speak`asks somebody else`} once it is late`;
    case 'soon':
      return speak`${name} is ${after === undefined ? speak`not reminded of before the day it is due` : speak`reminded of at another time`}`;
    case 'role':
      return speak`${name} asks ${after === undefined ? speak`nobody by a place` : speak`others by a place`}`;
    case 'key':
      return speak`${name} has the key ${text(after)} instead of ${text(before)}`;
    case 'hint':
      return text(after) === ''
        ? speak`${name} has no hint any more`
        : speak`${name} has the hint “${text(after)}”`;
    case 'askWhen':
    case 'showWhen':
      return text(after) === ''
        ? speak`${name} is always asked`
        : speak`${name} is asked under another condition`;
    case 'when':
      if (list === 'steps')
        return text(after) === ''
          ? speak`${name} is always asked`
          : speak`${name} is asked under another condition`;
      return text(after) === ''
        ? speak`${name} is always written`
        : speak`${name} is written under another condition`;
    case 'sets':
      return speak`${name} becomes something else`;
    case 'expression':
      if (list === 'conditions') return speak`${upper(name)} looks at something else`;
      return speak`${name} is calculated in another way`;
    case 'gives':
      if (list !== 'rows') return speak`The kind of result of ${name} is different`;
      return speak`${upper(name)} asks others, or gives another time`;
    case 'choices':
    case 'list':
      return speak`${name} offers other choices`;
    case 'text':
      return speak`The words of ${nameOf(list, id, between)} are different`;
    default:
      return speak`The ${settingWords(field)} of ${nameOf(list, id, between)} ${field.endsWith('s') ? speak`are` : speak`is`} different`;
  }
}

const settings = spoken((): Readonly<Record<string, string>> => ({
  again: speak`setting whether the answer stays for the next one`,
  asPicks: speak`look`,
  begins: speak`value it begins with`,
  carry: speak`value it takes from a lookup`,
  column: speak`column`,
  columns: speak`number of columns`,
  decimals: speak`number of decimals`,
  each: speak`rows for which it is written`,
  lookup: speak`lookup`,
  default: speak`starting value`,
  distinct: speak`rule which rows may be alike`,
  gives: speak`kind of result`,
  hidden: speak`setting whether it is shown`,
  keptAs: speak`name of the column`,
  least: speak`least number of rows`,
  long: speak`length`,
  misfit: speak`rule what becomes of a pick that fits no more`,
  most: speak`greatest number`,
  of: speak`kind of total`,
  on: speak`place`,
  onChange: speak`use in changing a record`,
  onNew: speak`use in a new record`,
  requireWhen: speak`condition under which it must be filled`,
  requiredFor: speak`use in which it must be filled`,
  show: speak`columns shown`,
  starts: speak`starting rows`,
  statement: speak`statement`,
  table: speak`table`,
  unit: speak`unit`,
  what: speak`kind of files`,
  where: speak`choice of records`,
}));

const settingWords = (field: string): string => settings()[field] ?? field;
const furtherWords = (item: Partial<Item>, between: Between): string =>
  item['t'] === 'add'
    ? speak`the record added to another table`
    : speak`the record picked at ${nameOf('questions', String(item['lookup']), between)}`;
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const upper = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;

const innerWords = (name: string, after: unknown, between: Between): string =>
  after === undefined
    ? speak`${name} stands in no other rows any more`
    : speak`${name} stands in each row of ${nameOf('questions', text(after), between)}`;

function takesWords(name: string, id: string, { after }: Between): string {
  const time = timeWords(after.steps.find((step) => step.id === id) ?? {});
  return `${name} ${time === '' ? speak`may take any time` : speak`is to be decided within ${time}`}`;
}

function quoted(item: Partial<Item>): string {
  const words =
    text(item['label']) || messageWithout(text(item['message'])) || text(item['title']) || text(item['text']);
  return words === '' ? speak`without words` : `“${[...words].slice(0, 60).join('')}”`;
}

// Every item with a kind is a question.
const kindOf = (item: Partial<Item>): string => kindWords()[askedKind(item as unknown as Question)];

function nameOf(list: List, id: string, { before, after }: Between): string {
  const item = itemOf(list, id, after) ?? itemOf(list, id, before);
  const words = item === undefined ? speak`something that is gone` : quoted(item);
  switch (list) {
    case 'sections':
      return speak`the section ${words}`;
    case 'checks':
    case 'existing':
      return speak`the check ${words}`;
    case 'steps':
      return speak`the step ${words}`;
    case 'rules':
      return speak`the rules ${words}`;
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
  return speak`${list === 'rows' ? speak`row` : speak`condition`} ${at} of ${nameOf('rules', table?.id ?? '', between)}`;
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
