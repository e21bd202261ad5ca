import type { Pick, PickGroup, Picked } from '../check/pick-text';

/** Edits of a filter as it is picked: each gives a new one. */

/** All where any was enough, and the other way round; what stands together inside turns about with it. */
export const otherJoin = ({ join, picks, groups = [] }: Picked): Picked => {
  const [next, within] = join === 'all' ? (['any', 'all'] as const) : (['all', 'any'] as const);
  return withGroups(
    { join: next, picks },
    groups.map((group) => ({ ...group, within, join: group.join === 'none' ? 'none' : within })),
  );
};

/** A condition becomes a group of its own, for others to stand beside it. */
export function grouped(filter: Picked, at: number): Picked {
  const pick = filter.picks[at];
  if (pick === undefined) return filter;
  const within = filter.join === 'all' ? 'any' : 'all';
  const { groups = [] } = filter;
  return withGroups({ join: filter.join, picks: filter.picks.filter((_, i) => i !== at) }, [
    ...groups,
    { join: within, within, picks: [pick] },
  ]);
}

/** Another group in the place of one; null takes it away, and one that is left with a single condition is that condition. */
export function withGroup(filter: Picked, at: number, next: PickGroup | null): Picked {
  const { groups = [], ...rest } = filter;
  const alone: readonly Pick[] =
    next !== null && next.picks.length === 1 && next.join !== 'none' ? next.picks : [];
  if (next !== null && alone.length === 0)
    return withGroups(
      rest,
      groups.map((one, i) => (i === at ? next : one)),
    );
  return withGroups(
    { ...rest, picks: [...rest.picks, ...alone] },
    groups.filter((_, i) => i !== at),
  );
}

const withGroups = ({ join, picks }: Bare, groups: readonly PickGroup[]): Picked => ({
  join,
  picks,
  ...(groups.length > 0 && { groups }),
});
type Bare = Omit<Picked, 'groups'>;
