import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { isUuid } from '../core/kernel/ids';
import { forbidden, notFound, type Refusal } from '../core/kernel/refusal';
import { fail, type Result } from '../core/kernel/result';
import { comeBack, comeByLink, slowedDown, type Visitor } from '../use-cases/outside/come-in';
import { showingTo } from '../use-cases/people/who-asks';
import { formatsOfHouse } from '../use-cases/workspace/read-workspace';
import { boundedBytes, readBody } from './endpoint';
import { problem, thrown } from './problem';

interface OutsideDoor<Input> {
  /** By what one comes here: the secret of a link, what was given for following a submission, or either. */
  readonly by: 'link' | 'visit' | 'either';
  /** What is counted by address. */
  readonly counts: 'sent' | 'looked';
  readonly answer: (
    visitor: Visitor,
    input: {
      readonly body: Input;
      readonly params: Readonly<Record<string, string | undefined>>;
      readonly id: string;
    },
  ) => Promise<Result<unknown, Refusal>>;
}

/**
 * The door for people without an account. What lets them in stands in headers that a page of ours sets, never
 * in a cookie: no other page can send it for them, and whoever is signed in on the same browser is not asked
 * about.
 */
export const outsideEndpoint =
  <B>(
    door: OutsideDoor<B> & {
      readonly body: z.ZodType<B>;
      /** The submission about to be sent, where it is one. */
      readonly submission?: (body: B) => string;
    },
  ): APIRoute =>
  (api) =>
    fromOutside(api, door, () => readBody(api.request, door.body), door.submission);

/** The same door for a body of bytes. */
export const outsideBytesEndpoint =
  (door: OutsideDoor<Buffer> & { readonly most: number }): APIRoute =>
  (api) =>
    fromOutside(api, door, () => boundedBytes(api.request, door.most));

async function fromOutside<Input>(
  { request, params, url }: APIContext,
  { by, counts, answer }: OutsideDoor<Input>,
  read: () => Promise<Result<Input, Refusal>>,
  submission?: (input: Input) => string,
): Promise<Response> {
  try {
    const id = params['id'] ?? '';
    if (id !== '' && !isUuid(id)) return problem(notFound('page'));
    const { headers } = request;
    const body = await read();
    if (!body.ok) return problem(body.error);
    const slow = await slowedDown(counts, headers.get('x-slate-address') ?? '');
    if (slow !== null) return problem(slow);
    const visitor = await cameIn(by, headers, submission?.(body.value));
    if (!visitor.ok) return problem(visitor.error);
    const formats = await formatsOfHouse(visitor.value.link.language);
    const result = await showingTo(formats, () => answer(visitor.value, { body: body.value, params, id }));
    return result.ok
      ? Response.json(result.value, { headers: { 'cache-control': 'no-store' } })
      : problem(result.error);
  } catch (error) {
    return thrown(error, url.pathname);
  }
}

/** Whoever fills a sheet says which it is, so that what they bring for it is theirs and not that of others who came by the same link. */
async function cameIn(
  by: 'link' | 'visit' | 'either',
  headers: Headers,
  submission: string | undefined,
): Promise<Result<Visitor, Refusal>> {
  const [link, visit] = [headers.get('x-slate-link'), headers.get('x-slate-visit')];
  const draft = headers.get('x-slate-draft');
  const now = new Date();
  if (visit !== null && by !== 'link') return comeBack(visit, now);
  return link !== null && by !== 'visit'
    ? comeByLink(link, now, submission ?? (draft !== null && isUuid(draft) ? draft : undefined))
    : fail(forbidden('link'));
}
