import { sql } from 'drizzle-orm';
import type { LinkMapping, Refreshed, TableMapping } from '../../../core/link/link';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { outsideTable } from '../../identifiers';
import type { CopyInto } from '../../transaction';
import { readColumn } from './link-sql';
import {
  bringBack,
  makeStage,
  mergeRows,
  stagedColumns,
  stageRows,
  takeAway,
  type Merging,
  type StagedRow,
} from '../imports/merge-rows';

/** The columns of a linked table that come from its source, in the order of its mapping. */
export const linkedColumns = (table: Table, mapping: LinkMapping): Column[] =>
  mapping.columns.flatMap(
    ({ column }) => [...table.columns, ...table.retired].find(({ id }) => id === column) ?? [],
  );

/** Reads a table of another database beside its copy; the source must be open. */
export async function stageFromTable(
  tx: Tx,
  table: Table,
  mapping: TableMapping,
  tables: ReadonlyMap<string, Table>,
): Promise<void> {
  const columns = linkedColumns(table, mapping);
  await makeStage(tx, { columns });
  const values = mapping.columns.flatMap((one) =>
    columns.filter(({ id }) => id === one.column).map((column) => readColumn(one, column, tables)),
  );
  await tx.execute(
    sql`INSERT INTO pg_temp.bringing (${stagedColumns(columns)}) SELECT row_number() OVER (), slate.uuid_v7(), ${sql.join(values, sql`, `)} FROM ${outsideTable(table)} AS f`,
  );
  await tx.execute(sql`ANALYZE pg_temp.bringing`);
}

/** The entries of a list that was read elsewhere. */
export async function stageEntries(
  tx: Tx,
  copy: CopyInto,
  table: Table,
  mapping: LinkMapping,
  rows: AsyncIterable<readonly StagedRow[]>,
): Promise<void> {
  await stageRows(tx, copy, { columns: linkedColumns(table, mapping) }, rows);
}

/**
 * Makes the copy what was read: what is new is added, what differs changed, what is there no more taken away.
 * Untouched records stay untouched.
 */
export async function takeIn(tx: Tx, table: Table, mapping: LinkMapping): Promise<Refreshed> {
  const merging: Merging = {
    checks: null,
    table,
    columns: linkedColumns(table, mapping),
    trying: false,
    into: { table: table.id, by: mapping.by, columns: {}, blanks: 'empty', what: 'add-and-change' },
  };
  // It is the source that writes: nothing is sent back to it.
  await tx.execute(sql`SELECT set_config('slate.filling', 'refreshing', true)`);
  const back = await bringBack(tx, merging);
  const { merged, refused } = await mergeRows(tx, merging);
  const gone = await takeAway(tx, merging);
  await tx.execute(sql`SELECT set_config('slate.filling', '', true)`);
  return {
    added: merged.added + back,
    changed: merged.changed,
    same: merged.same,
    gone,
    misfits: refused.length,
  };
}
