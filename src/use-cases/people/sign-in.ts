import { passwordIssue } from '../../core/access/password';
import { issue } from '../../core/kernel/issue';
import { fail, ok, type Result } from '../../core/kernel/result';
import { forbidden, invalid, tooMany, type Refusal } from '../../core/kernel/refusal';
import type { Entered } from '../../contract/sign-in';
import { changePassword, deviceCookie, isKnownDevice, signIn, signOut } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import { guessesOf } from '../../data/guesses';
import { askedForCode, passCode } from '../../data/second-step';
import { claimTry, forgiveTry } from '../../data/system/sign-in-tries';
import { noteRefused } from '../../data/system/trail';
import type { Context } from '../workspace/asking';

/** What the browser is given: the cookies of a session, and what it is told besides. */
export interface Cookies<T = unknown> {
  readonly cookies: readonly string[];
  readonly told?: T;
}

/** Where a request came from: the address our own server saw, and the browser's cookies. */
export interface From {
  readonly address: string;
  readonly headers: Headers;
  /** What the address names. */
  readonly params?: Readonly<Record<string, string | undefined>>;
}

/**
 * Signs somebody in, or asks them for a code. Wrong passwords make the next try wait, for this account and
 * from this address; a right one on a known browser gets through.
 */
export async function enter(
  { email, password }: { email: string; password: string },
  { address, headers }: From,
): Promise<Result<Cookies<Entered>, Refusal>> {
  const from = { email, address, known: isKnownDevice(headers, email) };
  const wait = await claimTry(appDatabase(), from);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const entry = await signIn(email, password, headers);
  if (entry === null) {
    await noteRefused(email, address);
    return fail(forbidden('password'));
  }
  // Until the code is given the try counts: who knows a password must not guess codes for ever.
  if (entry.asksCode) return ok({ cookies: entry.cookies, told: { asksCode: true } });
  await forgiveTry(appDatabase(), from);
  return ok({ cookies: [...entry.cookies, deviceCookie(email)], told: { asksCode: false } });
}

/** The second step: a code, or one of the spare ones. Counted with the passwords. */
export async function enterWithCode(
  { code }: { code: string },
  { address, headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const asked = await askedForCode(headers);
  if (asked === null) return fail(forbidden('code-late'));
  const { email } = asked;
  const from = { email, address, known: isKnownDevice(headers, email) };
  const wait = await claimTry(appDatabase(), from);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const cookies = await passCode(code.replace(/\s/g, ''), headers);
  if (cookies === null) {
    await noteRefused(email, address);
    return fail((await askedForCode(headers)) === null ? forbidden('code-late') : forbidden('code'));
  }
  await forgiveTry(appDatabase(), from);
  return ok({ cookies: [...cookies, deviceCookie(email)] });
}

export const leave = async ({ headers }: From): Promise<Result<Cookies, Refusal>> =>
  ok({ cookies: await signOut(headers) });

/** Changes the asker's own password; everywhere else they are signed out. */
export async function renewPassword(
  { person }: Context,
  { present, next }: { present: string; next: string },
  { address, headers }: From,
): Promise<Result<Cookies, Refusal>> {
  const { email, name, place } = person;
  const wrong = passwordIssue(next, await guessesOf([email, name, place]));
  if (wrong !== null) return fail(invalid({ ...wrong, path: ['next'] }));
  const from = { email, address, known: true };
  const wait = await claimTry(appDatabase(), from);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const cookies = await changePassword(present, next, headers);
  if (cookies === null) return fail(invalid(issue('password-wrong', ['present'])));
  await forgiveTry(appDatabase(), from);
  return ok({ cookies });
}
