import type { DirectoryData } from '../../contract/people';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { directoryPlan, type DirectoryPlan } from '../../core/directory/directory-plan';
import type { DirectoryRow } from '../../core/directory/directory-rows';
import { issue } from '../../core/kernel/issue';
import { newUuid } from '../../core/kernel/ids';
import { invalid, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import { beginAccess, endAccess, putGroup, putPeople } from '../../data/system/people';
import type { Context } from '../workspace/asking';
import { administering, hashOf } from './keep-person';

interface Listed {
  readonly rows: readonly DirectoryRow[];
}

/** What a list of people would change. Nothing is kept of it. */
export const planDirectory = (context: Context, { rows }: Listed): Promise<Result<DirectoryData, Refusal>> =>
  administering(context, async (_, catalogue) => ok(told(planOf(rows, catalogue))));

const planOf = (rows: readonly DirectoryRow[], { people, groups }: Catalogue): DirectoryPlan =>
  directoryPlan(rows, [...people.values()], [...groups.values()]);

const told = (plan: DirectoryPlan): DirectoryData => ({ plan, seen: hashOf(JSON.stringify(plan)) });

/**
 * Does what a list would change, all of it or nothing, as long as that is what was looked over. Of those who
 * are not in it, the access of those who are named ends; what they own goes to whoever they work under, or
 * else to the administrator who does this.
 */
export function followDirectory(
  context: Context,
  { rows, seen, leave }: Listed & { readonly seen: string; readonly leave: readonly string[] },
): Promise<Result<{ added: number; changed: number; left: number }, Refusal>> {
  return administering(context, async (tx, catalogue) => {
    const plan = planOf(rows, catalogue);
    if (plan.issues.length > 0) return fail(invalid(issue('list-wrong', ['rows'])));
    if (told(plan).seen !== seen) return fail(stale('people-changed'));
    if (leave.includes(context.person.id)) return fail(invalid(issue('own-access', ['leave'])));
    const going = new Set(leave);
    if (![...going].every((id) => plan.missing.some((one) => one.id === id)))
      return fail(stale('people-changed'));
    await putListed(tx, catalogue, plan);
    await endAll(tx, going, catalogue, context.person.id);
    return ok({ added: plan.add.length, changed: plan.change.length, left: going.size });
  });
}

/** All people at once, then the groups they are in: the list may name them in any order. Gives their ids by their addresses. */
export async function putListed(
  tx: Tx,
  { people, groups }: Catalogue,
  plan: DirectoryPlan,
): Promise<ReadonlyMap<string, string>> {
  const idOf = new Map([...people.values()].map(({ id, email }) => [email.toLowerCase(), id] as const));
  for (const one of plan.change) if (one.back && one.id !== null) await beginAccess(tx, one.id);
  for (const { email } of plan.add) idOf.set(email, newUuid());
  await putPeople(
    tx,
    [...plan.add, ...plan.change].map(({ email, name, place, manager }) => {
      const id = idOf.get(email) ?? '';
      const before = people.get(id);
      return {
        id,
        name,
        email,
        place,
        roles: before?.roles ?? ['colleague'],
        manager: manager === null ? null : (idOf.get(manager) ?? null),
        deputy: before?.deputy ?? null,
      };
    }),
  );
  for (const { id, label, join, leave } of plan.groups) {
    const out = new Set(leave.map(({ email }) => idOf.get(email)));
    const inside = (id === null ? [] : (groups.get(id)?.people ?? [])).filter((who) => !out.has(who));
    const joining = join.flatMap(({ email }) => idOf.get(email) ?? []);
    await putGroup(tx, id ?? newUuid(), {
      label,
      people: [...inside, ...joining],
      groups: id === null ? [] : (groups.get(id)?.groups ?? []),
    });
  }
  return idOf;
}

/** Ends the access of all who go; what they own goes to whoever stays above them, or to who does this. */
export async function endAll(
  tx: Tx,
  going: ReadonlySet<string>,
  catalogue: Catalogue,
  me: string,
): Promise<void> {
  for (const id of going) await endAccess(tx, id, successor(id, going, catalogue, me));
}

/** Whoever is above them and stays; where that is nobody, the administrator. */
function successor(id: string, going: ReadonlySet<string>, { people }: Catalogue, me: string): string {
  const seen = new Set([id]);
  for (let at = people.get(id)?.manager ?? null; at !== null && !seen.has(at);) {
    if (!going.has(at) && people.get(at)?.ended === false) return at;
    seen.add(at);
    at = people.get(at)?.manager ?? null;
  }
  return me;
}
