import { expect, it } from 'vitest';
import { awayPage } from './away-page';

it.each([
  ['database', true],
  ['unsure', true],
  ['too-slow', false],
  ['no-room', false],
] as const)('the page for %s loads itself again: %s', async (why, again) => {
  const page = awayPage({ kind: 'unavailable', why, retryAfter: 2 });
  expect([page.status, page.headers.get('retry-after')]).toEqual([503, '2']);
  expect((await page.text()).includes('<script>')).toBe(again);
});
