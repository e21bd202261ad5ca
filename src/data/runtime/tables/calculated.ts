import { sql } from 'drizzle-orm';
import { toSql } from '../../../core/expression/sql/to-sql';
import { inlined } from '../../../core/expression/sql/inline';
import { sql as fragment, words } from '../../../core/expression/sql/fragment';
import type { SqlNames } from '../../../core/expression/sql/names';
import { readFormula, tablesInFormulas } from '../../../core/record/formulas';
import { workedOutOfRestricted } from '../../../core/record/restricted';
import { rowsNamed } from '../../../core/record/table-scope';
import { kinds } from '../../../core/table/kinds/list';
import { isCalculated, isGuarded, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { calculatedName, tableName } from '../../identifiers';
import { literal } from './literal';
import { ownNames, recordNames } from './form-names';
import { alsoRestrict, letGoOfShown, settleShown } from './shown';

type Tables = ReadonlyMap<string, Table>;

/**
 * A calculated column is a function of its record: PostgreSQL reads `t.in_stock` as one where `t` has no such
 * column, so that whatever names a column can name it too. What needs nothing but the record it writes into
 * the statement; the rest it works out record by record.
 */
export async function settleFormulas(tx: Tx, changed: readonly Table[], tables: Tables): Promise<void> {
  const ids = new Set(changed.map(({ id }) => id));
  const seen = await asTheyAreSeen(tx, tables);
  const touched = [...seen.values()].filter(
    (table) =>
      ids.has(table.id) ||
      (table.columns.some(isCalculated) && reads(table, tables).some((id) => ids.has(id))),
  );
  for (const table of touched) await makeFormulas(tx, table, seen);
}

/**
 * They are asked by whoever reads the record, and look at other tables as those do. What is worked out of
 * something restricted is restricted from now on, if it was not.
 */
async function asTheyAreSeen(tx: Tx, tables: Tables): Promise<Tables> {
  const more = workedOutOfRestricted(tables);
  for (const [id, columns] of more) await alsoRestrict(tx, id, [...columns]);
  return new Map(
    [...tables].map(
      ([id, table]) =>
        [id, { ...table, guarded: (isGuarded(table) || more.has(id)) && ('partly' as const) }] as const,
    ),
  );
}

async function makeFormulas(tx: Tx, table: Table, tables: Tables): Promise<void> {
  await letGoOfShown(tx, table.id);
  await dropFormulas(tx, table);
  for (const column of table.columns.filter(isCalculated)) await makeFormula(tx, column, table, tables);
  // Retired ones are still there for forms that read them, as long as what they read is.
  for (const column of table.retired.filter(isCalculated))
    if (readFormula(column, table, tables).ok) await makeFormula(tx, column, table, tables);
  await settleShown(tx, table.id);
}

const reads = (table: Table, tables: Tables): string[] => [...tablesInFormulas(table, tables)];

async function dropFormulas(tx: Tx, table: Table): Promise<void> {
  const { rows } = await tx.execute<{ name: string }>(sql`
    SELECT p.proname AS name FROM pg_proc p JOIN pg_type t ON t.oid = p.proargtypes[0] JOIN pg_class c ON c.oid = t.typrelid
    WHERE p.pronamespace = 'calculated'::regnamespace AND c.relname = ${table.key} AND c.relnamespace = 'records'::regnamespace`);
  for (const { name } of rows)
    await tx.execute(sql`DROP FUNCTION ${calculatedName({ key: name })}(${tableName(table)})`);
}

async function makeFormula(tx: Tx, column: Column, table: Table, tables: Tables): Promise<void> {
  const read = readFormula(column, table, tables);
  const clock = { today: words('CURRENT_DATE'), now: words("date_trunc('second', LOCALTIMESTAMP)") };
  const beside = recordNames(table, tables, 't', (id) => rowsNamed(id, tables), { today: '', now: '' });
  const say = (names: SqlNames) => {
    const written = read.ok ? toSql(read.value, { ...names, ...clock }) : null;
    // What cannot be read or said was refused when the column was designed.
    if (written?.ok !== true) throw new Error(`the formula of ${column.key} cannot be said in SQL`);
    return { value: inlined(written.value.expression), joins: inlined(written.value.joins) };
  };
  const { value, joins } = say(beside);
  const body =
    joins === ''
      ? `SELECT (${say(ofRecord(table)).value})`
      : `SELECT (${value}) FROM (SELECT (r).*) AS t ${joins}`;
  await tx.execute(
    sql`CREATE FUNCTION ${calculatedName(column)}(r ${tableName(table)}) RETURNS ${sql.raw(resultType(column))} LANGUAGE sql STABLE AS ${literal(body)}`,
  );
}

/** The columns of the record that the function is asked about. */
const ofRecord = (table: Table): SqlNames => ({
  ...ownNames(table),
  name: (id) => {
    const found = ownNames(table).name(id);
    return found === null ? null : { ...found, sql: fragment`(r).${found.sql}` };
  },
});

/** A number too large for a column must not keep its record from being read, so numbers have no size. */
const resultType = (column: Column): string =>
  kinds[column.kind].type.t === 'number' ? 'numeric' : kinds[column.kind].columnType(column);
