import Big from 'big.js';
import { PEOPLE } from '../expression/type';
import { columnKindOf } from '../form/column-kind';
import {
  fieldsOfForm,
  groupsOf,
  outerOf,
  type FieldQuestion,
  type FormDesign,
  type RowsQuestion,
} from '../form/design';
import { totalAsQuestion } from '../form/totals';

/** How the figures of what was kept lie: a quarter of them are below `low`, half below `middle`, three quarters below `high`. */
export interface Spread {
  readonly count: number;
  readonly low: Big;
  readonly middle: Big;
  readonly high: Big;
}

/** Fewer say nothing of what is usual. */
export const ENOUGH = 8;
/** How far beyond the middle half of them a figure lies that is out of the way (after Tukey, “far out”), in widths of that half. */
const FAR = 3;
/** And it is so many times as much as the middle one, or as little, or nobody would wonder. */
const TIMES = 2;

/** A figure beyond what is usual: how many times the middle one it is, below one where it is less. */
export interface Beyond {
  readonly times: number;
  readonly middle: Big;
  readonly count: number;
}

/** Whether a figure lies far beyond those kept before; null where it does not, or where there are too few to say so. */
export function beyondUsual(value: Big, { count, low, middle, high }: Spread): Beyond | null {
  if (count < ENOUGH || middle.lte(0) || value.lt(0)) return null;
  const far = high.minus(low).times(FAR);
  const isMuch = value.gt(high.plus(far)) && value.gte(middle.times(TIMES));
  const isLittle = value.lt(low.minus(far)) && value.times(TIMES).lte(middle);
  return isMuch || isLittle ? { times: value.div(middle).round(2).toNumber(), middle, count } : null;
}

/** A figure of a form or of its rows, with the group whose rows it stands in. */
export interface Figure {
  readonly question: FieldQuestion;
  readonly group: RowsQuestion | null;
}

const isNumeric = (question: FieldQuestion): boolean =>
  ['whole', 'decimal', 'money'].includes(columnKindOf(question));

/** All figures that are kept: of the form, its totals, and its rows; not of rows within rows. */
export function figuresOf(design: FormDesign): Figure[] {
  const groups = groupsOf(design).filter((group) => outerOf(design, group) === null);
  return [
    ...fieldsOfForm(design)
      .filter(isNumeric)
      .map((question) => ({ question, group: null })),
    ...groups.flatMap((group) =>
      group.totals.map((total) => ({ question: totalAsQuestion(group, total), group: null })),
    ),
    ...groups.flatMap((group) => group.columns.filter(isNumeric).map((question) => ({ question, group }))),
  ];
}

/** The answer by which others are alike: the record the form is about, or else its first choice. Null where it has neither. */
export const alikeBy = (design: FormDesign): FieldQuestion | null => firstPick(fieldsOfForm(design));

/** The same of a row. */
export const rowAlikeBy = ({ columns }: RowsQuestion): FieldQuestion | null => firstPick(columns);

const firstPick = (questions: readonly FieldQuestion[]): FieldQuestion | null =>
  questions.find((one) => one.kind === 'lookup' && one.table !== PEOPLE) ??
  questions.find(({ kind }) => kind === 'choice') ??
  null;

/** The figure that tells most of what was sent: a total, an amount of money, or the last figure of the form. */
export function tellingFigure(design: FormDesign): FieldQuestion | null {
  const own = figuresOf(design).flatMap(({ question, group }) => (group === null ? [question] : []));
  const totals = new Set(groupsOf(design).flatMap((group) => group.totals.map(({ id }) => id)));
  return (
    own.find(({ id }) => totals.has(id)) ??
    own.find((one) => columnKindOf(one) === 'money') ??
    own.at(-1) ??
    null
  );
}
