import { Readable } from 'node:stream';
import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { isUuid } from '../core/kernel/ids';
import { invalid, notFound, type Refusal } from '../core/kernel/refusal';
import { issue } from '../core/kernel/issue';
import { fail, ok, type Result } from '../core/kernel/result';
import { limits } from '../core/limits';
import type { Context } from '../use-cases/workspace/asking';
import { logFault } from '../use-cases/workspace/log-fault';
import { cutConnection } from './cut-connection';
import { problem, thrown } from './problem';

/** What the address names. */
type Params = Readonly<Record<string, string | undefined>>;

interface Endpoint<B, Q> {
  /** The shape of the body; without it, none is read. */
  readonly body?: z.ZodType<B>;
  /** Bytes of the body, where more may come than elsewhere. */
  readonly most?: number;
  /** The shape of the query string. */
  readonly query?: z.ZodType<Q>;
  readonly answer: (
    context: Context,
    input: { body: B; query: Q; id: string; key: string; params: Params },
  ) => Promise<Result<unknown, Refusal>>;
}

interface BytesEndpoint {
  /** The most that may come. */
  readonly most: number;
  readonly answer: (
    context: Context,
    input: { bytes: Buffer; params: Params; id: string },
  ) => Promise<Result<unknown, Refusal>>;
}

/** The same door for a body of bytes. */
export function bytesEndpoint({ most, answer }: BytesEndpoint): APIRoute {
  return (api) =>
    guarded(api, async (context, id) => {
      const bytes = await boundedBytes(api.request, most);
      return bytes.ok ? answer(context, { bytes: bytes.value, params: api.params, id }) : bytes;
    });
}

interface DownloadEndpoint<Q> {
  readonly query: z.ZodType<Q>;
  readonly answer: (
    context: Context,
    input: { query: Q; params: Params },
  ) => Promise<Result<{ name: string; type: string; body: AsyncGenerator<Uint8Array> }, Refusal>>;
}

/** The same door for a file that goes out as it is made. */
export function downloadEndpoint<Q>({ query, answer }: DownloadEndpoint<Q>): APIRoute {
  return async (api) => {
    try {
      const context = contextOf(api);
      if (context === null) return problem({ kind: 'forbidden', why: 'sign-in' });
      const asked = shaped(query, Object.fromEntries(api.url.searchParams));
      if (!asked.ok) return problem(asked.error);
      const result = await answer(context, { query: asked.value, params: api.params });
      if (!result.ok) return problem(result.error);
      const { name, type, body } = result.value;
      const whole = wholeOrCut(body, api);
      return new Response(Readable.toWeb(Readable.from(whole)) as ReadableStream, {
        headers: {
          'content-type': type,
          'content-disposition': `attachment; filename="${name}"`,
          'cache-control': 'no-store',
        },
      });
    } catch (error) {
      return thrown(error, api.url.pathname);
    }
  };
}

/**
 * A file whose making fails half way must not look whole: its beginning has gone out with a success already,
 * so the connection is broken, and the browser says that the download failed.
 */
export async function* wholeOrCut(
  body: AsyncGenerator<Uint8Array>,
  { request, url }: Pick<APIContext, 'request' | 'url'>,
): AsyncGenerator<Uint8Array> {
  try {
    yield* body;
  } catch (error) {
    logFault(error, url.pathname);
    cutConnection(request);
    throw error;
  }
}

/** A door: who asks, the shape of what came, one use case, and its result as JSON or a problem document. */
export function endpoint<B = null, Q = null>({ body, most, query, answer }: Endpoint<B, Q>): APIRoute {
  return (api) =>
    guarded(api, async (context, id) => {
      const input = await read(api, { body, most }, query);
      const { params } = api;
      return input.ok ? answer(context, { ...input.value, id, key: params['key'] ?? '', params }) : input;
    });
}

/** The same door for those who are not signed in: it says who somebody is to nobody who does not know already. */
export function openEndpoint<B>({
  body,
  answer,
}: {
  readonly body: z.ZodType<B>;
  readonly answer: (body: B, from: { readonly address: string }) => Promise<Result<unknown, Refusal>>;
}): APIRoute {
  return async (api) => {
    try {
      const input = await readBody(api.request, body);
      const from = { address: api.request.headers.get('x-slate-address') ?? '' };
      const result = input.ok ? await answer(input.value, from) : input;
      return result.ok
        ? Response.json(result.value, { headers: { 'cache-control': 'no-store' } })
        : problem(result.error);
    } catch (error) {
      return thrown(error, api.url.pathname);
    }
  };
}

async function guarded(
  api: APIContext,
  work: (context: Context, id: string) => Promise<Result<unknown, Refusal>>,
): Promise<Response> {
  try {
    const id = api.params['id'] ?? '';
    if (id !== '' && !isUuid(id)) return problem(notFound('page'));
    const context = contextOf(api);
    if (context === null) return problem({ kind: 'forbidden', why: 'sign-in' });
    const result = await work(context, id);
    return result.ok
      ? Response.json(result.value, { headers: { 'cache-control': 'no-store' } })
      : problem(result.error);
  } catch (error) {
    return thrown(error, api.url.pathname);
  }
}

export function contextOf(api: Pick<APIContext, 'locals'>): Context | null {
  return api.locals.person === null ? null : { person: api.locals.person, now: new Date() };
}

async function read<B, Q>(
  api: APIContext,
  { body, most }: { readonly body: z.ZodType<B> | undefined; readonly most: number | undefined },
  query: z.ZodType<Q> | undefined,
): Promise<Result<{ body: B; query: Q }, Refusal>> {
  const asked = query === undefined ? ok(null as Q) : shaped(query, Object.fromEntries(api.url.searchParams));
  if (!asked.ok) return asked;
  const sent = body === undefined ? ok(null as B) : await readBody(api.request, body, most);
  return sent.ok ? ok({ body: sent.value, query: asked.value }) : sent;
}

/** Escapes of characters PostgreSQL cannot keep: NUL, and halves of surrogate pairs. */
const UNKEEPABLE = /\\u0000|\\ud[89a-f]/i;
const keepable = (_: string, value: unknown): unknown =>
  typeof value === 'string' ? value.replaceAll('\u0000', '').toWellFormed() : value;

/** A body of JSON of a shape, of at most so many bytes. */
export async function readBody<B>(
  request: Request,
  shape: z.ZodType<B>,
  most: number = limits.requestBytes,
): Promise<Result<B, Refusal>> {
  const bytes = await boundedBytes(request, most);
  if (!bytes.ok) return bytes;
  const text = bytes.value.toString('utf8');
  try {
    return shaped(shape, JSON.parse(text, UNKEEPABLE.test(text) ? keepable : undefined));
  } catch {
    return fail(invalid(issue('malformed', [], { detail: 'the body is not JSON' })));
  }
}

/** Times the limit that is read and thrown away before a connection is cut. */
const PATIENCE = 8;

/** Counts what comes, so that a body without a length, or with a false one, is cut off too. */
export async function boundedBytes(request: Request, most: number): Promise<Result<Buffer, Refusal>> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  const reader = request.body?.getReader();
  try {
    for (let next = await reader?.read(); next !== undefined && !next.done; next = await reader?.read()) {
      bytes += next.value.byteLength;
      // What is too much is read on for a while, so that the answer reaches a sender who is still sending; then it is cut off.
      if (bytes > most * PATIENCE) await reader?.cancel();
      else if (bytes <= most) chunks.push(next.value);
    }
  } catch {
    // Whoever was sending has gone: a page was left, a connection was lost. That is no fault of ours.
    return fail(invalid(issue('malformed', [], { detail: 'the body was cut off' })));
  }
  if (bytes > most) return fail({ kind: 'too-large', limitBytes: most });
  return ok(Buffer.concat(chunks));
}

export function shaped<T>(shape: z.ZodType<T>, given: unknown): Result<T, Refusal> {
  const parsed = shape.safeParse(given);
  if (parsed.success) return ok(parsed.data);
  return fail(
    invalid(
      ...parsed.error.issues.slice(0, 20).map(({ path, message }) =>
        issue(
          'malformed',
          path.map((key) => (typeof key === 'symbol' ? '' : key)),
          { detail: message },
        ),
      ),
    ),
  );
}
