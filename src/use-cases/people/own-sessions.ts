import Bowser from 'bowser';
import type { SessionData } from '../../contract/sign-in';
import { forbidden, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { sessionToken } from '../../data/accounts';
import { endSessions, sessionsOf } from '../../data/system/sessions';
import { asPerson } from '../../data/transaction';
import type { Context } from '../workspace/asking';
import type { Cookies, From } from './sign-in';
import { speak } from '../../core/wording/speak';

/** Where whoever asks is signed in: this browser first. */
export async function ownSessions(
  { person, now }: Context,
  headers: Headers,
): Promise<Result<SessionData[], Refusal>> {
  const token = sessionToken(headers) ?? '';
  return asPerson({ person: person.id }, async (tx) => {
    const rows = await sessionsOf(tx, person.id, token, now);
    const told = rows.map(({ since, agent, ...row }): SessionData => ({
      ...row,
      since: since.toISOString(),
      browser: browserWords(agent),
    }));
    return ok([...told.filter(({ isThis }) => isThis), ...told.filter(({ isThis }) => !isThis)]);
  });
}

/** Ends one of them, or with null all but the one that asks: whoever sits there has to sign in again at once. */
export async function endOwnSessions(
  { person }: Context,
  id: string | null,
  { headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const token = sessionToken(headers);
  if (token === null) return fail(forbidden('sign-in'));
  return asPerson({ person: person.id }, async (tx) => {
    await endSessions(tx, person.id, token, id);
    return ok({ cookies: [] });
  });
}

/** `Firefox on Linux`, as far as the browser tells. */
export function browserWords(agent: string): string {
  if (agent === '') return 'A browser';
  const { browser, os } = Bowser.parse(agent);
  return `${browser.name ?? 'A browser'}${os.name === undefined ? '' : speak` on ${os.name}`}`;
}
