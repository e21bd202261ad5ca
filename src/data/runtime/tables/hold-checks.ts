import { sql, type SQL } from 'drizzle-orm';
import { isAmongRecords, type TableCheck } from '../../../core/check/check';
import { checksOf, isTimeless, readTableCheck, type ReadCheck } from '../../../core/check/table-checks';
import { toSql } from '../../../core/expression/sql/to-sql';
import { inlined } from '../../../core/expression/sql/inline';
import type { TableChange } from '../../../core/table/change';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { checkOfConstraint, constraintName, foreignName, tableName } from '../../identifiers';
import { ownNames } from './form-names';

/** Whether what the database holds of a table's checks must be settled anew: values that are read anew take their constraints with them. */
export const touchesChecks = (changes: readonly TableChange[]): boolean =>
  changes.some(({ t }) => touching.has(t));
const touching: ReadonlySet<TableChange['t']> = new Set([
  'make-table',
  'add-check',
  'change-check',
  'drop-check',
  'convert-column',
  'remove-column',
]);

/**
 * Checks that read nothing but the record, and no clock, are held by the database as well, unless records
 * that are there break them: those stay as they are, and the one writing door asks alone.
 */
export async function holdChecks(tx: Tx, table: Table, tables: ReadonlyMap<string, Table>): Promise<void> {
  if (table.linked !== null) return;
  const name = tableName(table);
  const { rows } = await tx.execute<{ name: string }>(
    sql`SELECT conname AS name FROM pg_constraint WHERE conrelid = ${`records.${table.key}`}::regclass AND contype = 'c'`,
  );
  for (const held of rows.filter((one) => checkOfConstraint(one.name) !== null))
    await tx.execute(sql`ALTER TABLE ${name} DROP CONSTRAINT ${foreignName(held.name)}`);
  for (const one of checksOf(table, new Map(tables).set(table.id, table)).conditions) {
    const holds = heldAs(one, table);
    if (holds === null || (await isBroken(tx, table, holds))) continue;
    await tx.execute(
      sql`ALTER TABLE ${name} ADD CONSTRAINT ${constraintName(one.check, 'check', table)} CHECK (removed_at IS NOT NULL OR (${holds}) IS NOT FALSE)`,
    );
  }
}

/** A check as a condition the database can hold by itself; null where it must look elsewhere, at the clock, or only asks. */
function heldAs({ check, tree, isOwn }: ReadCheck, table: Table): SQL | null {
  if (!isOwn || check.otherwise !== 'stop' || !isTimeless(tree)) return null;
  const written = toSql(tree, ownNames(table));
  return written.ok ? sql.raw(inlined(written.value.expression)) : null;
}

export function isHeldByDatabase(
  check: TableCheck,
  table: Table,
  tables: ReadonlyMap<string, Table>,
): boolean {
  const read = isAmongRecords(check) ? null : readTableCheck(check, table, tables);
  return table.linked === null && read?.ok === true && heldAs(read.value, table) !== null;
}

async function isBroken(tx: Tx, table: Table, holds: SQL): Promise<boolean> {
  const { rows } = await tx.execute(
    sql`SELECT 1 FROM ${tableName(table)} WHERE removed_at IS NULL AND (${holds}) IS FALSE LIMIT 1`,
  );
  return rows.length > 0;
}
