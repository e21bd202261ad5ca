import type { AstroGlobal } from 'astro';
import { signIn } from '../contract/sign-in';
import { refusalSentence } from '../core/wording/refusal-sentence';
import { enter } from '../use-cases/people/sign-in';
import { boundedBytes } from './endpoint';

/** Far more than an e-mail and a password. */
const MOST_BYTES = 4 * 1024;

/**
 * Signs in by what the form of the page sends by itself, for those who were quicker than the page's script.
 * Gives the way on, or what went wrong in words.
 */
export async function enterByForm(
  { request }: Pick<AstroGlobal, 'request'>,
  to: string,
): Promise<Response | string> {
  const bytes = await boundedBytes(request, MOST_BYTES);
  if (!bytes.ok) return refusalSentence(bytes.error);
  const typed = signIn.safeParse(Object.fromEntries(new URLSearchParams(bytes.value.toString('utf8'))));
  if (!typed.success) return refusalSentence({ kind: 'forbidden', why: 'password' });
  const from = { address: request.headers.get('x-slate-address') ?? '', headers: request.headers };
  const entered = await enter(typed.data, from);
  if (!entered.ok) return refusalSentence(entered.error);
  const response = new Response(null, {
    status: 303,
    headers: {
      location: entered.value.told?.asksCode === true ? `/sign-in/code?to=${encodeURIComponent(to)}` : to,
      'cache-control': 'no-store',
    },
  });
  for (const cookie of entered.value.cookies) response.headers.append('set-cookie', cookie);
  return response;
}
