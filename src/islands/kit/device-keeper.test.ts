import { expect, it } from 'vitest';
import type { Keeping, Unsent } from './keeper';
import { DeviceKeeper } from './device-keeper';

it('keeps each edit on the device, on the version it was begun from, until it is forgotten', async () => {
  const told: Keeping[] = [];
  const stored: (Unsent<string> | null)[] = [];
  const keeper = new DeviceKeeper<string>(3, {
    told: (one) => told.push(one),
    store: (one) => stored.push(one),
    now: () => '2026-11-23T12:00:00Z',
  });
  keeper.edited('a');
  keeper.edited('ab');
  expect(await keeper.flush()).toBe(true);
  keeper.abandon();
  expect(stored).toEqual([
    { value: 'a', version: 3, flying: null },
    { value: 'ab', version: 3, flying: null },
    null,
  ]);
  expect(told.at(-1)).toEqual({ t: 'kept', at: '2026-11-23T12:00:00Z' });
});
