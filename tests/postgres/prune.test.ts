import { expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { pruneOld } from '../../src/use-cases/workspace/prune-old';
import { useWorld } from '../support/world';

const world = useWorld();

it('takes away what has served, and leaves what may still be asked for', async () => {
  const { id } = personNamed('Ines');
  await world.sql(`DELETE FROM slate.outbox`);
  await world.sql(
    `INSERT INTO slate.outbox (topic, at) VALUES ('old', now() - interval '8 days'), ('new', now() - interval '6 days')`,
  );
  for (const [key, days] of [
    ['00000000-0000-4000-8000-000000000001', 31],
    ['00000000-0000-4000-8000-000000000002', 29],
  ] as const)
    await world.sql(
      `INSERT INTO slate.request_key (person_id, key, at) VALUES ($1, $2, now() - make_interval(days => $3))`,
      [id, key, days],
    );
  for (const [token, hours] of [
    ['over', -1],
    ['open', 1],
  ] as const)
    await world.sql(
      `INSERT INTO slate.session (id, token, person_id, expires_at) VALUES (gen_random_uuid(), $1, $2, now() + make_interval(hours => $3))`,
      [token, id, hours],
    );
  expect(await pruneOld()).toBe(3);
  // What was told by taking sessions away is new.
  expect(await world.sql(`SELECT topic FROM slate.outbox WHERE topic IN ('old', 'new')`)).toEqual([
    { topic: 'new' },
  ]);
  expect(await world.sql(`SELECT right(key::text, 1) AS key FROM slate.request_key`)).toEqual([{ key: '2' }]);
  expect(await world.sql(`SELECT token FROM slate.session`)).toEqual([{ token: 'open' }]);
});
