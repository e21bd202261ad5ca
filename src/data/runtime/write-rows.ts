import { sql, type SQL } from 'drizzle-orm';
import type { Table } from '../../core/table/model';
import type { ColumnValue, RowToWrite } from '../../core/storage/rows-to-write';
import type { Tx } from '../connect';
import { columnName, stampName, tableName } from '../identifiers';

/** Rows that share one INSERT: fewer round trips, well under PostgreSQL's 65 535 parameters. */
const ROWS_AT_ONCE = 500;

/** The next number of a table's series: locked until the transaction ends. */
export async function nextNumber(tx: Tx, table: string): Promise<string> {
  const { rows } = await tx.execute<{ number: string }>(
    sql`SELECT slate.next_number(${table}::uuid) AS number`,
  );
  const [row] = rows;
  if (row === undefined) throw new Error('a table that is not there was asked for a number');
  return row.number;
}

/** Writes a record and the rows that belong to it. The parent carries `id` and `number`; the rows get theirs from the database. */
export async function writeRows(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  row: RowToWrite,
  parent: { id: string; number: string },
): Promise<void> {
  const table = known(tables, row.table);
  const names = [stampName('id'), stampName('number'), ...namesOf(table, row)];
  const values = [sql`${parent.id}::uuid`, sql`${parent.number}`, ...valuesOf(row)];
  await tx.execute(
    sql`INSERT INTO ${tableName(table)} (${sql.join(names, sql`, `)}) VALUES (${sql.join(values, sql`, `)})`,
  );
  for (const [id, rows] of byTable(row.rows)) await writeChildren(tx, known(tables, id), rows, parent.id);
}

async function writeChildren(
  tx: Tx,
  table: Table,
  rows: readonly RowToWrite[],
  parent: string,
): Promise<void> {
  const [first] = rows;
  if (first === undefined) return;
  const names = [stampName('parent_id'), stampName('position'), ...namesOf(table, first)];
  for (let at = 0; at < rows.length; at += ROWS_AT_ONCE) {
    const lines = rows
      .slice(at, at + ROWS_AT_ONCE)
      .map(
        (row, i) =>
          sql`(${sql.join([sql`${parent}::uuid`, sql`${at + i + 1}::int`, ...valuesOf(row)], sql`, `)})`,
      );
    await tx.execute(
      sql`INSERT INTO ${tableName(table)} (${sql.join(names, sql`, `)}) VALUES ${sql.join(lines, sql`, `)}`,
    );
  }
}

function byTable(rows: readonly RowToWrite[]): Map<string, RowToWrite[]> {
  const groups = new Map<string, RowToWrite[]>();
  for (const row of rows) groups.set(row.table, [...(groups.get(row.table) ?? []), row]);
  return groups;
}

function known(tables: ReadonlyMap<string, Table>, id: string): Table {
  const table = tables.get(id);
  if (table === undefined) throw new Error(`no table ${id}`);
  return table;
}

/** A column the table does not have is a fault: the planner made the table from the same design. */
function namesOf(table: Table, row: RowToWrite): SQL[] {
  return [...row.values.keys()].map((id) => {
    const column = table.columns.find((one) => one.id === id) ?? table.retired.find((one) => one.id === id);
    if (column === undefined) throw new Error(`${table.key} has no column ${id}`);
    return columnName(column);
  });
}

/** Parameters go as text; the type of the column they are written to decides. */
const valuesOf = (row: RowToWrite): SQL[] =>
  [...row.values.values()].map((value: ColumnValue) => sql`${value}`);
