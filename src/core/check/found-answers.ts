import Big from 'big.js';
import { dateOfDay, dayNumber } from '../expression/moment';
import { numberText } from '../expression/number';
import { nodesOf } from '../expression/tree';
import { isBig, isRecord, type Value } from '../expression/value';
import type { Raw } from '../form/answers';
import type { Place } from '../form/cells';
import { columnKindOf } from '../form/column-kind';
import { isField, isTyped, questionsOf, type FieldQuestion, type RowsQuestion } from '../form/design';
import type { Sheet } from '../form/sheet';
import { offered } from '../table/choice-list';
import { checkOutcomes } from './outcomes';
import { sheetIssues } from './sheet-issues';

/** Answers that fit every check, or that break one of them and no other. */
export type Goal = { readonly t: 'fit' } | { readonly t: 'break'; readonly check: string };

interface Means {
  /** ISO date of the day it is to be. */
  readonly today: string;
  readonly newId: () => string;
}

/** Sheets that are tried; each works out only what depends on the answer that was tried. */
const MOST_TRIES = 1_500;
const ROWS = 2;

/**
 * Looks for answers by trying those at the edges: the numbers and days that the form's own expressions and
 * the picked records name, and their neighbours, for a check is decided there. One answer after the other
 * takes the value with which least is wrong, until the goal is met or nothing gets better. What is answered
 * already stays where it can. Lookups and files stay as they are: which records there are, the database
 * knows. Says whether the goal is met.
 */
export function findAnswers(sheet: Sheet, goal: Goal, { today, newId }: Means): boolean {
  const worth = worthTrying(sheet, today);
  begin(sheet, worth, newId);
  let [best, tries] = [cost(sheet, goal), 0];
  for (let before = Infinity; best > 0 && best < before && tries < MOST_TRIES;) {
    before = best;
    for (const { place, question } of places(sheet)) {
      const was = sheet.raw(place);
      let kept = was;
      for (const raw of worth(question)) {
        if (best === 0 || tries >= MOST_TRIES) break;
        if (raw === kept) continue;
        sheet.set(place, raw);
        tries++;
        const now = cost(sheet, goal);
        if (now < best) [best, kept] = [now, raw];
      }
      if (sheet.raw(place) !== kept) sheet.set(place, kept);
    }
  }
  return best === 0;
}

interface Spot {
  readonly place: Place;
  readonly question: FieldQuestion;
}

/** What the goal leaves to wish for: whatever keeps the sheet from being sent, and the check that is to break while it does not. */
function cost(sheet: Sheet, goal: Goal): number {
  const wanted = goal.t === 'break' ? goal.check : null;
  const wrong = sheetIssues(sheet).filter(
    ({ code, facts }) => !((code === 'check-stops' || code === 'reason-needed') && facts['check'] === wanted),
  );
  const outcomes = checkOutcomes(sheet);
  const fires = ({ came }: (typeof outcomes)[number]): boolean => came === 'stops' || came === 'asks';
  const others = outcomes.filter((one) => one.check.id !== wanted && one.came === 'asks').length;
  const missed = wanted !== null && !outcomes.some((one) => one.check.id === wanted && fires(one)) ? 1 : 0;
  return wrong.length + others + missed;
}

/** What is asked is answered with something of its kind, and rows are there as far as they have to be. */
function begin(sheet: Sheet, worth: Worth, newId: () => string): void {
  for (const question of questionsOf(sheet.form.design)) {
    if (question.kind !== 'rows') continue;
    const wanted = Math.min(Math.max(question.least, question.required ? 1 : 0, 1), ROWS, question.most);
    const { within } = question;
    for (const of of within === undefined ? [undefined] : sheet.filledRows(within).map(({ id }) => id))
      for (let there = sheet.filledRows(question.id, of).length; there < wanted; there++)
        sheet.insertRow(question.id, { id: newId(), of, cells: firstCells(worth, question) }, there);
  }
  for (const { place, question } of places(sheet))
    if (sheet.raw(place) === null && question.required) {
      const [first] = worth(question);
      if (first !== undefined) sheet.set(place, first);
    }
}

const firstCells = (worth: Worth, { columns }: RowsQuestion): Record<string, Raw> =>
  Object.fromEntries(
    columns.filter(isTyped).flatMap((column): [string, Raw][] => {
      const [first] = worth(column);
      return first === undefined ? [] : [[column.id, first]];
    }),
  );

function places(sheet: Sheet): Spot[] {
  return questionsOf(sheet.form.design).flatMap((question): Spot[] => {
    if (question.kind === 'rows')
      return sheet
        .filledRows(question.id)
        .slice(0, ROWS)
        .flatMap((row) =>
          question.columns
            .filter(isTyped)
            .map((column): Spot => ({ place: [question.id, row.id, column.id], question: column })),
        );
    return isField(question) && isTyped(question) ? [{ place: [question.id], question }] : [];
  });
}

type Worth = (question: FieldQuestion) => readonly Raw[];

/** What is worth trying for each question, the plainest first. */
function worthTrying(sheet: Sheet, today: string): Worth {
  const named = sheet.form.formulas.flatMap(({ tree }) =>
    tree === null
      ? []
      : [...nodesOf(tree)].flatMap((node): Value[] => (node.op === 'literal' ? [node.value] : [])),
  );
  const texts = named.filter((one): one is string => typeof one === 'string' && one !== '');
  const days = daysNear(today, texts);
  // Checks hold answers against what is picked.
  const picked = [...sheet.picked().values()].filter(isRecord).flatMap(({ values }) => Object.values(values));
  const numbers = [...named, ...picked].filter(isBig);
  return (question) => {
    switch (columnKindOf(question)) {
      case 'text':
        return ['Example', 'A', ...texts, 'Example '.repeat(30).trim(), ''];
      case 'whole':
        return numbersNear(numbers, 0);
      case 'decimal':
      case 'money':
        return numbersNear(numbers, 'decimals' in question ? question.decimals : 2);
      case 'yes-no':
        return question.kind === 'confirmation' ? [true, null] : [true, false];
      case 'date':
        return days;
      case 'time':
        return ['09:00', '12:00', '18:00', '00:00'];
      case 'date-time':
        return days.map((day) => `${day}T09:00`);
      case 'choice':
        return 'choices' in question ? offered(question.choices).map(({ code }) => code) : [];
      case 'e-mail':
        return ['somebody@example.org'];
      case 'web-address':
        return ['https://example.org'];
      case 'phone':
        return ['+44 20 7946 0000'];
      case 'choices':
      case 'reference':
      case 'files':
        return [];
    }
  };
}

function numbersNear(named: readonly Big[], decimals: number): string[] {
  const step = new Big(10).pow(-decimals);
  const near = named.flatMap((n) => [n, n.plus(step), n.minus(step)]);
  const all = [new Big(1), new Big(0), new Big(10), ...near, new Big(-1)];
  return distinct(all.map((n) => numberText(n.round(decimals))));
}

function daysNear(today: string, texts: readonly string[]): string[] {
  const named = texts.filter((one) => /^\d{4}-\d\d-\d\d$/.test(one));
  const near = [1, 0, -1, 2, 3, 7, 14, 30, 90, 366, -7, -30, -366].map((by) => daysFrom(today, by));
  const all = [...near, ...named.flatMap((day) => [day, daysFrom(day, 1), daysFrom(day, -1)])];
  return distinct(all.flatMap((day) => day ?? []));
}

const daysFrom = (day: string, by: number): string | null => dateOfDay(dayNumber(day) + by);
const distinct = (list: readonly string[]): string[] => [...new Set(list)];
