import type { WelcomeData } from '../../contract/people';
import { passwordIssue } from '../../core/access/password';
import { newUuid } from '../../core/kernel/ids';
import { invalid, notFound, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { askForPassword, invited, takeInvitation } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import { guessesOf } from '../../data/guesses';
import { welcomeToken } from '../../data/secret';
import { claimOutside } from '../../data/system/sign-in-tries';
import { mailsHere } from '../../outside/mail';
import { enter, type Cookies, type From } from './sign-in';
import { hashOf } from './keep-person';

/** Whom a link is for, so that they see it is theirs before they choose a password. */
export async function readInvitation({ token }: { token: string }): Promise<Result<WelcomeData, Refusal>> {
  const who = await invited(hashOf(token));
  if (who === null) return fail(notFound('invitation'));
  const { name, email, again } = who;
  return ok({ name, email, again });
}

/** Keeps the password somebody chose and signs them in with it. A link is good once. */
export async function takeUp(
  { token, password }: { token: string; password: string },
  from: From,
): Promise<Result<Cookies, Refusal>> {
  const who = await invited(hashOf(token));
  if (who === null) return fail(notFound('invitation'));
  const { name, email, place } = who;
  const wrong = passwordIssue(password, await guessesOf([email, name, place]));
  if (wrong !== null) return fail(invalid(wrong));
  return (await takeInvitation(hashOf(token), password))
    ? enter({ email, password }, from)
    : fail(notFound('invitation'));
}

/** Whether whoever forgot their password is mailed a link; where nobody is mailed, administrators make them one. */
export const mayAskForPassword = (): boolean => mailsHere();

const FORGOTTEN_MS = 60 * 60_000;

/** Mails a link to whoever has the address and forgot their password. Whoever asks hears the same whether somebody has it or not. */
export async function forgot(
  { email }: { email: string },
  { address }: Pick<From, 'address'>,
): Promise<Result<null, Refusal>> {
  if (!mailsHere()) return fail(notFound('page'));
  const wait = await claimOutside(appDatabase(), 'forgotten', address);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const of = newUuid();
  const until = new Date(Date.now() + FORGOTTEN_MS);
  await askForPassword(email, { tokenHash: hashOf(welcomeToken(of)), until, mailedOf: of });
  return ok(null);
}
