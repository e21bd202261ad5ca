import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations } from 'graphile-worker';
import pg from 'pg';

/**
 * Brings a database to the present: the two roles, the schemas, the migrations and the rights.
 * Every step may be repeated. `admin` is a role that may create roles and owns the database.
 */
export interface Setup {
  readonly admin: string;
  readonly owner: Login;
  readonly app: Login;
  readonly migrations: string;
}

export interface Login {
  readonly name: string;
  readonly password: string;
}

/** What the application role may do with each of our tables; what is not named here it cannot touch. */
const rights: Readonly<Record<string, string>> = {
  // Who somebody is and what they may do is written by the owner role alone; a password and the second step
  // besides may be changed, and a session begun and ended.
  person: 'SELECT, UPDATE (asks_code, updated_at)',
  second_step: 'SELECT, INSERT, UPDATE, DELETE',
  passkey: 'SELECT, INSERT, DELETE',
  // Its secret is sealed; who somebody is there is told by a function alone.
  sign_in_provider: 'SELECT',
  account: 'SELECT, UPDATE (password, updated_at)',
  session: 'SELECT, INSERT, UPDATE, DELETE',
  verification: 'SELECT, INSERT, UPDATE, DELETE',
  sign_in_try: 'SELECT',
  workspace: 'SELECT',
  // Its hash is read by a function that takes the secret, and by nothing else.
  api_token:
    'SELECT (id, label, person_id, hint, made_by_id, made_at, expires_at, ended_at, ended_by_id, last_used_at)',
  api_token_grant: 'SELECT',
  designed_table: 'SELECT',
  designed_column: 'SELECT',
  access_grant: 'SELECT',
  person_group: 'SELECT',
  group_member: 'SELECT',
  looked_as: 'SELECT',
  table_form: 'SELECT',
  release_table: 'SELECT',
  form_release: 'SELECT',
  form: 'SELECT, INSERT, UPDATE (design, opening, version, edited_by, updated_at)',
  form_example: 'SELECT, INSERT, UPDATE (label, outcome, updated_at), DELETE',
  form_picture: 'SELECT, INSERT',
  // How a submission stands, whom it asks and what happened to it is written by functions that hold the rules of its path.
  submission: 'SELECT, INSERT, UPDATE (answers, base, version, updated_at), DELETE',
  submission_event: 'SELECT',
  ask: 'SELECT',
  absence: 'SELECT',
  notice: 'SELECT, UPDATE (seen_at)',
  telling: 'SELECT, INSERT (person_id, by_mail, calendar_hash), UPDATE (by_mail, calendar_hash)',
  own_formats: 'SELECT, INSERT, UPDATE (formats)',
  request_key: 'SELECT, INSERT, UPDATE',
  // What changed in a record is read where restricted columns are left out (`shown.history`).
  history: 'SELECT (id, table_id, record_id, last_id, version, change, by_id, submission_id, token_id, at)',
  check_read: 'SELECT',
  record_reason: 'SELECT, INSERT',
  table_import: 'SELECT, INSERT, UPDATE',
  import_piece: 'SELECT, INSERT, UPDATE, DELETE',
  table_change: 'SELECT, INSERT, UPDATE',
  bulk_change: 'SELECT, INSERT, UPDATE (state, progress, up_to, updated_at)',
  bulk_changed: 'SELECT, INSERT',
  // Whom a file belongs to besides is written by functions that hold the rules of that.
  file: 'SELECT, INSERT, UPDATE (state, type, size, width, height, thumb, outside, updated_at)',
  file_piece: 'SELECT, INSERT, UPDATE (bytes), DELETE',
  source: 'SELECT, INSERT, UPDATE, DELETE',
  // For administrators alone, by its policies.
  directory: 'SELECT, INSERT, UPDATE, DELETE',
  directory_member: 'SELECT, INSERT, UPDATE (entry, ended), DELETE',
  link: 'SELECT, UPDATE',
  table_look: 'SELECT, INSERT, UPDATE, DELETE',
  table_view:
    'SELECT, INSERT, UPDATE (label, everybody, group_ids, person_ids, is_first, design, version, updated_at), DELETE',
  form_outside: 'SELECT',
  form_link: 'SELECT',
  // Written by a trigger, and mailed by a job of the owner role.
  outside_mail: 'SELECT (id)',
  account_mail: 'SELECT (id)',
  trail: 'SELECT',
  trail_head: 'SELECT',
  event: 'SELECT',
  event_counter: 'SELECT',
  // Its secret is read by the job that signs with it.
  event_address:
    'SELECT (id, label, url, person_id, table_ids, form_ids, kinds, version, made_by_id, made_at, position, tries, failing_since, next_at, stopped_at, stopped_because)',
  event_delivery: 'SELECT',
  choice_list: 'SELECT',
  choice_list_version: 'SELECT',
};

export async function setUp({ admin, owner, app, migrations }: Setup): Promise<void> {
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  try {
    // Two starts on one database take turns.
    await client.query("SELECT pg_advisory_lock(hashtext('slate set-up'))");
    for (const login of [owner, app]) await role(client, login);
    await showing(client, owner);
    const database = client.escapeIdentifier(client.database ?? '');
    await client.query(
      `GRANT CREATE, CONNECT ON DATABASE ${database} TO ${client.escapeIdentifier(owner.name)}`,
    );
    await client.query(`GRANT CONNECT ON DATABASE ${database} TO ${client.escapeIdentifier(app.name)}`);
    await reachOthers(client, owner);
    await countStatements(client);
    await findWords(client);
    await runMigrations({ connectionString: loginUrl(admin, owner) });
    await migrateAs(loginUrl(admin, owner), migrations);
    await trust(client);
    await grant(loginUrl(admin, owner), app.name);
  } finally {
    await client.end();
  }
}

export function loginUrl(url: string, { name, password }: Login): string {
  const changed = new URL(url);
  changed.username = encodeURIComponent(name);
  changed.password = encodeURIComponent(password);
  return changed.toString();
}

async function role(client: pg.Client, { name, password }: Login): Promise<void> {
  const { rowCount } = await client.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [name]);
  const verb = rowCount === 0 ? 'CREATE' : 'ALTER';
  await client.query(
    `${verb} ROLE ${client.escapeIdentifier(name)} LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE PASSWORD ${client.escapeLiteral(password)}`,
  );
}

/**
 * Nobody signs in by this role: it owns the views by which tables with restricted columns are read, so that
 * policies hold in them (`slate.showing_role` knows it by its name).
 */
async function showing(client: pg.Client, owner: Login): Promise<void> {
  const name = `${owner.name}_shows`;
  const { rowCount } = await client.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [name]);
  const as = client.escapeIdentifier(name);
  if (rowCount === 0) await client.query(`CREATE ROLE ${as} NOLOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE`);
  await client.query(`GRANT ${as} TO ${client.escapeIdentifier(owner.name)}`);
}

/**
 * Linking other databases needs an extension that only a superuser may install. Without it everything else
 * works, and linking says what is missing.
 */
async function reachOthers(client: pg.Client, owner: Login): Promise<void> {
  const may = await client.query<{ may: boolean }>(
    "SELECT rolsuper AND EXISTS (SELECT 1 FROM pg_available_extensions WHERE name = 'postgres_fdw') AS may FROM pg_roles WHERE rolname = current_user",
  );
  if (may.rows[0]?.may !== true) return;
  await client.query(
    `CREATE EXTENSION IF NOT EXISTS postgres_fdw; GRANT USAGE ON FOREIGN DATA WRAPPER postgres_fdw TO ${client.escapeIdentifier(owner.name)}`,
  );
}

/** Where PostgreSQL counts what each kind of statement takes, and we may, it is made readable; nothing of ours needs it. */
async function countStatements(client: pg.Client): Promise<void> {
  const may = await client.query<{ may: boolean }>(
    "SELECT rolsuper AND current_setting('shared_preload_libraries') LIKE '%pg_stat_statements%' AS may FROM pg_roles WHERE rolname = current_user",
  );
  if (may.rows[0]?.may === true) await client.query('CREATE EXTENSION IF NOT EXISTS pg_stat_statements');
}

/** What words are found with. Who owns a database may install both. */
const findWords = (client: pg.Client) =>
  client.query(
    'CREATE EXTENSION IF NOT EXISTS pg_trgm SCHEMA public; CREATE EXTENSION IF NOT EXISTS unaccent SCHEMA public',
  );

/** They tell nothing of what they are given, not even by failing, and PostgreSQL 15 does not know it. */
const TELL_NOTHING = [
  ...['lt', 'le', 'eq', 'ne', 'ge', 'gt', 'cmp'].map((how) => `pg_catalog.numeric_${how}(numeric, numeric)`),
  'pg_catalog.textlike(text, text)',
  'slate.words(text[])',
  ...['numeric', 'date', 'time', 'timestamp'].map((type) => `slate.letters(${type})`),
];

/**
 * Under the policies of a table PostgreSQL takes an index only for what it trusts; a superuser may say what
 * that is (ADR 19). Elsewhere all is found as well, but words, and pages in the middle of a million records,
 * take seconds.
 */
async function trust(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ super: boolean }>(
    'SELECT rolsuper AS super FROM pg_roles WHERE rolname = current_user',
  );
  if (rows[0]?.super !== true) return;
  for (const one of TELL_NOTHING) await client.query(`ALTER FUNCTION ${one} LEAKPROOF`);
}

async function migrateAs(url: string, migrationsFolder: string): Promise<void> {
  const pool = new pg.Pool({ connectionString: url, max: 1 });
  try {
    await migrate(drizzle(pool), { migrationsFolder, migrationsSchema: 'slate_migrations' });
  } finally {
    await pool.end();
  }
}

async function grant(url: string, app: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const to = client.escapeIdentifier(app);
    await client.query(`GRANT USAGE ON SCHEMA slate, records, calculated, rights, shown, whole TO ${to}`);
    for (const [table, actions] of Object.entries(rights)) {
      await client.query(
        `REVOKE ALL ON slate.${client.escapeIdentifier(table)} FROM ${to}; GRANT ${actions} ON slate.${client.escapeIdentifier(table)} TO ${to}`,
      );
    }
    await client.query(`GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA records TO ${to}`);
    await client.query(
      `ALTER DEFAULT PRIVILEGES IN SCHEMA records GRANT SELECT, INSERT, UPDATE, DELETE ON TABLES TO ${to}`,
    );
    await client.query(`GRANT SELECT ON shown.history TO ${to}`);
    await client.query('SELECT slate.settle_all_shown()');
  } finally {
    await client.end();
  }
}
