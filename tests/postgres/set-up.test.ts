import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loginUrl, setUp, type Login } from '../../src/data/system/migrate';
import { createDatabase } from '../../scripts/steps/create-database';

/** A database is made, brought to the present, and brought there again, as every start does. */
const server = process.env['SLATE_TEST_SERVER'] ?? '';
const name = `s_${crypto.randomUUID().replaceAll('-', '').slice(0, 12)}`;
const url = Object.assign(new URL(server), { pathname: `/${name}` }).toString();
const login = (role: string, password: string): Login => ({ name: `${name}_${role}`, password });
const migrations = fileURLToPath(new URL('../../src/data/system/migrations', import.meta.url));
const start = (appPassword: string) =>
  setUp({ admin: url, owner: login('owner', 'owner-password'), app: login('app', appPassword), migrations });

async function rows(at: string, text: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: at });
  await client.connect();
  try {
    return (await client.query<Record<string, unknown>>(text)).rows;
  } finally {
    await client.end();
  }
}

beforeAll(async () => {
  await createDatabase(url);
  await start('first-password');
});
afterAll(async () => {
  await rows(server, `DROP DATABASE ${name} WITH (FORCE)`);
  await rows(server, `DROP ROLE ${name}_owner; DROP ROLE ${name}_app`);
});

describe('setting up a database', () => {
  it('may be repeated, and follows a changed password', async () => {
    await createDatabase(url);
    await start('second-password');
    expect(await rows(loginUrl(url, login('app', 'second-password')), 'SELECT 1 AS up')).toEqual([{ up: 1 }]);
    await expect(rows(loginUrl(url, login('app', 'first-password')), 'SELECT 1')).rejects.toMatchObject({
      code: '28P01',
    });
  });

  it('by two starts at the same moment ends in one schema', async () => {
    await Promise.all([start('second-password'), start('second-password')]);
    expect(await rows(url, `SELECT count(*)::int AS n FROM slate_migrations."__drizzle_migrations"`)).toEqual(
      [{ n: readdirSync(migrations).filter((file) => file.endsWith('.sql')).length }],
    );
  });

  it('makes roles that can neither make roles nor databases, and an application role that owns nothing; nobody signs in by the one that shows', async () => {
    expect(
      await rows(
        url,
        `SELECT rolsuper, rolcreaterole, rolcreatedb, rolbypassrls, rolcanlogin FROM pg_roles WHERE rolname LIKE '${name}%' ORDER BY rolname`,
      ),
    ).toEqual(
      [true, true, false].map((rolcanlogin) => ({
        rolcanlogin,
        rolsuper: false,
        rolcreaterole: false,
        rolcreatedb: false,
        rolbypassrls: false,
      })),
    );
    expect(
      await rows(
        url,
        `SELECT 1 FROM pg_class c JOIN pg_roles r ON r.oid = c.relowner WHERE r.rolname = '${name}_app'`,
      ),
    ).toEqual([]);
  });

  it('gives the application no table of ours that is not named, and no way round the triggers', async () => {
    const app = loginUrl(url, login('app', 'second-password'));
    for (const text of [
      'SELECT * FROM slate.number_counter',
      'SELECT * FROM slate.outbox',
      "INSERT INTO slate.person (id, name, email) VALUES (gen_random_uuid(), 'x', 'x')",
      'DELETE FROM slate.request_key',
      'ALTER TABLE slate.submission DISABLE ROW LEVEL SECURITY',
      'SET ROLE slate_admin',
      `SET session_replication_role = 'replica'`,
    ]) {
      await expect(rows(app, text)).rejects.toMatchObject({ code: '42501' });
    }
  });

  it('makes ids that sort by time', async () => {
    const [row] = await rows(
      url,
      `SELECT bool_and(a < b) AS sorted, bool_and(substr(a::text, 15, 1) = '7') AS seventh FROM (SELECT slate.uuid_v7() AS a, pg_sleep(0.003), slate.uuid_v7() AS b FROM generate_series(1, 20)) t`,
    );
    expect(row).toEqual({ sorted: true, seventh: true });
  });
});
