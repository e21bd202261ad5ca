import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './system/schema';
import { log } from './log';
import { hasPlannedEnough, nameStatements } from './named-statements';

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

/** What waits for another database has few connections of its own, and as a whole no longer than this; a further one is told so at once. */
const OUTSIDE_MS = 15_000;
const OUTSIDE_CONNECT_MS = 3_000;
/** A lock that somebody holds who waits for something themselves must not make a queue of everybody. */
const LOCK_MS = 5_000;

interface Limits {
  /** Connections under one name are counted together. */
  readonly name: string;
  readonly connectMs?: number;
  readonly lockMs: number;
  /** Set where the same statements come again and again. */
  readonly named?: boolean;
  readonly max: number;
  readonly statementMs: number;
  readonly idleMs: number;
}

function connect(
  variable: string,
  { name, max, connectMs, lockMs, named = false, statementMs, idleMs }: Limits,
): Connected {
  const url = process.env[variable];
  if (url === undefined || url === '')
    throw new Error(`${variable} is not set; start Tidy Slate with npm start`);
  const known = pools.get(name + url);
  if (known !== undefined) return known;
  const pool = new pg.Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: connectMs ?? CONNECT_MS,
    options: `-c statement_timeout=${statementMs} -c idle_in_transaction_session_timeout=${idleMs} -c lock_timeout=${lockMs} -c search_path=calculated,public`,
    application_name: 'tidy-slate',
  });
  // Without a listener, a connection that is lost ends the process: an idle one tells the pool, one at work only itself.
  pool.on('error', (error) => log.warn({ error: error.message }, 'an idle database connection was lost'));
  pool.on('connect', (client) => {
    client.on('error', (error) => log.warn({ error: error.message }, 'a database connection was lost'));
    if (named) nameStatements(client);
  });
  const made = { pool, db: drizzle(pool, { schema }) };
  pools.set(name + url, made);
  return made;
}

/** The application role: row-level security applies, and it cannot change tables. */
const asked = { lockMs: LOCK_MS, statementMs: STATEMENT_MS, idleMs: IDLE_MS };
const app = (): Connected => connect('SLATE_APP_URL', { ...asked, name: 'app', named: true, max: 10 });
const outside = (): Connected =>
  connect('SLATE_APP_URL', { ...asked, name: 'outside', max: 3, connectMs: OUTSIDE_CONNECT_MS });
/** The owner role: only the table planner, migrations and the sample world use it. */
const owner = (): Connected =>
  connect('SLATE_OWNER_URL', {
    name: 'owner',
    max: 5,
    lockMs: 0,
    statementMs: OWNER_STATEMENT_MS,
    idleMs: OWNER_IDLE_MS,
  });

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
  const giveBack = (error?: unknown): void =>
    client.release(error instanceof Error ? error : hasPlannedEnough(client));
  return { client, db, giveBack };
}

export const holdApp = (): Promise<Held> => hold(app());

/** For a transaction that reaches another database: when its time is over, the connection is ended under it. */
export async function holdOutside(): Promise<Held> {
  const one = await hold(outside());
  const timer = setTimeout(() => void one.client.end().catch(() => undefined), OUTSIDE_MS);
  return {
    ...one,
    giveBack: (error) => {
      clearTimeout(timer);
      one.giveBack(error);
    },
  };
}
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
