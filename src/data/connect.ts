import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './system/schema';
import { workspaceZone } from '../core/workspace';
import { log } from './log';

export type Database = NodePgDatabase<typeof schema>;
/** A transaction of one of our databases; everything in data/ takes one. */
export type Tx = Parameters<Parameters<Database['transaction']>[0]>[0];

const pools = new Map<string, { pool: pg.Pool; db: Database }>();

function connect(url: string | undefined, variable: string, max: number): { pool: pg.Pool; db: Database } {
  if (url === undefined || url === '')
    throw new Error(`${variable} is not set; start Tidy Slate with npm start`);
  const known = pools.get(url);
  if (known !== undefined) return known;
  const pool = new pg.Pool({
    connectionString: url,
    max,
    options: `-c timezone=${workspaceZone}`,
    application_name: 'tidy-slate',
  });
  // Without a listener a dropped idle connection ends the process.
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection was lost'));
  const made = { pool, db: drizzle(pool, { schema }) };
  pools.set(url, made);
  return made;
}

/** The application role: row-level security applies, and it cannot change tables. */
export const appDatabase = (): Database => connect(process.env['SLATE_APP_URL'], 'SLATE_APP_URL', 10).db;
/** The owner role: only the table planner, migrations and the sample world use it. */
export const ownerDatabase = (): Database => connect(process.env['SLATE_OWNER_URL'], 'SLATE_OWNER_URL', 3).db;

/** One connection of the owner role, to be released. */
export const ownerClient = (): Promise<pg.PoolClient> =>
  connect(process.env['SLATE_OWNER_URL'], 'SLATE_OWNER_URL', 3).pool.connect();

/** A connection of its own, for LISTEN. */
export const listeningClient = (): pg.Client =>
  new pg.Client({ connectionString: process.env['SLATE_APP_URL'], application_name: 'tidy-slate live' });

export async function closeConnections(): Promise<void> {
  await Promise.all([...pools.values()].map(({ pool }) => pool.end()));
  pools.clear();
}
