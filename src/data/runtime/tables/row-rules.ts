import { createHash } from 'node:crypto';
import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import type { Catalogue } from '../../../core/catalogue/catalogue';
import { isPersonColumn, ME } from '../../../core/expression/person';
import { words } from '../../../core/expression/sql/fragment';
import { inlined } from '../../../core/expression/sql/inline';
import type { SqlNames } from '../../../core/expression/sql/names';
import { toSql } from '../../../core/expression/sql/to-sql';
import type { Expression } from '../../../core/expression/tree';
import {
  aboutReferred,
  isLimitedAction,
  limitedActions,
  readRowRule,
  reliesOn,
  type LimitedAction,
} from '../../../core/record/row-rules';
import { isGuarded, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { tableName, withinFunction } from '../../identifiers';
import { recordNames } from './form-names';
import { literal } from './literal';
import { policiesOf, policyClause } from './policies';
import { letGoOfShown, settleShown } from './shown';

type Tables = ReadonlyMap<string, Table>;

/** A rule by which somebody may do something with some records of a table. */
interface RowRule {
  readonly action: LimitedAction;
  /** As it stands in the grants. */
  readonly text: string;
  readonly tree: Expression;
}

/** Those that can be read. One that cannot, because what it reads is not as it was, lets nobody do anything. */
function rulesOf({ grants, tables }: Catalogue, table: Table): RowRule[] {
  const found = new Map<string, RowRule>();
  for (const { tableId, action, where } of grants) {
    if (tableId !== table.id || where === null || !isLimitedAction(action)) continue;
    const read = readRowRule(where, table, tables);
    if (read.ok) found.set(`${action} ${where}`, { action, text: where, tree: read.value });
  }
  return [...found.values()];
}

/**
 * Before a table changes: no policy and no view names what it holds, for PostgreSQL changes no column that
 * one names.
 * Until they are settled anew, rules let nobody do anything. Gives the tables to settle.
 */
export async function loosenRules(
  tx: Tx,
  catalogue: Catalogue,
  changed: Iterable<string>,
): Promise<ReadonlySet<string>> {
  const relying = new Set<string>();
  for (const id of changed) {
    await letGoOfShown(tx, id);
    for (const one of reliesOn(catalogue, id)) relying.add(one);
    for (const one of await policiesReading(tx, catalogue, id)) relying.add(one);
  }
  for (const id of relying) {
    const one = catalogue.tables.get(id);
    if (one !== undefined) await putPolicies(tx, catalogue, one, []);
  }
  return relying;
}

/**
 * The tables whose policies name another, also by a rule that nobody holds any more: when somebody leaves,
 * what was granted to them goes, and the policy stays.
 */
async function policiesReading(tx: Tx, { tables }: Catalogue, table: string): Promise<string[]> {
  const key = tables.get(table)?.key ?? '';
  const { rows } = await tx.execute<{ key: string }>(
    sql`SELECT DISTINCT c.relname AS key FROM pg_depend d JOIN pg_policy p ON p.oid = d.objid JOIN pg_class c ON c.oid = p.polrelid JOIN pg_class r ON r.oid = d.refobjid
      WHERE d.classid = 'pg_policy'::regclass AND d.refclassid = 'pg_class'::regclass AND c.relnamespace = 'records'::regnamespace AND r.relnamespace = 'records'::regnamespace AND r.relname = ${key}`,
  );
  const keys = new Set(rows.map((row) => row.key));
  return [...tables.values()].filter((one) => keys.has(one.key)).map(({ id }) => id);
}

/** Somebody who reads for long must not make everybody else wait behind what waits for them. */
export async function patientInTurn(tx: Tx): Promise<void> {
  await tx.execute(sql`SELECT set_config('lock_timeout', '5s', true)`);
}

/** Writes the rules of the grants as policies: of these tables, and of those whose rows belong to them. As the owner role. */
export async function settleRules(tx: Tx, catalogue: Catalogue, tables: Iterable<string>): Promise<void> {
  const touched = new Set(tables);
  await patientInTurn(tx);
  for (const id of touched)
    for (const { id: rows, parent } of catalogue.tables.values()) if (parent === id) touched.add(rows);
  for (const id of touched) {
    const table = catalogue.tables.get(id);
    if (table === undefined) continue;
    await putPolicies(tx, catalogue, table, rulesOf(catalogue, table));
    if (isGuarded(table)) await settleShown(tx, id);
  }
}

async function putPolicies(
  tx: Tx,
  { tables, grants }: Catalogue,
  table: Table,
  rules: readonly RowRule[],
): Promise<void> {
  const above = tables.get(table.parent ?? '') ?? null;
  const isBelowRules = above !== null && lineOf(above, tables).some((id) => hasRules(grants, id));
  const allowed = (action: LimitedAction): SQL[] =>
    rules
      .filter((rule) => rule.action === action)
      .map((rule) => sql`(${mayWhere(table, rule)} AND ${demanded(rule.tree, table, tables)})`);
  const stands = await policiesThere(tx, table);
  // Of most tables nobody sees a part: they stay as they were made.
  if (rules.length === 0 && !isBelowRules && [...stands.values()].every((made) => made === '')) return;
  for (const policy of policiesOf(table, isBelowRules ? above : null, allowed)) {
    const clause = policyClause(policy);
    const as = createHash('sha256').update(dialect.sqlToQuery(clause).sql).digest('hex');
    // Whoever writes a policy waits for all who read the table, and others wait behind.
    if (stands.get(policy.name) === as) continue;
    const on = sql`POLICY ${sql.raw(policy.name)} ON ${tableName(table)}`;
    await tx.execute(sql`ALTER ${on} ${clause}`);
    await tx.execute(sql`COMMENT ON ${on} IS ${literal(as)}`);
  }
  await putWithin(tx, table, tables, rules);
}

const hasRules = (grants: Catalogue['grants'], table: string): boolean =>
  grants.some(({ tableId, where }) => tableId === table && where !== null);
/** A table, that whose rows it holds, and so on. */
function lineOf({ id, parent }: Table, tables: Tables): string[] {
  const above = tables.get(parent ?? '');
  return above === undefined ? [id] : [id, ...lineOf(above, tables)];
}

/** By name, what each policy of a table was made of, as a hash; empty where that is not known. */
async function policiesThere(tx: Tx, { key }: Table): Promise<ReadonlyMap<string, string>> {
  const { rows } = await tx.execute<{ name: string; made: string }>(
    sql`SELECT polname AS name, coalesce(obj_description(oid, 'pg_policy'), '') AS made FROM pg_policy WHERE polrelid = ${`records."${key.replaceAll('"', '""')}"`}::regclass`,
  );
  return new Map(rows.map(({ name, made }) => [name, made]));
}

const mayWhere = (table: Table, { action, text }: RowRule): SQL =>
  sql`(SELECT slate.may_where(${literal(table.id)}, ${literal(action)}, ${literal(text)}))`;

/** What a rule demands of a record, which is called by the key of its table. */
function demanded(tree: Expression, table: Table, tables: Tables): SQL {
  if (tree.op === 'and' || tree.op === 'or') {
    const [left, right] = [demanded(tree.left, table, tables), demanded(tree.right, table, tables)];
    return sql`(${left} ${sql.raw(tree.op)} ${right})`;
  }
  const names = namesFor(table, tables);
  const about = aboutReferred(tree);
  const other = about === null ? null : names.records(about.table);
  const reference = about === null ? null : names.name(about.reference);
  if (about !== null && other !== null && reference !== null) {
    const part: SqlNames['part'] = (name, id) =>
      name === about.reference ? other.column(REFERRED, id) : (names.part?.(name, id) ?? null);
    const holds = said(tree, table, { ...names, part });
    return sql.raw(
      `(${inlined(reference.sql)} IN (SELECT ${REFERRED}.id FROM ${inlined(other.table)} AS ${REFERRED} WHERE ${holds}))`,
    );
  }
  return sql.raw(said(tree, table, names));
}
const REFERRED = 'referred';

function said(tree: Expression, table: Table, names: SqlNames): string {
  const written = toSql(tree, names);
  // What SQL cannot say was refused when the rule was made.
  if (!written.ok) throw new Error(`a rule of ${table.key} cannot be said in SQL`);
  const [holds, joins] = [inlined(written.value.expression), inlined(written.value.joins)];
  return joins === '' ? `(${holds})` : `(SELECT ${holds} FROM (SELECT 1) AS one${joins})`;
}

/** Whoever asks is asked for by each statement, and the clock is read; retired columns hold what they held. */
function namesFor(table: Table, tables: Tables): SqlNames {
  const whole = { ...table, columns: [...table.columns, ...table.retired] };
  const names = recordNames(whole, tables, table.key, () => undefined, { today: '', now: '' });
  return {
    ...names,
    today: words('CURRENT_DATE'),
    now: words("date_trunc('second', LOCALTIMESTAMP)"),
    name: (id) => (id === ME ? { sql: words('(SELECT slate.asking())') } : names.name(id)),
    part: (name, id) => {
      if (name !== ME) return null;
      if (id === 'groups') return { sql: words('(SELECT slate.my_groups())') };
      return isPersonColumn(id) ? { sql: words(`(SELECT slate.my('${id}'))`) } : null;
    },
  };
}

/** The rules as a function of one record, for whoever asks whether it is within them; none where there are none. */
async function putWithin(tx: Tx, table: Table, tables: Tables, rules: readonly RowRule[]): Promise<void> {
  const name = withinFunction(table);
  await tx.execute(sql`DROP FUNCTION IF EXISTS ${name}(${tableName(table)}, text)`);
  if (rules.length === 0) return;
  const record = sql.identifier(table.key);
  const ways = limitedActions.flatMap((action) => {
    const own = rules.filter((rule) => rule.action === action);
    if (own.length === 0) return [];
    const any = own.map((rule) => sql`(${mayWhere(table, rule)} AND ${demanded(rule.tree, table, tables)})`);
    return [sql`WHEN ${literal(action)} THEN ${sql.join(any, sql` OR `)}`];
  });
  const body = sql`SELECT coalesce(CASE wanted ${sql.join(ways, sql` `)} END, false) FROM (SELECT (found).*) AS ${record}`;
  await tx.execute(
    sql`CREATE FUNCTION ${name}(found ${tableName(table)}, wanted text) RETURNS boolean LANGUAGE sql STABLE AS ${literal(dialect.sqlToQuery(body).sql)}`,
  );
}

const dialect = new PgDialect();
