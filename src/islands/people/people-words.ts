import type { PersonData } from '../../contract/people';
import type { Role } from '../../core/access/rules';
import type { Group } from '../../core/catalogue/catalogue';
import { speak, spoken } from '../../core/wording/speak';

/** What a role lets somebody do besides filling forms. */
export const roleWords = spoken((): Readonly<Record<Exclude<Role, 'colleague'>, string>> => ({
  owner: speak`designs forms and tables`,
  steward: speak`sees to the tables`,
  administrator: speak`administers the workspace`,
}));

export const rolesOf = ({ roles }: Pick<PersonData, 'roles'>): string =>
  (Object.keys(roleWords()) as (keyof ReturnType<typeof roleWords>)[])
    .filter((role) => roles.includes(role))
    .map((role) => roleWords()[role])
    .join(', ');

/** How many people are in a group, counting those in the groups it holds, each once. */
export function peopleIn(groups: readonly Group[], id: string): ReadonlySet<string> {
  const found = new Set<string>();
  const seen = new Set([id]);
  for (const one of seen) {
    const group = groups.find((candidate) => candidate.id === one);
    for (const person of group?.people ?? []) found.add(person);
    for (const inner of group?.groups ?? []) seen.add(inner);
  }
  return found;
}
