import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { isUuid } from '../core/kernel/ids';
import { forbidden, notFound, type Refusal } from '../core/kernel/refusal';
import { fail, type Result } from '../core/kernel/result';
import type { Context } from '../use-cases/workspace/asking';
import type { Cookies, From } from '../use-cases/people/sign-in';
import { contextOf, readBody } from './endpoint';
import { problem, thrown } from './problem';

type Answer<C, B> = (context: C, body: B, from: From) => Promise<Result<Cookies, Refusal>>;

type CookieEndpoint<B> = { readonly body: z.ZodType<B> } & (
  | { readonly open: true; readonly answer: Answer<null, B> }
  | { readonly open: false; readonly answer: Answer<Context, B> }
);

/** Far more than an e-mail and two passwords, or what a device says of a passkey. */
const MOST_BYTES = 16 * 1024;

/** A door whose answer is the cookies of a session, and what is told besides; an `open` one is for those who are not signed in yet. */
export function cookieEndpoint<B>(door: CookieEndpoint<B>): APIRoute {
  return async (api) => {
    try {
      const body = await readBody(api.request, door.body, MOST_BYTES);
      const done = body.ok ? await answered(api, door, body.value) : body;
      if (!done.ok) return problem(done.error);
      const response = Response.json(done.value.told ?? { done: true }, {
        headers: { 'cache-control': 'no-store' },
      });
      for (const cookie of done.value.cookies) response.headers.append('set-cookie', cookie);
      return response;
    } catch (error) {
      return thrown(error, api.url.pathname);
    }
  };
}

async function answered<B>(
  api: APIContext,
  door: CookieEndpoint<B>,
  body: B,
): Promise<Result<Cookies, Refusal>> {
  const from = {
    address: api.request.headers.get('x-slate-address') ?? '',
    headers: api.request.headers,
    params: api.params,
  };
  // What an address names is an id, or there is nothing there.
  if (api.params['id'] !== undefined && !isUuid(api.params['id'])) return fail(notFound('page'));
  if (door.open) return door.answer(null, body, from);
  const context = contextOf(api);
  return context === null ? fail(forbidden('sign-in')) : door.answer(context, body, from);
}
