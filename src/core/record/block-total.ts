import Big from 'big.js';
import { writtenNumber } from '../formats/numbers';
import { digits } from '../wording/numbers';
import { speak } from '../wording/speak';

/**
 * What the numbers among some cells come to, as one would say it; empty where there are not two of them.
 * Texts that are no numbers are not counted.
 */
export function blockTotal(cells: readonly string[]): string {
  const numbers = cells.flatMap((text) =>
    /^-?\d+(\.\d+)?$/.test(text.trim()) ? [new Big(text.trim())] : [],
  );
  const [first] = numbers;
  if (first === undefined || numbers.length < 2) return '';
  const sum = numbers.reduce((all, one) => all.plus(one), new Big(0));
  const least = numbers.reduce((a, b) => (b.lt(a) ? b : a), first);
  const most = numbers.reduce((a, b) => (b.gt(a) ? b : a), first);
  const mean = sum.div(numbers.length).round(DECIMALS);
  return speak`${digits(numbers.length)} numbers: ${said(sum)} in all, ${said(mean)} on average, from ${said(least)} to ${said(most)}`;
}

/** Of a mean; more says nothing more. */
const DECIMALS = 2;
const said = (value: Big): string =>
  `${value.lt(0) ? '−' : ''}${writtenNumber(value.toFixed().replace('-', ''))}`;
