import { beforeAll, expect, it } from 'vitest';
import { sealed, unsealed } from './secret';

beforeAll(() => {
  process.env['SLATE_SECRET'] = 'a key of a workspace';
});

it('reads back what it sealed, and shows nothing of it', () => {
  const bytes = sealed('grün & geheim', 'one');
  expect(unsealed(bytes, 'one')).toBe('grün & geheim');
  expect(bytes.includes(Buffer.from('geheim'))).toBe(false);
  expect(sealed('grün & geheim', 'one')).not.toEqual(bytes);
});

it('gives nothing for another source, another key, or bytes that were changed', () => {
  const bytes = sealed('secret', 'one');
  expect(unsealed(bytes, 'another')).toBeNull();
  for (const at of [0, 14, bytes.length - 1]) {
    const changed = Buffer.from(bytes);
    changed[at] = (changed[at] ?? 0) ^ 1;
    expect(unsealed(changed, 'one')).toBeNull();
  }
  expect(unsealed(Buffer.alloc(3), 'one')).toBeNull();
  process.env['SLATE_SECRET'] = 'another key';
  expect(unsealed(bytes, 'one')).toBeNull();
});
