import type { FollowedLook, FollowedList, ListToFollow } from '../../contract/people-list';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { directoryEntries } from '../../core/directory/directory-entries';
import {
  following,
  stillHere,
  type DirectoryFault,
  type DirectoryOutcome,
  type Following,
} from '../../core/directory/following';
import type { DirectoryList } from '../../core/directory/directory-rows';
import { mayAdminister } from '../../core/access/rules';
import { issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import type { Tx } from '../../data/connect';
import {
  dropDirectory,
  dueDirectory,
  noteOutcome,
  putDirectory,
  putMembers,
  readDirectory,
  readMembers,
} from '../../data/system/directory';
import { readSource, readSources, type SourceRow } from '../../data/system/links';
import { asOwner, asPerson } from '../../data/transaction';
import { answerOf } from '../links/look-at-source';
import type { Context } from '../workspace/asking';
import { endAll, putListed } from './directory';
import { administering, hashOf } from './keep-person';

/** Whether a list outside is followed, what came of it, and which there are to follow. */
export const openList = (context: Context): Promise<Result<FollowedList, Refusal>> =>
  administering(context, async (tx, { people }) => {
    const [now, members] = [await readDirectory(tx), await readMembers(tx)];
    return ok({
      sources: (await readSources(tx)).flatMap(({ id, label, address }) =>
        address.t === 'list' ? [{ id, label, url: address.url }] : [],
      ),
      followed:
        now === null
          ? null
          : {
              source: now.sourceId,
              every: now.every,
              endsAccess: now.endsAccess,
              namedBy: people.get(now.namedById)?.name ?? '',
              version: now.version,
              triedAt: now.triedAt.toISOString(),
              followedAt: now.followedAt.toISOString(),
              outcome: now.outcome,
              members: stillHere(members),
            },
    });
  });

/** What following a list would change. Nothing is kept of it. */
export async function lookAtList(context: Context, id: string): Promise<Result<FollowedLook, Refusal>> {
  const source = await sourceOf(context, id);
  if (!source.ok) return source;
  const list = await listOf(source.value);
  if (!list.ok) return ok({ t: 'failed', fault: list.error });
  return administering(context, async (tx, catalogue) => {
    const found = await followingNow(tx, catalogue, list.value, { source: id, namedBy: context.person.id });
    return ok({
      t: 'looked',
      people: list.value.rows.length,
      unread: list.value.unread,
      plan: found.plan,
      leaving: found.leaving,
      seen: seenOf(found),
    });
  });
}

/**
 * Has a list followed from now on, beginning with what was looked over; or follows it now, however many
 * leave, since somebody has looked.
 */
export async function keepList(
  context: Context,
  { source: id, every, endsAccess, version, seen }: ListToFollow,
): Promise<Result<FollowedList, Refusal>> {
  const source = await sourceOf(context, id);
  if (!source.ok) return source;
  const list = await listOf(source.value);
  // It was there when it was looked over.
  if (!list.ok) return fail(stale('people-changed'));
  const done = await administering(context, async (tx, catalogue) => {
    const named = { sourceId: id, every, endsAccess, namedById: context.person.id };
    const before = await readDirectory(tx);
    // First, so that of two who do this at once the second waits and is told.
    if (!(await putDirectory(tx, named, version, context.now))) return fail(stale('people-changed'));
    // What another list knew people by means others in this one.
    if (before !== null && before.sourceId !== id) await putMembers(tx, new Map());
    const found = await followingNow(tx, catalogue, list.value, { source: id, namedBy: context.person.id });
    if (seenOf(found) !== seen) return fail(stale('people-changed'));
    await carriedOut(tx, catalogue, found, { endsAccess, every, context });
    return ok(null);
  });
  return done.ok ? openList(context) : done;
}

/** Nobody is followed into the workspace any more. Who came by the list stays. */
export const stopList = (context: Context, version: number): Promise<Result<FollowedList, Refusal>> =>
  administering(context, async (tx) =>
    (await dropDirectory(tx, version)) ? ok(null) : fail(stale('people-changed')),
  ).then((done) => (done.ok ? openList(context) : done));

/** Follows the list if its time has come, as the administrator who named it. */
export async function followDueList(now = new Date()): Promise<void> {
  const due = await asOwner({ person: '' }, async (tx, { people }) => {
    const found = await dueDirectory(tx, now);
    return ok(found === null ? null : { ...found, person: people.get(found.directory.namedById) ?? null });
  });
  if (!due.ok || due.value === null) return;
  const { directory, source, person } = due.value;
  const failed = (fault: DirectoryFault): Promise<unknown> =>
    noted({ t: 'failed', fault }, directory.version, now, RETRY_MINUTES);
  if (person === null || person.ended || !mayAdminister(person))
    return void (await failed({ code: 'not-administrator', facts: { name: person?.name ?? '' } }));
  const list = await listOf(source);
  if (!list.ok) return void (await failed(list.error));
  const { every, endsAccess } = directory;
  const done = await administering({ person, now }, async (tx, catalogue) => {
    const there = await readDirectory(tx, true);
    // Somebody has said otherwise, or followed it, meanwhile.
    if (there?.version !== directory.version || there.dueAt > now) return ok(null);
    const found = await followingNow(tx, catalogue, list.value, { source: source.id, namedBy: person.id });
    if (endsAccess && found.isMuch)
      return ok({
        t: 'held' as const,
        leaving: found.leaving.length,
        of: stillHere(await readMembers(tx)),
      });
    await carriedOut(tx, catalogue, found, { endsAccess, every, context: { person, now } });
    return ok(null);
  });
  if (!done.ok) await failed({ code: 'fault', facts: { reference: done.error.kind } });
  else if (done.value !== null) await noted(done.value, directory.version, now, every);
}

/** Tried again so soon when it could not be followed. */
const RETRY_MINUTES = 15;

const after = (now: Date, minutes: number): Date => new Date(now.getTime() + minutes * 60_000);

/** As the owner role, since whoever named it may be nobody any more. */
const noted = (
  outcome: DirectoryOutcome,
  version: number,
  now: Date,
  minutes: number,
): Promise<Result<null, Refusal>> =>
  asOwner({ person: '' }, async (tx) => {
    if ((await readDirectory(tx, true))?.version === version)
      await noteOutcome(tx, outcome, { now, due: after(now, minutes) });
    return ok(null);
  });

async function sourceOf(context: Context, id: string): Promise<Result<SourceRow, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  return asPerson({ person: context.person.id }, async (tx) => {
    const source = await readSource(tx, id);
    if (source === null) return fail(notFound('source'));
    return source.address.t === 'list' ? ok(source) : fail(invalid(issue('malformed', ['source'])));
  });
}

/** The list of people at an address. */
async function listOf(source: SourceRow): Promise<Result<DirectoryList, DirectoryFault>> {
  const answer = await answerOf(source);
  if (!answer.ok) return answer;
  const list = directoryEntries(answer.value);
  if (list === null || list.rows.length === 0) return fail({ code: 'no-list', facts: {} });
  if (list.missing.length > 0) return fail({ code: 'no-people', facts: { missing: list.missing.join(' ') } });
  return list.rows.length > limits.directory
    ? fail({ code: 'too-many', facts: { most: limits.directory } })
    : ok(list);
}

async function followingNow(
  tx: Tx,
  { people, groups }: Catalogue,
  { rows }: DirectoryList,
  { source, namedBy }: { readonly source: string; readonly namedBy: string },
): Promise<Following> {
  // Nobody came by a list that is another one than is followed.
  const isFollowed = (await readDirectory(tx))?.sourceId === source;
  return following(rows, [...people.values()], [...groups.values()], {
    members: isFollowed ? await readMembers(tx) : new Map(),
    namedBy,
  });
}

const seenOf = ({ plan, leaving }: Following): string => hashOf(JSON.stringify([plan, leaving]));

/** So many lines that are wrong are kept to be looked at. */
const WRONG_SHOWN = 50;

async function carriedOut(
  tx: Tx,
  catalogue: Catalogue,
  { plan, leaving, rows }: Following,
  { endsAccess, every, context }: { endsAccess: boolean; every: number; context: Context },
): Promise<void> {
  const idOf = await putListed(tx, catalogue, plan);
  const going = new Set(endsAccess ? leaving.map(({ id }) => id) : []);
  await endAll(tx, going, catalogue, context.person.id);
  // Whoever has it followed and is not in it stays, and did not come by it.
  const before = [...(await readMembers(tx))].filter(([id]) => id !== context.person.id);
  const members = new Map(
    before.map(([id, one]) => [id, going.has(id) ? { ...one, ended: true } : one] as const),
  );
  for (const { email, entry = '' } of rows)
    members.set(idOf.get(email.trim().toLowerCase()) ?? '', { entry, ended: false });
  await putMembers(tx, members);
  const { issues } = plan;
  await noteOutcome(
    tx,
    {
      t: 'followed',
      added: plan.add.length,
      changed: plan.change.length,
      left: going.size,
      issues: issues.slice(0, WRONG_SHOWN),
      wrong: issues.length,
    },
    { now: context.now, due: after(context.now, every) },
  );
}
