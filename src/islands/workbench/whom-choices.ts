import type { Directory } from '../../core/approval/directory';
import { toStored } from '../../core/expression/stored-text';
import type { Scope } from '../../core/expression/type';
import { rulesIn, type ApprovalStep } from '../../core/form/design';
import { beginRules, leaveRules } from '../../core/form/rule-edits';
import { newShortId } from '../../core/kernel/ids';
import { limits } from '../../core/limits';
import { rulesFor } from '../../core/rules/ruled-steps';
import type { Whom } from '../../core/rules/rules';
import { peopleInAnswers } from '../../core/form/people-in-answers';
import { personChoices } from '../kit/person-choices';
import type { Choice } from '../kit/Select';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';

export const MANAGER = 'manager';
/** Before the formula of whom the answers name, where it stands among people and groups. */
const NAMED = 'named ';

/** Whom a step may ask: whoever is the sender's manager, whom the answers name, the groups, and everybody by name. */
export const whomChoices = ({ data, ...bench }: Workbench): Choice[] => [
  { value: MANAGER, label: 'the sender’s manager' },
  { value: `${MANAGER} 2`, label: 'the manager of the sender’s manager' },
  { value: `${MANAGER} 3`, label: 'whoever is three levels above the sender' },
  ...namedChoices(bench.scope()),
  ...data.groups.map(({ id, label }) => ({ value: id, label: speak`group ${label}` })),
  ...personChoices(data.people),
];

const namedChoices = (scope: Scope): Choice[] =>
  peopleInAnswers(scope).map((name) => ({
    value: `${NAMED}${toStored(name, scope)}`,
    label: speak`the person in ${name}`,
  }));

const ROLE = 'role';

/** Before the id of the table of rules that says whom a step asks. */
const RULES = 'rules ';
const NEW_RULES = `${RULES}new`;

/** The same for a step, which may ask whom rules say instead. */
export const stepWhomChoices = (bench: Workbench): Choice[] => {
  const rules = rulesIn(bench.design);
  return [
    ...rules.map(({ id, label }) => ({
      value: `${RULES}${id}`,
      label: speak`whom the rules “${label}” say`,
    })),
    ...(rules.length < limits.ruleTables
      ? [{ value: NEW_RULES, label: 'whom rules say, in a table of their own' }]
      : []),
    ...(bench.data.groups.length > 0
      ? [{ value: ROLE, label: 'those of a group at the place in an answer' }]
      : []),
    ...whomChoices(bench),
  ];
};

export const stepWhomOf = (step: ApprovalStep, { design }: Workbench): string[] => {
  const rules = rulesFor(rulesIn(design), step.id);
  return rules.length > 0
    ? rules.map(({ id }) => `${RULES}${id}`)
    : [...(step.role === undefined ? [] : [ROLE]), ...whomOf(step)];
};

/** A step asks those it names or whom rules say: what was picked last stands. */
export function askByStep(bench: Workbench, step: ApprovalStep, picked: readonly string[]): void {
  const before = stepWhomOf(step, bench);
  const added = picked.filter((one) => !before.includes(one));
  const ruled = picked.filter((one) => one.startsWith(RULES));
  if (added.includes(NEW_RULES)) {
    const ids = {
      table: newShortId(),
      row: newShortId(),
      label: speak`Rules for ${step.label}`.slice(0, limits.label),
    };
    bench.edit((design) => beginRules(design, step.id, ids));
  } else if (added.length > 0 ? added.some((one) => one.startsWith(RULES)) : ruled.length > 0) {
    const tables = ruled.map((one) => one.slice(RULES.length));
    bench.edit((design) => leaveRules(design, step.id, tables));
  } else {
    const whom = {
      ...askedOf(
        picked.filter((one) => !one.startsWith(RULES) && one !== ROLE),
        bench,
      ),
      role: picked.includes(ROLE) ? (step.role ?? firstRole(bench)) : undefined,
    };
    bench.edit((design) => {
      const left = leaveRules(design, step.id);
      return { ...left, steps: left.steps.map((one) => (one.id === step.id ? { ...one, ...whom } : one)) };
    });
  }
}

/** The answer is picked beside it. */
const firstRole = ({ data }: Workbench): ApprovalStep['role'] => ({
  group: data.groups[0]?.id ?? '',
  at: '',
});

export const whomOf = ({ people, groups = [], manager, named }: Whom): string[] => [
  ...(manager === undefined ? [] : [manager === true ? MANAGER : `${MANAGER} ${manager}`]),
  ...(named === undefined ? [] : [`${NAMED}${named}`]),
  ...groups,
  ...people,
];

/** Of several levels the highest. */
function managerOf(whom: readonly string[]): Whom['manager'] {
  if (whom.includes(`${MANAGER} 3`)) return 3;
  if (whom.includes(`${MANAGER} 2`)) return 2;
  return whom.includes(MANAGER) ? true : undefined;
}

export function askedOf(whom: readonly string[], { data }: Workbench): Whom {
  const isGroup = (id: string): boolean => data.groups.some((group) => group.id === id);
  const groups = whom.filter(isGroup);
  // A step asks by one answer; the one picked last stays.
  const named = whom.findLast((id) => id.startsWith(NAMED))?.slice(NAMED.length);
  return {
    people: whom.filter((id) => !id.startsWith(MANAGER) && !id.startsWith(NAMED) && !isGroup(id)),
    groups: groups.length === 0 ? undefined : groups,
    manager: managerOf(whom),
    named,
  };
}

export const directoryOf = ({ data }: Workbench): Directory => ({
  people: new Map(data.people.map(({ id, manager, place }) => [id, { manager, place, ended: false }])),
  groups: new Map(data.groups.map((group) => [group.id, group])),
});
