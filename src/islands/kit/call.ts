import type { Problem } from '../../contract/answers-from-server';
import { saidBesides } from './way-in';
import { fail, ok, type Result } from '../../core/kernel/result';

/** The server is there and says that it cannot do this now: its database is away, or it has too much to do. It is tried again. */
export class Unreachable extends Error {}

/** Asks our own server. Refusals come back as values; a lost connection or a fault is thrown, so that only those are tried again. */
export async function call<T>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  more: Omit<RequestInit, 'headers'> & { readonly headers?: Readonly<Record<string, string>> } = {},
): Promise<Result<T, Problem>> {
  const response = await fetch(path, {
    method,
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...more,
    headers: { 'content-type': 'application/json', ...saidBesides(), ...more.headers },
  });
  if (response.ok) return ok((await response.json()) as T);
  if (response.headers.get('content-type') !== 'application/problem+json')
    throw new Error(`the server answered ${response.status}`);
  const problem = (await response.json()) as Problem;
  if (problem.code === 'sign-in')
    location.assign(`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`);
  if (response.status === 503) throw new Unreachable(problem.title);
  if (response.status >= 500) throw new Error(`${problem.title} (reference ${problem.reference ?? 'none'})`);
  return fail(problem);
}

/** What a refusal says to somebody who sees what they asked for: its findings, or its title where it has none. */
export const troubleOf = ({ title, issues = [] }: Problem): string =>
  issues.map(({ sentence }) => sentence).join('. ') || title;

/** The same where it stands alone. */
export const troubleInFull = ({ title, issues = [] }: Problem): string =>
  [title, ...issues.map(({ sentence }) => sentence)].join('. ');

/** A refusal, where only errors can be told: it is shown, and never tried again. */
export class Refused extends Error {}

/** For queries, with a body where what is asked does not go into an address: a refusal is an error to show, never to repeat. */
export async function fetched<T>(path: string, body?: unknown): Promise<T> {
  const result = await call<T>(body === undefined ? 'GET' : 'POST', path, body);
  if (result.ok) return result.value;
  throw new Refused(result.error.title);
}
