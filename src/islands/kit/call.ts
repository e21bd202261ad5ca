import type { Problem } from '../../contract/answers-from-server';
import { fail, ok, type Result } from '../../core/kernel/result';

/** Asks our own server. Refusals come back as values; a lost connection or a fault is thrown, so that only those are tried again. */
export async function call<T>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  body?: unknown,
  more: RequestInit = {},
): Promise<Result<T, Problem>> {
  const response = await fetch(path, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...more,
  });
  if (response.ok) return ok((await response.json()) as T);
  if (response.headers.get('content-type') !== 'application/problem+json')
    throw new Error(`the server answered ${response.status}`);
  const problem = (await response.json()) as Problem;
  if (response.status === 401) location.assign(`/sign-in?to=${encodeURIComponent(location.pathname)}`);
  if (response.status >= 500) throw new Error(`${problem.title} (reference ${problem.reference ?? 'none'})`);
  return fail(problem);
}

/** For queries: a refusal is an error to show, never to repeat. */
export async function fetched<T>(path: string): Promise<T> {
  const result = await call<T>('GET', path);
  if (result.ok) return result.value;
  throw new Error(result.error.title);
}
