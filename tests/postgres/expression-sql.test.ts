import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../support/world';
import { compareAtRandom, makeSubjects } from '../support/differential';

/** An expression is worth the same in the browser and in PostgreSQL. `npm run bench` compares twenty thousand; here are some hundreds. */
let world: World;
let client: pg.Client;

beforeAll(async () => {
  world = await makeWorld();
  client = new pg.Client({ connectionString: world.ownerUrl });
  await client.connect();
});
afterAll(async () => {
  await client.end();
  await world.close();
});

describe('law: closures and SQL give the same', () => {
  it('for expressions and rows made at random', async () => {
    const subjects = await makeSubjects(client, 7, 30);
    const compared = await compareAtRandom(client, subjects, Number(process.env['SLATE_SEED'] ?? 11), Number(process.env['SLATE_CASES'] ?? 400));
    expect(compared.differences).toEqual([]);
    // Were nearly all values empty, agreeing would say little.
    expect(compared.empty).toBeLessThan(compared.values * 0.7);
  }, 600_000);
});
