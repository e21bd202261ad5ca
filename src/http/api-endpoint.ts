import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { newUuid, isUuid } from '../core/kernel/ids';
import { issue } from '../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../core/kernel/refusal';
import { fail, ok, type Result } from '../core/kernel/result';
import { limits } from '../core/limits';
import { byToken, takeBySecret, type Taken } from '../use-cases/tokens/by-token';
import type { Context } from '../use-cases/workspace/asking';
import { readBody, shaped } from './endpoint';
import { problem, thrown } from './problem';

/** What a program is answered: a status, a body where there is one, and headers of its own. */
interface Answer {
  readonly status: number;
  readonly body?: unknown;
  readonly headers?: Readonly<Record<string, string>>;
}

interface Asked<B, Q> {
  readonly body: B;
  readonly query: Q;
  /** The table or form, by its key; and the record or submission, by its id. */
  readonly key: string;
  readonly id: string;
  /** Names the request: the same again does nothing twice. */
  readonly request: string;
  readonly headers: Headers;
  readonly url: URL;
}

interface ApiEndpoint<B, Q> {
  readonly body?: z.ZodType<B>;
  /** Bytes of the body, where more may come than elsewhere; and its media type, where it is not plain JSON. */
  readonly most?: number;
  readonly type?: string;
  readonly query?: z.ZodType<Q>;
  readonly answer: (context: Context, asked: Asked<B, Q>) => Promise<Result<Answer, Refusal>>;
}

/** The door for programs: a token instead of a session, and nothing of a browser's. */
export function apiEndpoint<B = null, Q = null>(door: ApiEndpoint<B, Q>): APIRoute {
  return async (api) => {
    try {
      const now = new Date();
      const taken = await takeBySecret(bearer(api.request), now);
      if (!taken.ok) return refused(taken.error);
      const asked = await read(api, door, taken.value);
      const answer = asked.ok
        ? await byToken(taken.value, now, (context) => door.answer(context, asked.value))
        : asked;
      return limited(answer.ok ? answered(answer.value) : refused(answer.error), taken.value);
    } catch (error) {
      return thrown(error, api.url.pathname);
    }
  };
}

const bearer = (request: Request): string =>
  /^Bearer +(\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1] ?? '';

async function read<B, Q>(
  { request, params, url }: APIContext,
  { body, most, type = 'application/json', query }: ApiEndpoint<B, Q>,
  { token }: Taken,
): Promise<Result<Asked<B, Q>, Refusal>> {
  const id = params['id'] ?? '';
  if (id !== '' && !isUuid(id)) return fail(notFound('record'));
  const asked = query === undefined ? ok(null as Q) : shaped(query, Object.fromEntries(url.searchParams));
  if (!asked.ok) return asked;
  const given = (request.headers.get('content-type') ?? '').split(';')[0]?.trim().toLowerCase() ?? '';
  if (body !== undefined && given !== type && given !== 'application/json')
    return fail(invalid(issue('malformed', ['Content-Type'], { detail: `the body must be ${type}` })));
  const named = request.headers.get('idempotency-key');
  if (named !== null && (named.length > 200 || named.trim() === ''))
    return fail(
      invalid(issue('malformed', ['Idempotency-Key'], { detail: 'it must have 1 to 200 characters' })),
    );
  const sent =
    body === undefined ? ok(null as B) : await readBody(request, body, most ?? limits.requestBytes);
  if (!sent.ok) return sent;
  return ok({
    body: sent.value,
    query: asked.value,
    key: params['key'] ?? '',
    id,
    request: `${token.id} ${named ?? newUuid()}`,
    headers: request.headers,
    url,
  });
}

const answered = ({ status, body, headers = {} }: Answer): Response =>
  body === undefined
    ? new Response(null, { status, headers: { 'cache-control': 'no-store', ...headers } })
    : Response.json(body, { status, headers: { 'cache-control': 'no-store', ...headers } });

/** Some refusals have statuses of their own where HTTP says how to ask (RFC 9110, RFC 6585, RFC 6750). */
function refused(refusal: Refusal): Response {
  const status = statusOf(refusal);
  return problem(refusal, status, status === 401 ? { 'www-authenticate': 'Bearer' } : {});
}

function statusOf(refusal: Refusal): number | undefined {
  if (refusal.kind === 'forbidden' && refusal.why === 'token') return 401;
  if (refusal.kind === 'stale' && refusal.why === 'record-moved-on') return 412;
  if (refusal.kind === 'invalid' && refusal.issues.some(({ code }) => code === 'if-match')) return 428;
  return undefined;
}

/** How many more requests there are in this minute. */
function limited(response: Response, { left, resets }: Taken): Response {
  response.headers.set('ratelimit-policy', `"minute";q=${limits.tokenPerMinute};w=60`);
  response.headers.set('ratelimit', `"minute";r=${left};t=${resets}`);
  return response;
}

/** The tag of a version of a record, and back. */
export const tagOf = (version: number): string => `"${version}"`;

/** The version that If-Match says; null for whatever it is by now. */
export function versionSaid(headers: Headers): Result<number | null, Refusal> {
  const said = headers.get('if-match')?.trim();
  if (said === '*') return ok(null);
  const version = /^"(\d{1,9})"$/.exec(said ?? '')?.[1];
  return version === undefined ? fail(invalid(issue('if-match', ['If-Match']))) : ok(Number(version));
}
