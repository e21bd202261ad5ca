import type { Problem } from '../../contract/answers-from-server';

/** What came of a request that was tried. */
export interface Answered {
  readonly status: number;
  readonly statusText: string;
  /** Those that say something of the answer. */
  readonly headers: readonly (readonly [name: string, value: string])[];
  readonly body: unknown;
  readonly problem: Problem | null;
}

const TOLD = ['etag', 'link', 'location', 'ratelimit', 'retry-after'];

/** Asks as a program would: with the token, and without the session of this page. */
export async function ask(
  url: string,
  method: string,
  token: string,
  headers: Readonly<Record<string, string>>,
  body: string | null,
): Promise<Answered> {
  const response = await fetch(url, {
    method,
    credentials: 'omit',
    headers: { ...headers, authorization: `Bearer ${token}` },
    ...(body !== null && { body }),
  });
  const text = await response.text();
  const read: unknown = text === '' ? null : JSON.parse(text);
  return {
    status: response.status,
    statusText: response.statusText,
    headers: TOLD.flatMap((name) => {
      const value = response.headers.get(name);
      return value === null ? [] : [[name, value] as const];
    }),
    body: read,
    problem: response.ok ? null : (read as Problem),
  };
}
