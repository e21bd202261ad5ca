import { sql } from 'drizzle-orm';
import type { LinkMapping, RefreshEvery, TableMapping } from '../../../core/link/link';
import type { Role } from '../../../core/access/rules';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { catalogueNow } from '../../catalogue';
import { deleteLink, insertLink, readSource, updateLink, type SourceRow } from '../../system/links';
import { dropServer, linkSql, lockedSql, moveServer, pinSql, serverSql, unlinkSql } from './link-sql';
import { finishTables, makeBareTables } from '../tables/tables';

export interface Linking {
  readonly table: Table;
  readonly mapping: LinkMapping;
}

/**
 * Makes the copies of tables or lists outside, and what stands between them and their source; their records
 * come with the first refresh.
 */
export async function makeLinkedTables(
  tx: Tx,
  source: SourceRow,
  linkings: readonly Linking[],
  every: RefreshEvery,
  seenBy: readonly Role[],
): Promise<void> {
  const made = linkings.map(({ table }) => table);
  const tables = new Map([
    ...(await catalogueNow(tx)).tables,
    ...made.map((table) => [table.id, table] as const),
  ]);
  await makeBareTables(tx, made, seenBy, 'stamped');
  await finishTables(tx, made, (id) => tables.get(id)?.key ?? '');
  if (source.address.t === 'database' && !(await hasServer(tx, source.id))) {
    await tx.execute(serverSql(source.id, source.address));
    await pinServer(tx, source.id, null);
  }
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
  const { tables } = await catalogueNow(tx);
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

/** Its address is another from now on; `found` is what its host is now, if anybody knows. */
export async function moveSourceServer(tx: Tx, id: string, found: string | null): Promise<void> {
  const source = await readSource(tx, id);
  if (source?.address.t !== 'database' || !(await hasServer(tx, id))) return;
  await tx.execute(moveServer(id, source.address));
  await pinServer(tx, id, found);
}

/** Of all networks none: connecting fails at once. */
const NOWHERE = '255.255.255.255';

/** From now on its host is this address, until it is looked up again; without one, nothing connects to it. */
export async function pinServer(tx: Tx, id: string, address: string | null): Promise<void> {
  const { rows } = await tx.execute<{ pinned: string | null }>(
    sql`SELECT (SELECT option_value FROM pg_options_to_table(srvoptions) WHERE option_name = 'hostaddr') AS pinned FROM pg_foreign_server WHERE srvname = ${`source_${id.replaceAll('-', '')}`}`,
  );
  const pinned = rows[0]?.pinned ?? null;
  const wanted = address ?? NOWHERE;
  if (rows.length > 0 && pinned !== wanted) await tx.execute(pinSql(id, wanted, pinned !== null));
}

export async function dropSourceServer(tx: Tx, id: string): Promise<void> {
  if (await hasServer(tx, id)) await tx.execute(dropServer(id));
}
