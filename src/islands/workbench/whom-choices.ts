import type { Directory } from '../../core/approval/whom';
import { toStored } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import type { ApprovalStep } from '../../core/form/design';
import { peopleInAnswers } from '../../core/form/people-in-answers';
import { personChoices } from '../kit/person-choices';
import type { Choice } from '../kit/Select';
import type { Workbench } from './use-workbench';

export const MANAGER = 'manager';
/** Before the formula of whom the answers name, where it stands among people and groups. */
const NAMED = 'named ';

/** Whom a step may ask: whoever is the sender's manager, whom the answers name, the groups, and everybody by name. */
export const whomChoices = ({ data, ...bench }: Workbench): Choice[] => [
  { value: MANAGER, label: 'the sender’s manager' },
  ...namedChoices(bench.scope()),
  ...data.groups.map(({ id, label }) => ({ value: id, label: `group ${label}` })),
  ...personChoices(data.people),
];

const namedChoices = (scope: Scope): Choice[] =>
  peopleInAnswers(scope).map((name) => ({
    value: `${NAMED}${toStored(name, scope)}`,
    label: `the person in ${name}`,
  }));

export const whomOf = ({ people, groups = [], manager, named }: ApprovalStep): string[] => [
  ...(manager === true ? [MANAGER] : []),
  ...(named === undefined ? [] : [`${NAMED}${named}`]),
  ...groups,
  ...people,
];

export function askedOf(
  whom: readonly string[],
  { data }: Workbench,
): Pick<ApprovalStep, 'people' | 'groups' | 'manager' | 'named'> {
  const isGroup = (id: string): boolean => data.groups.some((group) => group.id === id);
  const groups = whom.filter(isGroup);
  // A step asks by one answer; the one picked last stays.
  const named = whom.findLast((id) => id.startsWith(NAMED))?.slice(NAMED.length);
  return {
    people: whom.filter((id) => id !== MANAGER && !id.startsWith(NAMED) && !isGroup(id)),
    groups: groups.length === 0 ? undefined : groups,
    manager: whom.includes(MANAGER) ? true : undefined,
    named,
  };
}

export const directoryOf = ({ data }: Workbench): Directory => ({
  people: new Map(data.people.map(({ id, manager }) => [id, { manager, ended: false }])),
  groups: new Map(data.groups.map((group) => [group.id, group])),
});
