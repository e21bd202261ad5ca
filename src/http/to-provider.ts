import type { AstroGlobal } from 'astro';
import { wayBack } from '../core/access/way-back';
import { refusalSentence } from '../core/wording/refusal-sentence';
import type { Refusal } from '../core/kernel/refusal';
import type { Result } from '../core/kernel/result';
import type { Cookies } from '../use-cases/people/sign-in';
import { comeBack, leaveForProvider } from '../use-cases/people/through-provider';

type Page = Pick<AstroGlobal, 'request' | 'url'>;

/** Leads to the service outside; or what went wrong, in words. */
export const toProvider = async (page: Page): Promise<Response | string> =>
  onward(await leaveForProvider(wayBack(page.url.searchParams.get('to'), page.url.origin), from(page)));

/** Leads on whoever comes back from there; or what went wrong, in words. */
export const fromProvider = async (page: Page): Promise<Response | string> =>
  onward(await comeBack(page.url, from(page)));

const from = ({ request: { headers } }: Page) => ({
  address: headers.get('x-slate-address') ?? '',
  headers,
});

function onward(done: Result<Cookies<string>, Refusal>): Response | string {
  if (!done.ok) return refusalSentence(done.error);
  const response = new Response(null, {
    status: 303,
    headers: { location: done.value.told ?? '/', 'cache-control': 'no-store' },
  });
  for (const cookie of done.value.cookies) response.headers.append('set-cookie', cookie);
  return response;
}
