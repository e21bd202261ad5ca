import { inThrees } from '../formats/numbers';
import { translated } from './speak';

/** A count as it is shown: 12 345. */
export const digits = (n: number): string => inThrees(String(Math.round(n)));

/** A count with what it counts, of which the plural is told where it is not one with an s: 1 record, 12 345 records. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  translated(`{0} ${one}`, [n]) ?? `${digits(n)} ${n === 1 ? one : many}`;
