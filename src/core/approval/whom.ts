import { rulesIn, type ApprovalStep, type FormDesign, type RoleAt } from '../form/design';
import { ruledSteps, type Undecided } from '../rules/ruled-steps';
import { levelsOf, type RuleTable, type Whom } from '../rules/rules';
import { membersOf, type Directory } from './directory';
import type { Named, Told } from './told';

/** A step as it asks about what is sent. */
export type StepNow = ApprovalStep & Undecided;

const nothingTold: Pick<Told, 'named' | 'ruled'> = { named: {}, ruled: {} };

/** Steps as the rules say, before it is looked up who that is. */
export const stepsAsTold = (
  design: Pick<FormDesign, 'steps' | 'rules'>,
  { ruled }: Pick<Told, 'ruled'>,
): StepNow[] => ruledSteps(design.steps, rulesIn(design), ruled);

/**
 * Steps as they ask about something of this sender: those they or the rules name, whom the answers name, who
 * is in the groups they name, and the sender's manager, each once and as it is now. Whoever has left is not
 * asked.
 */
export const stepsFor = (
  design: Pick<FormDesign, 'steps' | 'rules'>,
  sender: string,
  directory: Directory,
  told: Pick<Told, 'named' | 'ruled'> = nothingTold,
): StepNow[] => {
  const isHere = (id: string): boolean => directory.people.get(id)?.ended === false;
  return stepsAsTold(design, told).map((step) => {
    const all = whysOf(step, sender, directory, told.named).flatMap(({ people }) => people);
    const { fallback } = step;
    return {
      ...step,
      people: [...new Set(all)].filter(isHere),
      fallback: fallback !== undefined && isHere(fallback) ? fallback : undefined,
    };
  });
};

/**
 * Why somebody is asked: the answers name them or their place, they are in a group, they are the sender's
 * manager or further above, or there is nobody else.
 */
export type Why = 'named' | 'role' | 'group' | 'manager' | 'above' | 'fallback';

/** Why a step asks somebody; null where it names them, or where it was handed to them. Of a group, which of those it names they are in. */
export function whyAsked(
  step: ApprovalStep,
  who: string,
  sender: string,
  directory: Directory,
  named: Named,
): { readonly why: Why; readonly group: string | null } | null {
  const found = whysOf(step, sender, directory, named).find(({ people }) => people.includes(who));
  if (found === undefined) return step.fallback === who ? { why: 'fallback', group: null } : null;
  return found.why === null ? null : { why: found.why, group: found.group };
}

/**
 * Tables of rules with everybody they would ask about something of this sender, instead of groups and the
 * manager. Whom the answers name is not among them.
 */
export const rulesFor = (
  design: Pick<FormDesign, 'rules'>,
  sender: string,
  directory: Directory,
): RuleTable[] =>
  rulesIn(design).map((table) => ({
    ...table,
    rows: table.rows.map((row) => ({
      ...row,
      gives: row.gives.map((one) => {
        const people = whysOf({ ...one, id: '' }, sender, directory, {}).flatMap((why) => why.people);
        const here = people.filter((id) => directory.people.get(id)?.ended === false);
        return { ...one, people: [...new Set(here)], groups: undefined, manager: undefined };
      }),
    })),
  }));

function whysOf(
  step: Whom & Pick<ApprovalStep, 'id' | 'role'>,
  sender: string,
  directory: Directory,
  named: Named,
): { readonly why: Why | null; readonly group: string | null; readonly people: readonly string[] }[] {
  const manager = aboveOf(sender, levelsOf(step), directory);
  const told = named[step.id] ?? [];
  // What the answers told stands: of those, who is in the group is asked for that.
  const held = ({ group }: RoleAt) => membersOf([group], directory).filter((id) => told.includes(id));
  return [
    { why: null, group: null, people: step.people },
    ...(step.role === undefined
      ? []
      : [{ why: 'role' as const, group: step.role.group, people: held(step.role) }]),
    { why: 'named', group: null, people: told },
    ...(step.groups ?? []).map((group) => ({
      why: 'group' as const,
      group,
      people: membersOf([group], directory),
    })),
    { why: levelsOf(step) > 1 ? 'above' : 'manager', group: null, people: manager === null ? [] : [manager] },
  ];
}

/** Whoever is so many levels above somebody; where there are fewer, whoever is highest. Nobody is above themselves. */
function aboveOf(somebody: string, levels: number, { people }: Directory): string | null {
  const seen = [somebody];
  for (let level = 0; level < levels; level++) {
    const above = people.get(seen.at(-1) ?? '')?.manager ?? null;
    if (above === null || seen.includes(above)) break;
    seen.push(above);
  }
  return seen.length === 1 ? null : (seen.at(-1) ?? null);
}
