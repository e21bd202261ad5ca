import { passwordIssue } from '../../core/access/password';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { invited, takeInvitation } from '../../data/accounts';
import { enter, type Cookies, type From } from './sign-in';
import { hashOf } from './keep-person';

/** Whom a link is for, so that they see it is theirs before they choose a password. */
export async function readInvitation({
  token,
}: {
  token: string;
}): Promise<Result<{ name: string; email: string }, Refusal>> {
  const who = await invited(hashOf(token));
  return who === null ? fail(notFound('invitation')) : ok({ name: who.name, email: who.email });
}

/** Keeps the password somebody chose and signs them in with it. A link is good once. */
export async function takeUp(
  { token, password }: { token: string; password: string },
  from: From,
): Promise<Result<Cookies, Refusal>> {
  const who = await invited(hashOf(token));
  if (who === null) return fail(notFound('invitation'));
  const wrong = passwordIssue(password, who.email);
  if (wrong !== null) return fail(invalid(wrong));
  return (await takeInvitation(hashOf(token), password))
    ? enter({ email: who.email, password }, from)
    : fail(notFound('invitation'));
}
