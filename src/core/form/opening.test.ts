import { expect, it } from 'vitest';
import { alwaysOpen, openingIssues, shutAt, type Opening } from './opening';

it.each<[Partial<Opening>, string, number, string | null]>([
  [{}, '2026-11-23T10:00:00', 9_999, null],
  [{ closed: true, from: '2020-01-01T00:00' }, '2026-11-23T10:00:00', 0, 'form-closed'],
  [{ from: '2026-11-23T10:00' }, '2026-11-23T09:59:59', 0, 'form-not-yet'],
  [{ from: '2026-11-23T10:00' }, '2026-11-23T10:00:00', 0, null],
  [{ until: '2026-11-23T10:00' }, '2026-11-23T09:59:59', 0, null],
  [{ until: '2026-11-23T10:00' }, '2026-11-23T10:00:00', 0, 'form-over'],
  [{ most: 3 }, '2026-11-23T10:00:00', 2, null],
  [{ most: 3 }, '2026-11-23T10:00:00', 3, 'form-full'],
])('a form with %o, at %s, after %i: %s', (part, now, sent, shut) => {
  expect(shutAt({ ...alwaysOpen, ...part }, now, sent)).toBe(shut);
});

it('ends after it begins', () => {
  const from = '2026-11-23T10:00';
  expect(openingIssues({ ...alwaysOpen, from, until: from }).map(({ code }) => code)).toEqual([
    'opening-order',
  ]);
  expect(openingIssues({ ...alwaysOpen, from, until: '2026-11-24T10:00' })).toEqual([]);
});
