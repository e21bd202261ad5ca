import { sql } from 'drizzle-orm';
import type { LinkMapping, RefreshEvery, TableMapping } from '../../core/link/link';
import type { Role } from '../../core/access/rules';
import type { Table } from '../../core/table/model';
import type { Tx } from '../connect';
import { deleteLink, insertLink, readSource, updateLink, type SourceRow } from '../system/links';
import { dropServer, linkSql, lockedSql, moveServer, serverSql, unlinkSql } from './link-sql';
import { finishTables, makeBareTables, readTables } from './tables';

export interface Linking {
  readonly table: Table;
  readonly mapping: LinkMapping;
}

/** Makes the copies of tables or lists outside, and what stands between them and their source; their records come with the first refresh. */
export async function makeLinkedTables(
  tx: Tx,
  source: SourceRow,
  linkings: readonly Linking[],
  every: RefreshEvery,
  seenBy: readonly Role[],
): Promise<void> {
  const made = linkings.map(({ table }) => table);
  const tables = new Map([...(await readTables(tx)), ...made.map((table) => [table.id, table] as const)]);
  await makeBareTables(tx, made, seenBy, 'stamped');
  await finishTables(tx, made, (id) => tables.get(id)?.key ?? '');
  if (source.address.t === 'database' && !(await hasServer(tx, source.id)))
    await tx.execute(serverSql(source.id, source.address));
  for (const { table, mapping } of linkings) {
    await insertLink(tx, { tableId: table.id, sourceId: source.id, mapping, every });
    const statements =
      mapping.t === 'table' ? linkSql({ sourceId: source.id, table, mapping, tables }) : lockedSql(table);
    for (const statement of statements) await tx.execute(statement);
  }
}

/** A linked table whose columns there are others now: what stands between it and its source is made anew. */
export async function relink(
  tx: Tx,
  source: SourceRow,
  tableId: string,
  mapping: TableMapping,
): Promise<void> {
  const tables = await readTables(tx);
  const table = tables.get(tableId);
  if (table === undefined) throw new Error('a link without its table');
  for (const statement of [...unlinkSql(table), ...linkSql({ sourceId: source.id, table, mapping, tables })])
    await tx.execute(statement);
  await updateLink(tx, tableId, { mapping });
}

async function hasServer(tx: Tx, id: string): Promise<boolean> {
  const { rows } = await tx.execute(
    sql`SELECT 1 FROM pg_foreign_server WHERE srvname = ${`source_${id.replaceAll('-', '')}`}`,
  );
  return rows.length > 0;
}

/** The table stays with the records it has, as one of our own. */
export async function unlink(tx: Tx, table: Table): Promise<void> {
  for (const statement of unlinkSql(table)) await tx.execute(statement);
  await deleteLink(tx, table.id);
}

/** Its address is another from now on. */
export async function moveSourceServer(tx: Tx, id: string): Promise<void> {
  const source = await readSource(tx, id);
  if (source?.address.t === 'database' && (await hasServer(tx, id)))
    await tx.execute(moveServer(id, source.address));
}

export async function dropSourceServer(tx: Tx, id: string): Promise<void> {
  if (await hasServer(tx, id)) await tx.execute(dropServer(id));
}
