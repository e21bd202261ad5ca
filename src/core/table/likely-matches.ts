import { matchable } from './matches';
import { keptColumns, type Column, type Table } from './model';

/** Tables that may be matched, told by the values they hold. */

export interface ColumnPair {
  readonly from: Column;
  readonly to: Column;
}
/** Of `of` different values looked at in one column, `found` stand in the other; `turned` where those of `to` were looked for in `from`. */
export interface PairCount extends ColumnPair {
  readonly found: number;
  readonly of: number;
  readonly turned: boolean;
}
export interface LikelyMatch {
  readonly from: string;
  readonly table: string;
  readonly to: string;
  readonly found: number;
  readonly of: number;
  readonly turned: boolean;
}

/** Fewer different values than these may be the same by chance: states, sizes, yes and no. */
const LEAST_VALUES = 10;
const LEAST_SHARE = 0.8;

/**
 * Columns worth comparing. Days, amounts and references are left out, for they are the same in many tables
 * without meaning anything; of whole numbers only those that name records, on one side at least.
 */
export function comparedPairs(table: Table, other: Table): ColumnPair[] {
  return keptColumns(table)
    .filter(tells)
    .flatMap((from) =>
      matchable(other, from)
        .filter(tells)
        .filter((to) => from.kind !== 'whole' || from.unique || to.unique)
        .map((to) => ({ from, to })),
    )
    .filter(({ from, to }) => table.id !== other.id || from.id !== to.id);
}

const tells = ({ kind }: Column): boolean => !['decimal', 'money', 'date', 'reference'].includes(kind);
/** Those that hold mostly the same, the surest first: where the most values were found. Of two ways to look at a pair, the surer one. */
export function likelyMatches(
  counts: readonly { readonly other: string; readonly pairs: readonly PairCount[] }[],
): LikelyMatch[] {
  const found = counts.flatMap(({ other, pairs }) =>
    pairs
      .filter(({ found, of }) => of >= LEAST_VALUES && found / of >= LEAST_SHARE)
      .map(({ from, to, found, of, turned }) => ({
        from: from.id,
        table: other,
        to: to.id,
        found,
        of,
        turned,
      })),
  );
  const surest = found.sort((a, b) => b.found - a.found);
  const name = ({ from, table, to }: LikelyMatch): string => `${from} ${table} ${to}`;
  return surest.filter((one, i) => surest.findIndex((other) => name(other) === name(one)) === i);
}
