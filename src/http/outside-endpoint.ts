import type { APIRoute } from 'astro';
import type { z } from 'zod';
import { forbidden, type Refusal } from '../core/kernel/refusal';
import { fail, type Result } from '../core/kernel/result';
import { comeBack, comeByLink, slowedDown, type Visitor } from '../use-cases/outside/come-in';
import { readBody } from './endpoint';
import { problem, thrown } from './problem';

interface OutsideEndpoint<B> {
  readonly body: z.ZodType<B>;
  /** By what one comes here: the secret of a link, what was given for following a submission, or either. */
  readonly by: 'link' | 'visit' | 'either';
  /** What is counted by address. */
  readonly counts: 'sent' | 'looked';
  /** The submission about to be sent, where it is one. */
  readonly submission?: (body: B) => string;
  readonly answer: (
    visitor: Visitor,
    input: { readonly body: B; readonly question: string },
  ) => Promise<Result<unknown, Refusal>>;
}

/**
 * The door for people without an account. What lets them in stands in headers that a page of ours sets, never in a cookie: no other page can send it for them, and
 * whoever is signed in on the same browser is not asked about.
 */
export function outsideEndpoint<B>(door: OutsideEndpoint<B>): APIRoute {
  return async ({ request, params, url }) => {
    try {
      const body = await readBody(request, door.body);
      if (!body.ok) return problem(body.error);
      const slow = await slowedDown(door.counts, request.headers.get('x-slate-address') ?? '');
      if (slow !== null) return problem(slow);
      const visitor = await cameIn(door, request.headers, body.value);
      if (!visitor.ok) return problem(visitor.error);
      const result = await door.answer(visitor.value, {
        body: body.value,
        question: params['question'] ?? '',
      });
      return result.ok
        ? Response.json(result.value, { headers: { 'cache-control': 'no-store' } })
        : problem(result.error);
    } catch (error) {
      return thrown(error, url.pathname);
    }
  };
}

async function cameIn<B>(
  { by, submission }: OutsideEndpoint<B>,
  headers: Headers,
  body: B,
): Promise<Result<Visitor, Refusal>> {
  const [link, visit] = [headers.get('x-slate-link'), headers.get('x-slate-visit')];
  const now = new Date();
  if (visit !== null && by !== 'link') return comeBack(visit, now);
  return link !== null && by !== 'visit'
    ? comeByLink(link, now, submission?.(body))
    : fail(forbidden('link'));
}
