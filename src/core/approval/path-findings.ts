import type { FormDesign } from '../form/design';
import { rulesIn } from '../form/design';
import { levelsOf } from '../rules/rules';
import { membersOf, type Directory } from './directory';

/** What is found by holding a path against who is here: a step asks a group nobody is in; managers go round, each above the other. */
export type PathFinding =
  | { readonly t: 'empty-group'; readonly step: string; readonly group: string }
  | { readonly t: 'managers-go-round'; readonly people: readonly string[] };

export function pathFindings(
  design: Pick<FormDesign, 'steps' | 'rules'>,
  directory: Directory,
): PathFinding[] {
  const isHere = (id: string): boolean => directory.people.get(id)?.ended === false;
  const isEmpty = (group: string): boolean => !membersOf([group], directory).some(isHere);
  const given = rulesIn(design).flatMap(({ rows }) => rows.flatMap(({ gives }) => gives));
  const empty = design.steps.flatMap(({ id, groups = [], role }) => {
    const byRules = given.filter(({ step }) => step === id).flatMap((one) => one.groups ?? []);
    const asked = new Set([...groups, ...(role === undefined ? [] : [role.group]), ...byRules]);
    return [...asked].filter(isEmpty).map((group): PathFinding => ({ t: 'empty-group', step: id, group }));
  });
  const climbs = [...design.steps, ...given].some((one) => levelsOf(one) > 0);
  return [...empty, ...(climbs ? roundsOf(directory) : [])];
}

/** Each round once, beginning with whoever comes first. */
function roundsOf({ people }: Directory): PathFinding[] {
  const done = new Set<string>();
  return [...people.keys()].flatMap((first): PathFinding[] => {
    const way: string[] = [];
    for (let at: string | null = first; at !== null && !done.has(at); at = people.get(at)?.manager ?? null) {
      done.add(at);
      way.push(at);
    }
    const above = people.get(way.at(-1) ?? '')?.manager ?? '';
    const from = way.indexOf(above);
    return from < 0 ? [] : [{ t: 'managers-go-round', people: way.slice(from) }];
  });
}
