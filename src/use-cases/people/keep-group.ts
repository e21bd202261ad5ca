import type { GroupInput } from '../../contract/people';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { dropGroup, putGroup } from '../../data/system/people';
import type { Context } from '../workspace/asking';
import { administering } from './keep-person';

/** Makes a group, or changes what it is called and who is in it. */
export function keepGroup(
  context: Context,
  id: string,
  input: GroupInput,
): Promise<Result<{ id: string }, Refusal>> {
  return administering(context, async (tx, catalogue) => {
    const issues = groupIssues(catalogue, id, input);
    if (issues.length > 0) return fail(invalid(...issues));
    await putGroup(tx, id, {
      label: input.label,
      people: [...new Set(input.people)],
      groups: [...new Set(input.groups)],
    });
    return ok({ id });
  });
}

function groupIssues({ people, groups }: Catalogue, id: string, input: GroupInput): Issue[] {
  const taken = [...groups.values()].some(
    (one) => one.id !== id && one.label.toLowerCase() === input.label.toLowerCase(),
  );
  return [
    ...(taken ? [issue('group-label-taken', ['label'])] : []),
    ...(input.people.every((one) => people.has(one)) ? [] : [issue('not-a-colleague', ['people'])]),
    ...(input.groups.every((one) => groups.has(one)) ? [] : [issue('group-gone', ['groups'])]),
    ...(input.groups.includes(id) ? [issue('group-in-itself', ['groups'])] : []),
  ];
}

/** Takes a group away, and with it all that was granted to it; the people stay. */
export function removeGroup(context: Context, id: string): Promise<Result<null, Refusal>> {
  return administering(context, async (tx, { groups }) => {
    if (!groups.has(id)) return fail(notFound('group'));
    await dropGroup(tx, id);
    return ok(null);
  });
}
