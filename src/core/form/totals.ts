import { divide, sumOf } from '../expression/number';
import { isBig, type Value } from '../expression/value';
import Big from 'big.js';
import { shown } from './cells';
import type { CalculatedQuestion, FieldQuestion, RowsQuestion, Total } from './design';

/** What is made of a column over the rows. */
export type TotalOf = NonNullable<Total['of']>;

/**
 * What there is of it: unlike FEEL's functions, an empty cell does not make it empty, for rows are half typed
 * most of the time. Of nothing it is nothing, but for the count.
 */
export function totalOf(of: TotalOf, values: readonly Value[]): Value {
  const numbers = values.filter(isBig);
  const [first, ...rest] = numbers;
  switch (of) {
    case 'sum':
      return sumOf(numbers);
    case 'count':
      return new Big(values.filter((value) => value !== null).length);
    case 'mean': {
      const sum = sumOf(numbers);
      return sum === null ? null : divide(sum, new Big(numbers.length));
    }
    case 'least':
      return first === undefined ? null : rest.reduce((least, one) => (one.lt(least) ? one : least), first);
    case 'most':
      return first === undefined ? null : rest.reduce((most, one) => (one.gt(most) ? one : most), first);
  }
}

const columnOf = (group: RowsQuestion, { column }: Total): FieldQuestion | undefined =>
  group.columns.find(({ id }) => id === column);

/** A count has none, a mean one more than what it is of. */
export function totalDecimals(group: RowsQuestion, total: Total): number {
  const of = columnOf(group, total);
  const own = of !== undefined && 'decimals' in of ? of.decimals : 0;
  return total.of === 'count' ? 0 : total.of === 'mean' ? own + 1 : own;
}

export function totalUnit(group: RowsQuestion, total: Total): string {
  const of = columnOf(group, total);
  return total.of !== 'count' && of !== undefined && 'unit' in of ? of.unit : '';
}

/** A total as if it were asked: a figure of the form. */
export const totalAsQuestion = (group: RowsQuestion, total: Total): CalculatedQuestion => ({
  id: total.id,
  key: total.key,
  label: total.label,
  hint: '',
  required: false,
  kind: 'calculated',
  expression: '',
  decimals: totalDecimals(group, total),
  unit: totalUnit(group, total),
});

/** As it is read under its column, which says its unit. */
export const totalShown = (group: RowsQuestion, total: Total, value: Value): string =>
  shown({ ...totalAsQuestion(group, total), unit: '' }, value);
