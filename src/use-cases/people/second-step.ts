import type { SecondStepData } from '../../contract/sign-in';
import { issue } from '../../core/kernel/issue';
import { invalid, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { appDatabase } from '../../data/connect';
import { beginSecondStep, confirmSecondStep, endSecondStep } from '../../data/second-step';
import { claimTry, forgiveTry } from '../../data/system/sign-in-tries';
import type { Context } from '../workspace/asking';
import { house } from '../workspace/read-workspace';
import type { Cookies, From } from './sign-in';

/** Codes for whoever asks, who gives their password for it. They are asked for once the first has been typed. */
export async function beginOwnCodes(
  context: Context,
  { password }: { password: string },
  from: From,
): Promise<Result<Cookies<SecondStepData>, Refusal>> {
  const { name } = await house();
  const begun = await tried(context, from, () =>
    beginSecondStep(password, name === '' ? 'Tidy Slate' : name, from.headers),
  );
  if (!begun.ok) return begun;
  if (begun.value === null) return fail(invalid(issue('password-wrong', ['password'])));
  return begun.value === 'there'
    ? fail(invalid(issue('codes-already', ['password'])))
    : ok({ cookies: [], told: begun.value });
}

export async function confirmOwnCodes(
  context: Context,
  { code }: { code: string },
  from: From,
): Promise<Result<Cookies, Refusal>> {
  const confirmed = await tried(context, from, () =>
    confirmSecondStep(code.replace(/\s/g, ''), from.headers),
  );
  if (!confirmed.ok) return confirmed;
  return confirmed.value === null
    ? fail(invalid(issue('code-wrong', ['code'])))
    : ok({ cookies: confirmed.value });
}

export async function endOwnCodes(
  context: Context,
  { password }: { password: string },
  from: From,
): Promise<Result<Cookies, Refusal>> {
  const ended = await tried(context, from, () => endSecondStep(password, from.headers));
  if (!ended.ok) return ended;
  return ended.value === null
    ? fail(invalid(issue('password-wrong', ['password'])))
    : ok({ cookies: ended.value });
}

/** Counted like signing in: whoever sits at somebody else's browser must not guess there. Null of what was tried is a wrong guess. */
export async function tried<T>(
  { person: { email } }: Context,
  { address }: Pick<From, 'address'>,
  attempt: () => Promise<T | null>,
): Promise<Result<T | null, Refusal>> {
  const from = { email, address, known: true };
  const wait = await claimTry(appDatabase(), from);
  if (wait !== null) return fail(tooMany('sign-in', wait));
  const found = await attempt();
  if (found !== null) await forgiveTry(appDatabase(), from);
  return ok(found);
}
