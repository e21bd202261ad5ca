import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './system/schema';
import { workspaceZone } from '../core/workspace';
import { log } from './log';

export type Database = NodePgDatabase<typeof schema>;
/** A transaction of one of our databases; everything in data/ takes one. */
export type Tx = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Long enough for a crowd to pass, short enough that nobody thinks the page has died. */
const CONNECT_MS = 5_000;
/** The longest one statement of a person's request may take. The slowest of ours, an impact on a million records, takes 4 s. */
const STATEMENT_MS = 30_000;
/** Of the owner role, whose statements also fill and convert whole tables: the request that asks for one is bounded by its job. */
const OWNER_STATEMENT_MS = 30 * 60_000;
/** A transaction that nobody goes on with holds locks for nothing. */
const IDLE_MS = 60_000;
const OWNER_IDLE_MS = 10 * 60_000;

interface Connected {
  readonly pool: pg.Pool;
  readonly db: Database;
}

const pools = new Map<string, Connected>();

interface Limits {
  readonly max: number;
  readonly statementMs: number;
  readonly idleMs: number;
}

function connect(variable: string, { max, statementMs, idleMs }: Limits): Connected {
  const url = process.env[variable];
  if (url === undefined || url === '')
    throw new Error(`${variable} is not set; start Tidy Slate with npm start`);
  const known = pools.get(url);
  if (known !== undefined) return known;
  const pool = new pg.Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: CONNECT_MS,
    options: `-c timezone=${workspaceZone} -c statement_timeout=${statementMs} -c idle_in_transaction_session_timeout=${idleMs}`,
    application_name: 'tidy-slate',
  });
  // Without a listener, a connection that is lost ends the process: an idle one tells the pool, one at work only itself.
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection was lost'));
  pool.on('connect', (client) =>
    client.on('error', (error) => log.warn({ error: error.message }, 'a database connection was lost')),
  );
  const made = { pool, db: drizzle(pool, { schema }) };
  pools.set(url, made);
  return made;
}

/** The application role: row-level security applies, and it cannot change tables. */
const app = (): Connected =>
  connect('SLATE_APP_URL', { max: 10, statementMs: STATEMENT_MS, idleMs: IDLE_MS });
/** The owner role: only the table planner, migrations and the sample world use it. */
const owner = (): Connected =>
  connect('SLATE_OWNER_URL', { max: 5, statementMs: OWNER_STATEMENT_MS, idleMs: OWNER_IDLE_MS });

export const appDatabase = (): Database => app().db;
export const ownerDatabase = (): Database => owner().db;

/** One connection with what talks to it, to be given back: with the error when it is no good any more. */
export interface Held {
  readonly client: pg.PoolClient;
  readonly db: Database;
  readonly giveBack: (error?: unknown) => void;
}

/** Kept for as long as the connection is: making one costs more than a short statement. */
const databases = new WeakMap<pg.PoolClient, Database>();

async function hold({ pool }: Connected): Promise<Held> {
  const client = await pool.connect();
  const db = databases.get(client) ?? drizzle(client, { schema });
  databases.set(client, db);
  return { client, db, giveBack: (error) => client.release(error instanceof Error ? error : undefined) };
}

export const holdApp = (): Promise<Held> => hold(app());
export const holdOwner = (): Promise<Held> => hold(owner());

/** Whether a statement goes through just now. */
export const reachesDatabase = (): Promise<boolean> =>
  app()
    .pool.query('SELECT 1')
    .then(
      () => true,
      () => false,
    );

/** A connection of its own, for LISTEN. */
export const listeningClient = (): pg.Client =>
  new pg.Client({ connectionString: process.env['SLATE_APP_URL'], application_name: 'tidy-slate live' });

export async function closeConnections(): Promise<void> {
  await Promise.all([...pools.values()].map(({ pool }) => pool.end()));
  pools.clear();
}
