import { createHash } from 'node:crypto';
import type { InvitationData, PersonInput } from '../../contract/people';
import { mayAdminister } from '../../core/access/rules';
import type { Catalogue } from '../../core/catalogue/catalogue';
import { issue, type Issue } from '../../core/kernel/issue';
import { forbidden, invalid, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { newUuid } from '../../core/kernel/ids';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import { databaseFault } from '../../data/field-issues';
import { beginAccess, endAccess, invite, putPerson, takeOffSecondStep } from '../../data/system/people';
import { welcomeToken } from '../../data/secret';
import { asPerson } from '../../data/transaction';
import { mailsHere } from '../../outside/mail';
import type { Context } from '../workspace/asking';

/** Long enough for somebody to come back from their holidays. */
const INVITED_DAYS = 14;

/** Makes a person, or changes one. The browser names a new one, so that a repeat makes nobody twice. */
export function keepPerson(
  context: Context,
  id: string,
  input: PersonInput,
): Promise<Result<{ id: string }, Refusal>> {
  return administering(context, async (tx, catalogue) => {
    const issues = personIssues(catalogue, id, input);
    if (issues.length > 0) return fail(invalid(...issues));
    await putPerson(tx, id, {
      ...input,
      email: input.email.toLowerCase(),
      roles: [...input.roles, 'colleague'],
    });
    return ok({ id });
  });
}

function personIssues({ people }: Catalogue, id: string, { email, manager, deputy }: PersonInput): Issue[] {
  const other = [...people.values()].find((one) => one.email.toLowerCase() === email.toLowerCase());
  const wrong = (who: string | null): boolean =>
    who !== null && (who === id || people.get(who)?.ended !== false);
  return [
    ...(other !== undefined && other.id !== id
      ? [issue('email-taken', ['email'], { name: other.name })]
      : []),
    ...(wrong(manager)
      ? [issue('not-a-colleague', ['manager'])]
      : manager !== people.get(id)?.manager && isUnder(people, manager, id)
        ? [issue('manager-circle', ['manager'], { name: people.get(manager ?? '')?.name ?? '' })]
        : []),
    ...(wrong(deputy) ? [issue('not-a-colleague', ['deputy'])] : []),
  ];
}

/** Whether somebody works, in the end, under another. */
function isUnder(people: Catalogue['people'], who: string | null, above: string): boolean {
  const seen = new Set<string>();
  for (let at = who; at !== null && !seen.has(at); at = people.get(at)?.manager ?? null) {
    if (at === above) return true;
    seen.add(at);
  }
  return false;
}

/**
 * A link by which somebody chooses a password. It is shown once, and mailed where mails are: only its hash is
 * kept, and the one before is worth nothing any more.
 */
export function invitePerson(context: Context, id: string): Promise<Result<InvitationData, Refusal>> {
  return administering(context, async (tx, { people }) => {
    if (people.get(id)?.ended !== false) return fail(notFound('person'));
    const of = newUuid();
    const token = welcomeToken(of);
    const until = new Date(context.now.getTime() + INVITED_DAYS * 86_400_000);
    const mailed = mailsHere();
    await invite(tx, id, { tokenHash: hashOf(token), until, mailedOf: mailed ? of : null });
    return ok({ path: welcomePath(token), expiresAt: until.toISOString(), mailed });
  });
}

/** After the sign, the token is sent to no server and stands in no log. */
export const welcomePath = (token: string): string => `/welcome#${token}`;

export const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');

/** Ends somebody's access at once. What they own goes to somebody else, so that nothing is left without anybody. */
export function endTheirAccess(
  context: Context,
  id: string,
  { to }: { to: string },
): Promise<Result<null, Refusal>> {
  return administering(context, async (tx, { people }) => {
    if (!people.has(id)) return fail(notFound('person'));
    if (id === context.person.id) return fail(invalid(issue('own-access', ['to'])));
    if (to === id || people.get(to)?.ended !== false) return fail(invalid(issue('not-a-colleague', ['to'])));
    await endAccess(tx, id, to);
    return ok(null);
  });
}

/** For somebody who has lost what their codes come from. */
export function takeOffTheirCodes(context: Context, id: string): Promise<Result<null, Refusal>> {
  return administering(context, async (tx, { people }) => {
    if (!people.has(id)) return fail(notFound('person'));
    if (id === context.person.id) return fail(invalid(issue('own-codes', [])));
    await takeOffSecondStep(tx, id);
    return ok(null);
  });
}

/** Lets somebody in again who had left; they need an invitation, for their password is gone. */
export function beginTheirAccess(context: Context, id: string): Promise<Result<null, Refusal>> {
  return administering(context, async (tx, { people }) => {
    if (!people.has(id)) return fail(notFound('person'));
    await beginAccess(tx, id);
    return ok(null);
  });
}

const UNIQUE_VIOLATION = '23505';

/** What the database refuses about people and groups, in its own codes. */
const REFUSED: Readonly<Record<string, Issue>> = {
  TS012: issue('last-administrator', ['roles']),
  TS013: issue('group-in-itself', ['groups']),
};

/** As an administrator. What two of them do at once is settled by the database. */
export async function administering<T>(
  context: Context,
  work: (tx: Tx, catalogue: Catalogue) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  if (!mayAdminister(context.person)) return fail(forbidden('people'));
  try {
    return await asPerson({ person: context.person.id }, work);
  } catch (error) {
    const fault = databaseFault(error);
    // Two have added the same address, or a group of the same name, at once: whoever was later is told.
    if (fault?.code === UNIQUE_VIOLATION) return fail(stale('people-changed'));
    const refused = REFUSED[fault?.code ?? ''];
    if (refused === undefined) throw error;
    return fail(invalid(refused));
  }
}
