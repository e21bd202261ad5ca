import type { ApprovalStep } from '../form/design';

/** Who belongs to whom, as far as steps ask by it. */
export interface Directory {
  readonly people: ReadonlyMap<string, { readonly manager: string | null; readonly ended: boolean }>;
  readonly groups: ReadonlyMap<
    string,
    { readonly people: readonly string[]; readonly groups: readonly string[] }
  >;
}

/**
 * Steps as they ask about something of this sender: those they name, who is in the groups they name, and the sender's manager, each once and as it is
 * now. Whoever has left is not asked.
 */
export const stepsFor = (
  steps: readonly ApprovalStep[],
  sender: string,
  directory: Directory,
): ApprovalStep[] =>
  steps.map((step) => {
    const manager = step.manager === true ? (directory.people.get(sender)?.manager ?? null) : null;
    const all = [
      ...step.people,
      ...membersOf(step.groups ?? [], directory),
      ...(manager === null ? [] : [manager]),
    ];
    const people = [...new Set(all)].filter((id) => directory.people.get(id)?.ended === false);
    return { ...step, people };
  });

/** Everybody in these groups, and in those within them. */
function membersOf(groups: readonly string[], directory: Directory): string[] {
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
