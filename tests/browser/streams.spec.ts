import { expect, test, type APIRequestContext } from '@playwright/test';
import { seat } from './people';

/** Opens a live stream as a browser does; gives its status, and whether it has ended. */
async function stream(request: APIRequestContext, abort: AbortController) {
  const { cookies } = await request.storageState();
  const answer = await fetch(`${process.env['SLATE_ORIGIN'] ?? ''}/api/live?topics=forms`, {
    headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
    signal: abort.signal,
  });
  const state = { status: answer.status, ended: false };
  const reader = answer.body?.getReader();
  void (async () => {
    try {
      for (let next = await reader?.read(); next !== undefined && !next.done; next = await reader?.read());
      state.ended = true;
    } catch {
      // We left ourselves.
    }
  })();
  return state;
}

test('one person listens in so many windows at most, and in none after signing out', async ({ browser }) => {
  const { context } = await seat(browser, 'ruo.lindqvist');
  const abort = new AbortController();
  const open = await Promise.all(Array.from({ length: 20 }, () => stream(context.request, abort)));
  expect(open.map(({ status }) => status)).toEqual(open.map(() => 200));
  // Twenty for each process that answers, of which there are two.
  const more = await Promise.all(Array.from({ length: 21 }, () => stream(context.request, abort)));
  expect(more.map(({ status }) => status)).toContain(429);
  const letIn = more.filter(({ status }) => status === 200);
  const other = await seat(browser, 'pell.adeyemi');
  expect((await stream(other.context.request, abort)).status).toBe(200);
  await context.request.post('/api/sign-out', { data: {} });
  await expect.poll(() => [...open, ...letIn].every(({ ended }) => ended), { timeout: 15_000 }).toBe(true);
  abort.abort();
});
