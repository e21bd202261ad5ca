import { folded } from '../kernel/folded';

/** Who belongs to whom, as far as steps ask by it. */
export interface Directory {
  readonly people: ReadonlyMap<
    string,
    { readonly manager: string | null; readonly ended: boolean; readonly place: string }
  >;
  readonly groups: ReadonlyMap<
    string,
    { readonly people: readonly string[]; readonly groups: readonly string[] }
  >;
}

/** Who is of a group and at one of these places, which are written as in the directory or nearly so. */
export function holdersAt(group: string, places: readonly string[], directory: Directory): readonly string[] {
  const meant = new Set(places.map((one) => folded(one.trim())).filter((one) => one !== ''));
  return membersOf([group], directory).filter((id) => {
    const found = directory.people.get(id);
    return found?.ended === false && meant.has(folded(found.place.trim()));
  });
}

/** Everybody in these groups, and in those within them. */
export function membersOf(groups: readonly string[], directory: Directory): string[] {
  const seen = new Set<string>();
  const found: string[] = [];
  const visit = (id: string): void => {
    const group = directory.groups.get(id);
    if (group === undefined || seen.has(id)) return;
    seen.add(id);
    found.push(...group.people);
    group.groups.forEach(visit);
  };
  groups.forEach(visit);
  return found;
}
