import pg from 'pg';
import type { SourceAddress } from '../src/core/link/source';
import { epithets, genera } from './generate';
import { seeded, type Random } from './random';

/** The seed exchange: a database of other gardens, as somebody else might have made it. A stand-in for an outside system; all of it is invented. */
export type ExchangeAddress = Extract<SourceAddress, { t: 'database' }>;

/**
 * Makes it on the server of `admin`, under the name of its database with `_exchange`, with a user that may read the catalogue, offer lots and change
 * some of what is said of them. Made again, it is new.
 */
export async function makeSeedExchange(admin: string, password: string): Promise<ExchangeAddress> {
  const here = new URL(admin);
  const database = `${decodeURIComponent(here.pathname.slice(1))}_exchange`;
  const user = `${database}_reader`;
  await onServer(admin, async (client) => {
    await client.query(`DROP DATABASE IF EXISTS ${client.escapeIdentifier(database)} WITH (FORCE)`);
    const { rowCount } = await client.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [user]);
    await client.query(
      `${rowCount === 0 ? 'CREATE' : 'ALTER'} ROLE ${client.escapeIdentifier(user)} LOGIN NOSUPERUSER PASSWORD ${client.escapeLiteral(password)}`,
    );
    await client.query(
      `CREATE DATABASE ${client.escapeIdentifier(database)} TEMPLATE template0 ENCODING 'UTF8'`,
    );
  });
  const there = new URL(admin);
  there.pathname = `/${database}`;
  await onServer(there.toString(), (client) => fill(client, user));
  return {
    t: 'database',
    host: here.hostname,
    port: Number(here.port === '' ? 5432 : here.port),
    database,
    user,
  };
}

export async function dropSeedExchange(admin: string, { database, user }: ExchangeAddress): Promise<void> {
  await onServer(admin, async (client) => {
    await client.query(`DROP DATABASE IF EXISTS ${client.escapeIdentifier(database)} WITH (FORCE)`);
    await client.query(`DROP ROLE IF EXISTS ${client.escapeIdentifier(user)}`);
  });
}

async function onServer(url: string, work: (client: pg.Client) => Promise<void>): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

const tables = `
  CREATE SCHEMA catalogue;
  CREATE TYPE catalogue.lot_kind AS ENUM ('seed', 'spore', 'cutting', 'bulb');
  CREATE DOMAIN catalogue.percent AS numeric(5,2) CHECK (VALUE BETWEEN 0 AND 100);
  CREATE TABLE catalogue.gardens (
    code text PRIMARY KEY, name text NOT NULL UNIQUE, town text NOT NULL, country character(2) NOT NULL, contact_email text, member_since date, place point, notes jsonb);
  COMMENT ON TABLE catalogue.gardens IS 'Members of the exchange';
  COMMENT ON COLUMN catalogue.gardens.member_since IS 'The day their membership was confirmed';
  CREATE TABLE catalogue.lots (
    lot_no text PRIMARY KEY, taxon text NOT NULL, garden text NOT NULL REFERENCES catalogue.gardens, kind catalogue.lot_kind NOT NULL DEFAULT 'seed', grams numeric(8,2) NOT NULL CONSTRAINT some_weight CHECK (grams > 0),
    germination catalogue.percent, collected date, from_the_wild boolean NOT NULL DEFAULT false, state text NOT NULL DEFAULT 'offered', tested_at timestamptz, offered_at timestamptz NOT NULL DEFAULT now(), tags text[], sheet bytea);
  COMMENT ON COLUMN catalogue.lots.germination IS 'Share that came up in the last test, in percent';
  CREATE TABLE catalogue.wishes (
    lot_no text NOT NULL REFERENCES catalogue.lots, garden text NOT NULL REFERENCES catalogue.gardens, grams numeric(8,2) NOT NULL CHECK (grams > 0), wished_on date NOT NULL DEFAULT current_date, PRIMARY KEY (lot_no, garden));
  CREATE VIEW catalogue.lots_by_garden AS SELECT garden, count(*) AS lots, sum(grams) AS grams FROM catalogue.lots GROUP BY garden;
  CREATE TABLE catalogue.accounts (login text PRIMARY KEY, balance money)`;

async function fill(client: pg.Client, user: string): Promise<void> {
  await client.query(tables);
  const random = seeded(71_906);
  const gardens = gardenRows(random);
  await insert(client, 'gardens', gardens);
  const lots = lotRows(
    random,
    gardens.map(({ code }) => code),
  );
  await insert(client, 'lots', lots);
  await insert(
    client,
    'wishes',
    lots
      .filter(() => random.chance(0.3))
      .map(({ lot_no, grams }) => ({
        lot_no,
        garden: random.pick(gardens).code,
        grams: (Number(grams) / 4 + 0.01).toFixed(2),
        wished_on: '2026-10-14',
      })),
  );
  const to = client.escapeIdentifier(user);
  await client.query(`GRANT USAGE ON SCHEMA catalogue TO ${to}; GRANT SELECT ON catalogue.gardens, catalogue.lots, catalogue.wishes, catalogue.lots_by_garden TO ${to};
    GRANT INSERT ON catalogue.lots, catalogue.wishes TO ${to}; GRANT UPDATE (grams, germination, state, collected, tested_at) ON catalogue.lots TO ${to}; ANALYZE`);
}

/** The rows go as one document, read by the types of the table. */
async function insert(
  client: pg.Client,
  table: string,
  rows: readonly Record<string, unknown>[],
): Promise<void> {
  const names = Object.keys(rows[0] ?? {}).join(', ');
  await client.query(
    `INSERT INTO catalogue.${table} (${names}) SELECT ${names} FROM jsonb_populate_recordset(NULL::catalogue.${table}, $1::jsonb)`,
    [JSON.stringify(rows)],
  );
}

const towns = [
  'Averley',
  'Brackmouth',
  'Cold Fenny',
  'Dunnock Hill',
  'Eastmere',
  'Fallowby',
  'Garrowdale',
  'Harbour Wick',
  'Inverlarne',
  'Juniper Bay',
  'Kestleford',
  'Larkrise',
  'Moorend',
  'Netherby Sands',
  'Oxgate',
  'Pennywater',
];
const kinds = ['Botanic Garden', 'Seed Circle', 'Arboretum'];

function gardenRows(random: Random): { code: string; [column: string]: unknown }[] {
  return towns.map((town, i) => ({
    code: `${town.slice(0, 3).toUpperCase()}${10 + i}`,
    name: `${town} ${kinds[i % kinds.length]}`,
    town,
    country: i % 5 === 4 ? 'IE' : 'GB',
    contact_email: `seeds@${town.toLowerCase().replaceAll(' ', '-')}.example`,
    member_since: `20${random.whole(10, 25)}-0${random.whole(1, 9)}-1${random.whole(0, 9)}`,
    place: null,
    notes: { beds: random.whole(4, 80) },
  }));
}

function lotRows(
  random: Random,
  gardens: readonly string[],
): { lot_no: string; grams: string; [column: string]: unknown }[] {
  return Array.from({ length: 420 }, (_, i) => ({
    lot_no: `X-${String(1_001 + i)}`,
    taxon: `${random.pick(genera)} ${random.pick(epithets)}`,
    garden: random.pick(gardens),
    kind: random.pick(['seed', 'seed', 'seed', 'spore', 'cutting', 'bulb']),
    grams: (random.whole(5, 2_000) / 100).toFixed(2),
    germination: random.chance(0.2) ? null : (random.whole(300, 1_000) / 10).toFixed(2),
    collected: `202${random.whole(3, 6)}-0${random.whole(1, 9)}-${random.whole(10, 28)}`,
    from_the_wild: random.chance(0.15),
    state: random.pick(['offered', 'offered', 'offered', 'reserved', 'gone']),
    tested_at: random.chance(0.4) ? `2026-0${random.whole(1, 9)}-11T09:30:00Z` : null,
    offered_at: '2026-09-01T08:00:00Z',
    tags: ['trial'],
    sheet: null,
  }));
}
