import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import type { MappedColumn, TableMapping } from '../../../core/link/link';
import type { SourceAddress } from '../../../core/link/source';
import type { Column, Table } from '../../../core/table/model';
import {
  columnName,
  foreignName,
  outsideTable,
  sendingFunction,
  serverName,
  tableName,
} from '../../identifiers';
import { literal } from '../tables/literal';

/** What stands between a table of another database and its copy here. Owners never see it; its names follow from ids. */

const ROWS_AT_A_TIME = 2_000;

/**
 * The other database as a server of ours. Whether it may be reached at all, its user and its password are
 * said later, transaction by transaction.
 */
export function serverSql(
  sourceId: string,
  { host, port, database }: Extract<SourceAddress, { t: 'database' }>,
): SQL {
  const options = {
    host,
    port: String(port),
    dbname: database,
    connect_timeout: '5',
    keep_connections: 'off',
    fetch_size: String(ROWS_AT_A_TIME),
    updatable: 'true',
    application_name: 'tidy-slate',
  };
  return sql`CREATE SERVER ${serverName(sourceId)} FOREIGN DATA WRAPPER postgres_fdw OPTIONS (${optionsSql(options)})`;
}

/** The same server at another address. */
export function moveServer(
  sourceId: string,
  { host, port, database }: Extract<SourceAddress, { t: 'database' }>,
): SQL {
  return sql`ALTER SERVER ${serverName(sourceId)} OPTIONS (SET host ${literal(host)}, SET port ${literal(String(port))}, SET dbname ${literal(database)})`;
}

/**
 * The address its host had when it was looked up and found to be one a source may be at. Whoever connects
 * goes there, for the name may mean another place by then.
 */
export const pinSql = (sourceId: string, address: string, isPinned: boolean): SQL =>
  sql`ALTER SERVER ${serverName(sourceId)} OPTIONS (${sql.raw(isPinned ? 'SET' : 'ADD')} hostaddr ${literal(address)})`;

export const dropServer = (sourceId: string): SQL => sql`DROP SERVER IF EXISTS ${serverName(sourceId)}`;

const optionsSql = (options: Readonly<Record<string, string>>): SQL =>
  sql.join(
    Object.entries(options).map(([name, value]) => sql`${sql.raw(name)} ${literal(value)}`),
    sql`, `,
  );

interface Linking {
  readonly sourceId: string;
  readonly table: Table;
  readonly mapping: TableMapping;
  readonly tables: ReadonlyMap<string, Table>;
}

/** The table as it stands there, and what sends on to it what is written here. */
export function linkSql(linking: Linking): SQL[] {
  const { table, mapping } = linking;
  return [
    foreignTable(linking, false),
    ...(mapping.adds ? [foreignTable(linking, true)] : []),
    sendingSql(linking),
    sql`CREATE TRIGGER sent_on AFTER INSERT OR UPDATE OR DELETE ON ${tableName(table)} FOR EACH ROW EXECUTE FUNCTION ${sendingFunction(table)}()`,
  ];
}

/** A list can only be read, so nothing but its refreshing may write to its copy. */
export function lockedSql(table: Table): SQL[] {
  return [
    sql`CREATE FUNCTION ${sendingFunction(table)}() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS ${body([sql`${REFUSED}`])}`,
    sql`CREATE TRIGGER sent_on AFTER INSERT OR UPDATE OR DELETE ON ${tableName(table)} FOR EACH ROW EXECUTE FUNCTION ${sendingFunction(table)}()`,
  ];
}

export const unlinkSql = (table: Table): SQL[] => [
  sql`DROP TRIGGER IF EXISTS sent_on ON ${tableName(table)}`,
  sql`DROP FUNCTION IF EXISTS ${sendingFunction(table)}()`,
  sql`DROP FOREIGN TABLE IF EXISTS ${outsideTable(table)}`,
  sql`DROP FOREIGN TABLE IF EXISTS ${outsideTable(table, true)}`,
];

function foreignTable({ sourceId, table, mapping }: Linking, adding: boolean): SQL {
  const columns = mapping.columns
    .filter((one) => !adding || one.adds)
    .map((one) => sql`${foreignName(one.name)} ${sql.raw(localType(one))}`);
  return sql`CREATE FOREIGN TABLE ${outsideTable(table, adding)} (${sql.join(columns, sql`, `)}) SERVER ${serverName(sourceId)} OPTIONS (schema_name ${literal(mapping.schema)}, table_name ${literal(mapping.name)})`;
}

/** Types this database has as well; others, such as lists of choices made there, travel as text. */
const BUILT_IN =
  /^(smallint|integer|bigint|oid|numeric(\(\d+,-?\d+\))?|real|double precision|text|name|uuid|inet|cidr|macaddr8?|character( varying)?(\(\d+\))?|boolean|date|time(\(\d\))? without time zone|timestamp(\(\d\))? with(out)? time zone)$/;
export const localType = ({ type }: Pick<MappedColumn, 'type'>): string =>
  BUILT_IN.test(type) ? type : 'text';

const REFUSED = sql`RAISE EXCEPTION 'not from here' USING ERRCODE = 'TS001';`;
const REFRESHING = sql`IF coalesce(current_setting('slate.filling', true), '') <> '' AND session_user = current_user THEN RETURN NULL; END IF;`;

/** What a function does is given as a text in quotes, for names and values of the other database stand in it. */
function body(lines: readonly SQL[]): SQL {
  const { sql: text, params } = dialect.sqlToQuery(
    sql`DECLARE touched integer; BEGIN ${REFRESHING} ${sql.join([...lines], sql` `)} RETURN NULL; END`,
  );
  if (params.length > 0) throw new Error('a function has no parameters but its own');
  return literal(text);
}
const dialect = new PgDialect();

/**
 * Sends on what is written: the same record, there, in the same transaction. It must still be there as it was
 * last seen here. What the rights there do not allow is refused before it is tried.
 */
function sendingSql(linking: Linking): SQL {
  const { table, mapping } = linking;
  return sql`CREATE FUNCTION ${sendingFunction(table)}() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS ${body(
    [
      sql`IF TG_OP = 'INSERT' THEN ${mapping.adds ? addingSql(linking) : REFUSED}`,
      sql`ELSIF TG_OP = 'UPDATE' AND NEW.removed_at IS NOT DISTINCT FROM OLD.removed_at THEN ${mapping.changes ? changingSql(linking) : REFUSED}`,
      sql`ELSE ${REFUSED} END IF;`,
    ],
  )}`;
}

function addingSql({ table, mapping, tables }: Linking): SQL {
  const given = mapping.columns.filter(({ adds }) => adds);
  const refused = mapping.columns
    .filter(({ adds }) => !adds)
    .flatMap((one) => columnOf(table, one).map((column) => sql`NEW.${columnName(column)} IS NOT NULL`));
  const values = given.map((one) =>
    one.preset === null
      ? sentValue('NEW', one, table, tables)
      : sql`coalesce(${sentValue('NEW', one, table, tables)}, ${literal(one.preset)}::${sql.raw(localType(one))})`,
  );
  return sql`${refused.length === 0 ? sql`` : sql`IF ${sql.join(refused, sql` OR `)} THEN ${REFUSED} END IF;`} INSERT INTO ${outsideTable(table, true)} (${names(given)}) VALUES (${sql.join(values, sql`, `)});`;
}

function changingSql({ table, mapping, tables }: Linking): SQL {
  const changed = mapping.columns.filter((one) => one.changes && !mapping.by.includes(one.column));
  const fixed = mapping.columns
    .filter((one) => !changed.includes(one))
    .flatMap((one) =>
      columnOf(table, one).map(
        (column) => sql`NEW.${columnName(column)} IS DISTINCT FROM OLD.${columnName(column)}`,
      ),
    );
  const keys = mapping.columns.filter(({ column }) => mapping.by.includes(column));
  const known = [
    ...keys.map((one) => sql`f.${foreignName(one.name)} = ${sentValue('OLD', one, table, tables)}`),
    ...changed.flatMap((one) =>
      columnOf(table, one).map(
        (column) => sql`${readColumn(one, column, tables)} IS NOT DISTINCT FROM OLD.${columnName(column)}`,
      ),
    ),
  ];
  // What was not changed here stays as it is there, to the last decimal.
  const sets = changed.flatMap((one) =>
    columnOf(table, one).map(
      (column) =>
        sql`${foreignName(one.name)} = CASE WHEN NEW.${columnName(column)} IS DISTINCT FROM OLD.${columnName(column)} THEN ${sentValue('NEW', one, table, tables)} ELSE f.${foreignName(one.name)} END`,
    ),
  );
  return sql`${fixed.length === 0 ? sql`` : sql`IF ${sql.join(fixed, sql` OR `)} THEN ${REFUSED} END IF;`} UPDATE ${outsideTable(table)} AS f SET ${sql.join(sets, sql`, `)} WHERE ${sql.join(known, sql` AND `)}; GET DIAGNOSTICS touched = ROW_COUNT; IF touched <> 1 THEN RAISE EXCEPTION 'changed there' USING ERRCODE = 'TS002'; END IF;`;
}

const columnOf = (table: Table, { column: id }: MappedColumn): Column[] =>
  table.columns.filter((column) => column.id === id);
const names = (columns: readonly MappedColumn[]): SQL =>
  sql.join(
    columns.map(({ name }) => foreignName(name)),
    sql`, `,
  );

/** A value of the record here as it is written there; a reference by the value that stands for it. */
function sentValue(
  row: 'NEW' | 'OLD',
  one: MappedColumn,
  table: Table,
  tables: ReadonlyMap<string, Table>,
): SQL {
  const [column] = columnOf(table, one);
  if (column === undefined) throw new Error(`a linked column without a column: ${one.name}`);
  const value = sql`${sql.raw(row)}.${columnName(column)}`;
  const as = sql.raw(localType(one));
  if (one.refers === null) return sql`${value}::${as}`;
  const { target, known } = referred(one, column, tables);
  return sql`(SELECT r.${columnName(known)}::${as} FROM ${tableName(target)} AS r WHERE r.id = ${value})`;
}

/** A column of the foreign table, called f, as a value of the column here; one that would not fit is null. */
export function readColumn(one: MappedColumn, column: Column, tables: ReadonlyMap<string, Table>): SQL {
  if (one.refers === null) return readValue(sql`f.${foreignName(one.name)}`, column);
  const { target, known } = referred(one, column, tables);
  return sql`(SELECT r.id FROM ${tableName(target)} AS r WHERE r.${columnName(known)} = ${readValue(sql`f.${foreignName(one.name)}`, known)} AND r.removed_at IS NULL)`;
}

function readValue(value: SQL, column: Column): SQL {
  // What a number may hold is bounded here, and “not a number” is none.
  if (column.kind === 'whole' || column.kind === 'decimal')
    return sql`(CASE WHEN ${value}::text NOT IN ('NaN', 'Infinity', '-Infinity') AND abs(${value}) < 1e15 THEN round(${value}::numeric, ${sql.raw(String(column.decimals ?? 0))}) END)`;
  if (column.kind === 'date' || column.kind === 'date-time')
    return sql`(CASE WHEN isfinite(${value}) THEN ${value} END)`;
  return column.kind === 'text' ? sql`nullif(btrim(${value}::text), '')` : sql`${value}`;
}

/** The table a reference is to, and the column whose value stands for its records there. */
function referred(
  one: MappedColumn,
  { target: id }: Column,
  tables: ReadonlyMap<string, Table>,
): { target: Table; known: Column } {
  const target = tables.get(id ?? '');
  const known = target?.columns.find((column) => column.id === one.refers);
  if (target === undefined || known === undefined)
    throw new Error(`a linked reference without its table: ${one.name}`);
  return { target, known };
}
