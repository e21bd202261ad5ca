import { eq, inArray, isNull, or, sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { link, source } from './schema';

export type SourceRow = typeof source.$inferSelect;
export type LinkRow = typeof link.$inferSelect;

export async function readSources(tx: Tx): Promise<SourceRow[]> {
  return tx.select().from(source).orderBy(source.label);
}

/** With `lock`, nobody else changes it until the transaction ends. */
export async function readSource(tx: Tx, id: string, lock = false): Promise<SourceRow | null> {
  const query = tx.select().from(source).where(eq(source.id, id));
  return (await (lock ? query.for('update') : query))[0] ?? null;
}

export async function insertSource(
  tx: Tx,
  row: Pick<SourceRow, 'id' | 'label' | 'address' | 'secret'>,
): Promise<boolean> {
  return (
    (await tx.insert(source).values(row).onConflictDoNothing().returning({ id: source.id })).length === 1
  );
}

export async function updateSource(
  tx: Tx,
  id: string,
  change: Partial<Pick<SourceRow, 'label' | 'address' | 'secret'>>,
): Promise<void> {
  await tx
    .update(source)
    .set({
      ...change,
      updatedAt: sql`now()`,
      version: sql`${source.version} + 1`,
      failures: 0,
      silentUntil: null,
    })
    .where(eq(source.id, id));
}

export async function deleteSource(tx: Tx, id: string): Promise<void> {
  await tx.delete(source).where(eq(source.id, id));
}

export async function linksOf(tx: Tx, sourceId: string): Promise<LinkRow[]> {
  return tx.select().from(link).where(eq(link.sourceId, sourceId));
}

export async function readLinks(tx: Tx): Promise<LinkRow[]> {
  return tx.select().from(link);
}

export async function readLink(
  tx: Tx,
  tableId: string,
): Promise<{ link: LinkRow; source: SourceRow } | null> {
  const [row] = await tx
    .select()
    .from(link)
    .innerJoin(source, eq(source.id, link.sourceId))
    .where(eq(link.tableId, tableId));
  return row ?? null;
}

export async function allLinks(tx: Tx): Promise<{ link: LinkRow; source: SourceRow }[]> {
  return tx.select().from(link).innerJoin(source, eq(source.id, link.sourceId));
}

/** Of these tables, those whose records come from elsewhere. */
export async function linksAmong(
  tx: Tx,
  tables: readonly string[],
): Promise<{ link: LinkRow; source: SourceRow }[]> {
  if (tables.length === 0) return [];
  return tx
    .select()
    .from(link)
    .innerJoin(source, eq(source.id, link.sourceId))
    .where(inArray(link.tableId, [...tables]));
}

export async function insertLink(
  tx: Tx,
  row: Pick<LinkRow, 'tableId' | 'sourceId' | 'mapping' | 'every'>,
): Promise<void> {
  await tx.insert(link).values(row);
}

export async function updateLink(
  tx: Tx,
  tableId: string,
  change: Partial<Pick<LinkRow, 'every' | 'mapping' | 'refreshedAt' | 'triedAt' | 'fault' | 'refreshed'>>,
): Promise<void> {
  await tx.update(link).set(change).where(eq(link.tableId, tableId));
}

export async function deleteLink(tx: Tx, tableId: string): Promise<void> {
  await tx.delete(link).where(eq(link.tableId, tableId));
}

/** Those whose time has come again. */
export async function dueLinks(tx: Tx): Promise<string[]> {
  const rows = await tx
    .select({ id: link.tableId })
    .from(link)
    .where(
      or(
        isNull(link.triedAt),
        sql`${link.triedAt} + make_interval(mins => ${link.every}) <= now() + interval '5 seconds'`,
      ),
    );
  return rows.map(({ id }) => id);
}

export async function askRefreshJob(tx: Tx, tableId: string): Promise<void> {
  await tx.execute(sql`SELECT slate.ask_refresh_job(${tableId}::uuid)`);
}

/** Whether another database can be reached from this one. */
export async function reachesOthers(tx: Tx): Promise<boolean> {
  const { rows } = await tx.execute<{ may: boolean }>(
    sql`SELECT EXISTS (SELECT 1 FROM pg_foreign_data_wrapper WHERE fdwname = 'postgres_fdw' AND has_foreign_data_wrapper_privilege((SELECT nspowner FROM pg_namespace WHERE nspname = 'slate'), oid, 'USAGE')) AS may`,
  );
  return rows[0]?.may === true;
}
