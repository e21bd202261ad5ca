import pg from 'pg';
import { sourceFault, type SourceAddress, type SourceFault } from '../core/link/source';
import type { FoundColumn, FoundReference, FoundTable, MadeBy } from '../core/link/found-table';
import { fail, ok, type Result } from '../core/kernel/result';
import { limits } from '../core/limits';

/** How long another database may take to answer, in milliseconds. */
const PATIENCE = 10_000;
/** Tables and views that are looked at. */
const MOST = 500;

type Address = Extract<SourceAddress, { t: 'database' }>;

/** What the user of a source may see of the tables and views of another database, from its own catalogue. Nothing there is changed. */
export async function introspect(
  address: Address,
  password: string,
): Promise<Result<FoundTable[], SourceFault>> {
  const client = clientOf(address, password);
  try {
    await client.connect();
    await client.query('BEGIN READ ONLY');
    return ok(await tablesThere(client));
  } catch (error) {
    return fail(connectionFault(error));
  } finally {
    await client.end().catch(() => undefined);
  }
}

function clientOf(address: Address, password: string): pg.Client {
  const client = new pg.Client({
    host: address.host,
    port: address.port,
    database: address.database,
    user: address.user,
    password,
    connectionTimeoutMillis: PATIENCE,
    statement_timeout: PATIENCE,
    query_timeout: PATIENCE * 2,
    application_name: 'tidy-slate',
  });
  // A connection that is lost meanwhile is told by the query that waits.
  client.on('error', () => undefined);
  return client;
}

/** Why another database could not be read, from what its driver says. */
export function connectionFault(error: unknown): SourceFault {
  const code = typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
  if (code === '28P01' || code === '28000') return sourceFault('sign-in-refused');
  if (code === '3D000') return sourceFault('not-there', { what: 'the database' });
  return sourceFault('no-answer');
}

interface Row {
  readonly oid: number;
  readonly schema: string;
  readonly name: string;
  readonly comment: string | null;
  readonly is_view: boolean;
  readonly records: number;
  readonly may_add: boolean;
  readonly may_change: boolean;
  readonly rules: string[];
}

async function tablesThere(client: pg.Client): Promise<FoundTable[]> {
  const { rows } = await client.query<Row>(`
    SELECT c.oid::int, n.nspname AS schema, c.relname AS name, obj_description(c.oid, 'pg_class') AS comment, c.relkind IN ('v', 'm') AS is_view, c.reltuples::float8 AS records,
      has_any_column_privilege(c.oid, 'INSERT') AS may_add, has_any_column_privilege(c.oid, 'UPDATE') AS may_change,
      ARRAY(SELECT k.conname::text FROM pg_constraint k WHERE k.conrelid = c.oid AND k.contype IN ('c', 'x') ORDER BY 1) AS rules
    FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind IN ('r', 'p', 'v', 'm', 'f') AND NOT c.relispartition AND n.nspname NOT IN ('pg_catalog', 'information_schema') AND n.nspname NOT LIKE 'pg\\_%'
      AND has_schema_privilege(n.oid, 'USAGE') AND has_any_column_privilege(c.oid, 'SELECT') ORDER BY 2, 3 LIMIT ${MOST}`);
  const found: FoundTable[] = [];
  for (const row of rows) {
    const columns = await columnsOf(client, row.oid);
    const { primaryKey, uniques } = await keysOf(client, row.oid);
    found.push({
      schema: row.schema,
      name: row.name,
      comment: (row.comment ?? '').slice(0, limits.word),
      isView: row.is_view,
      records: row.records < 0 ? null : Math.round(row.records),
      columns,
      primaryKey,
      uniques,
      references: await referencesOf(client, row.oid),
      rules: row.rules,
      mayAdd: row.may_add,
      mayChange: row.may_change,
    });
  }
  return found;
}

async function columnsOf(client: pg.Client, table: number): Promise<FoundColumn[]> {
  const { rows } = await client.query<{
    name: string;
    type: string;
    domain: string | null;
    labels: string[] | null;
    required: boolean;
    preset: string | null;
    generated: boolean;
    sequence: string | null;
    may_count: boolean;
    comment: string | null;
    may_see: boolean;
    may_add: boolean;
    may_change: boolean;
  }>(
    `
    SELECT a.attname AS name,
      CASE WHEN t.typtype = 'd' THEN format_type(t.typbasetype, t.typtypmod) ELSE format_type(a.atttypid, a.atttypmod) END AS type,
      CASE WHEN t.typtype = 'd' THEN t.typname::text END AS domain,
      (SELECT array_agg(e.enumlabel::text ORDER BY e.enumsortorder) FROM pg_enum e WHERE e.enumtypid = CASE WHEN t.typtype = 'd' THEN t.typbasetype ELSE t.oid END) AS labels,
      a.attnotnull AS required, pg_get_expr(d.adbin, d.adrelid) AS preset, (a.attgenerated <> '' OR a.attidentity = 'a') AS generated,
      s.sequence, coalesce(has_sequence_privilege(s.sequence, 'USAGE'), false) AS may_count, col_description(a.attrelid, a.attnum) AS comment,
      has_column_privilege(a.attrelid, a.attnum, 'SELECT') AS may_see, has_column_privilege(a.attrelid, a.attnum, 'INSERT') AS may_add, has_column_privilege(a.attrelid, a.attnum, 'UPDATE') AS may_change
    FROM pg_attribute a JOIN pg_type t ON t.oid = a.atttypid
    JOIN pg_class c ON c.oid = a.attrelid JOIN pg_namespace n ON n.oid = c.relnamespace
    CROSS JOIN LATERAL (SELECT CASE WHEN c.relkind IN ('r', 'p') THEN pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname) END AS sequence) AS s
    LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
    WHERE a.attrelid = $1::oid AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attnum`,
    [table],
  );
  return rows.map(
    ({
      may_see: maySee,
      may_add: mayAdd,
      may_change: mayChange,
      may_count: mayCount,
      sequence,
      comment,
      ...row
    }) => ({
      ...row,
      made: madeBy(row, mayCount ? sequence : null),
      comment: (comment ?? '').slice(0, limits.word),
      maySee,
      mayAdd,
      mayChange,
    }),
  );
}

/** What is made in another way, or always, is made there alone. */
function madeBy(
  { generated, preset }: Pick<FoundColumn, 'generated' | 'preset'>,
  sequence: string | null,
): MadeBy | null {
  if (generated) return null;
  if (sequence !== null && (preset === null || preset.startsWith('nextval(')))
    return { t: 'sequence', name: sequence };
  return preset !== null && /^(\w+\.)?(gen_random_uuid|uuid_generate_v4)\(\)$/.test(preset)
    ? { t: 'uuid' }
    : null;
}

/** The next values of a sequence there, which nobody else will get; `many` of them. A fault is one of the driver's. */
export async function nextValues(
  address: Address,
  password: string,
  sequence: string,
  many: number,
): Promise<string[]> {
  const client = clientOf(address, password);
  try {
    await client.connect();
    const { rows } = await client.query<{ value: string }>(
      'SELECT nextval($1::regclass)::text AS value FROM generate_series(1, $2::int)',
      [sequence, many],
    );
    return rows.map(({ value }) => value);
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** Of the columns of a constraint or index, their names in order. */
const NAMES = (numbers: string, of: string): string =>
  `ARRAY(SELECT a.attname::text FROM unnest(${numbers}) WITH ORDINALITY AS n (number, place) JOIN pg_attribute a ON a.attrelid = ${of} AND a.attnum = n.number ORDER BY n.place)`;

async function keysOf(
  client: pg.Client,
  table: number,
): Promise<{ primaryKey: string[]; uniques: string[][] }> {
  const { rows } = await client.query<{ first: boolean; names: string[] }>(
    `
    SELECT i.indisprimary AS first, ${NAMES('i.indkey::int2[]', 'i.indrelid')} AS names FROM pg_index i
    WHERE i.indrelid = $1::oid AND i.indisunique AND i.indisvalid AND i.indpred IS NULL AND i.indexprs IS NULL ORDER BY i.indisprimary DESC, i.indexrelid`,
    [table],
  );
  return {
    primaryKey: rows.find(({ first }) => first)?.names ?? [],
    uniques: rows.filter(({ first }) => !first).map(({ names }) => names),
  };
}

async function referencesOf(client: pg.Client, table: number): Promise<FoundReference[]> {
  const { rows } = await client.query<FoundReference>(
    `
    SELECT ${NAMES('k.conkey', 'k.conrelid')} AS columns, n.nspname AS schema, c.relname AS table, ${NAMES('k.confkey', 'k.confrelid')} AS "to"
    FROM pg_constraint k JOIN pg_class c ON c.oid = k.confrelid JOIN pg_namespace n ON n.oid = c.relnamespace WHERE k.conrelid = $1::oid AND k.contype = 'f' ORDER BY k.conname`,
    [table],
  );
  return rows;
}
