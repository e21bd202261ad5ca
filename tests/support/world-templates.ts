import { fileURLToPath } from 'node:url';
import pg from 'pg';
import type { TestProject } from 'vitest/node';
import { addPeople } from '../../demo/add-people';
import { people, personNamed } from '../../demo/people';
import { baseTables } from '../../demo/tables';
import { ok } from '../../src/core/kernel/result';
import type { Table } from '../../src/core/table/model';
import { closeConnections } from '../../src/data/connect';
import { applyChanges } from '../../src/data/runtime/tables/tables';
import { loginUrl, setUp, type Login } from '../../src/data/system/migrate';
import { asOwner } from '../../src/data/transaction';

/**
 * Databases that those of the tests are copies of, made once: the schema with the garden's people, and the same with its tables. A copy takes a tenth of the
 * time that making one takes.
 */
export const WITH_PEOPLE = 't_with_people';
export const WITH_TABLES = 't_with_tables';

interface Templates {
  /** As the cluster's owner. */
  readonly server: string;
  readonly owner: Login;
  readonly app: Login;
}
declare module 'vitest' {
  interface ProvidedContext {
    templates: Templates;
  }
}

export default async function makeTemplates(project: TestProject): Promise<() => Promise<void>> {
  const server = process.env['SLATE_TEST_SERVER'];
  if (server === undefined) throw new Error('run these tests with npm test');
  const login = (role: string): Login => ({ name: `t_${role}`, password: crypto.randomUUID() });
  const templates = { server, owner: login('owner'), app: login('app') };
  const clear = async (): Promise<void> => {
    for (const name of [WITH_TABLES, WITH_PEOPLE])
      await query(server, `DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  };
  await clear();
  await makeWithPeople(templates);
  await copyDatabase(server, { from: WITH_PEOPLE, to: WITH_TABLES, owner: templates.owner.name });
  use(templates, WITH_TABLES);
  await makeTables(baseTables);
  await closeConnections();
  project.provide('templates', templates);
  return clear;
}

async function makeWithPeople({ server, owner, app }: Templates): Promise<void> {
  await query(server, `CREATE DATABASE ${WITH_PEOPLE}`);
  await setUp({
    admin: databaseAt(server, WITH_PEOPLE),
    owner,
    app,
    migrations: fileURLToPath(new URL('../../src/data/system/migrations', import.meta.url)),
  });
  use({ server, owner, app }, WITH_PEOPLE);
  await asOwner({ person: personNamed('Ines').id }, async (tx) => {
    await addPeople(
      tx,
      people.map((person) => ({ ...person, password: 'not-needed-here' })),
    );
    return ok(null);
  });
  await closeConnections();
}

/** The tables of the garden, or others, in the database that is in use. */
export async function makeTables(tables: readonly Table[]): Promise<void> {
  await asOwner({ person: personNamed('Ines').id }, async (tx) => {
    await applyChanges(
      tx,
      new Map(),
      tables.map((table) => ({ t: 'make-table', table })),
      ['colleague'],
    );
    return ok(null);
  });
}

function use({ server, owner, app }: Templates, name: string): void {
  const url = databaseAt(server, name);
  process.env['SLATE_OWNER_URL'] = loginUrl(url, owner);
  process.env['SLATE_APP_URL'] = loginUrl(url, app);
  process.env['SLATE_LOG'] = 'silent';
}

/** What may be done with a database as a whole is not copied with it. */
export async function copyDatabase(
  server: string,
  { from, to, owner }: { readonly from: string; readonly to: string; readonly owner: string },
): Promise<void> {
  await query(server, `CREATE DATABASE ${to} TEMPLATE ${from}`);
  await query(server, `GRANT CREATE, CONNECT ON DATABASE ${to} TO ${owner}`);
  // Another workspace, whose catalogue has numbers of its own.
  await query(databaseAt(server, to), 'UPDATE slate.catalogue SET epoch = gen_random_uuid()');
}

function databaseAt(server: string, name: string): string {
  const url = new URL(server);
  url.pathname = `/${name}`;
  return url.toString();
}

export async function query(url: string, text: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(text);
  } finally {
    await client.end();
  }
}
