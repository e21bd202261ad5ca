import type { Pick, Picked } from '../check/pick-text';
import type { Filterable } from './filter';

/** What the records that are shown have in one column: how many of them each value, or each range. */
export interface Facet {
  readonly of: Filterable;
  readonly counts: readonly FacetCount[];
}

/** `picks` are the conditions that only records like these fulfil. */
export interface FacetCount {
  readonly label: string;
  readonly records: number;
  readonly picks: readonly Pick[];
}

/** Whether what a count stands for is chosen. */
export const isChosen = (picked: Picked | null, { picks }: FacetCount): boolean =>
  picked !== null &&
  picked.join === 'all' &&
  picks.every((wanted) =>
    picked.picks.some(
      ({ left, by, right }) =>
        left === wanted.left &&
        by === wanted.by &&
        (by === 'one-of'
          ? wanted.right.every((one) => right.includes(one))
          : right.join() === wanted.right.join()),
    ),
  );

/**
 * The conditions with what a count stands for chosen, or chosen no more. Values of one column are or-ed; of
 * ranges and of nothing, one is chosen at a time.
 */
export function toggled(picks: readonly Pick[], count: FacetCount): Pick[] {
  const [first] = count.picks;
  if (first === undefined) return [...picks];
  const { left } = first;
  if (first.by === 'has') return memberToggled(picks, first);
  const others = picks.filter((pick) => pick.left !== left);
  const own = picks.filter((pick) => pick.left === left);
  if (isChosen({ join: 'all', picks }, count)) {
    const rest = own.flatMap((pick) =>
      pick.by === 'one-of' ? pick.right.filter((one) => !first.right.includes(one)) : [],
    );
    return rest.length === 0 ? others : [...others, { left, by: 'one-of', right: rest }];
  }
  const values = own.flatMap((pick) => (pick.by === 'one-of' ? pick.right : []));
  return first.by === 'one-of'
    ? [...others, { left, by: 'one-of', right: [...values, ...first.right] }]
    : [...others, ...count.picks];
}

/** What is in a list is asked for one by one: records that have all of it. */
function memberToggled(picks: readonly Pick[], member: Pick): Pick[] {
  const isIt = ({ left, by, right }: Pick): boolean =>
    left === member.left && by === 'has' && right.join() === member.right.join();
  return picks.some(isIt) ? picks.filter((pick) => !isIt(pick)) : [...picks, member];
}
