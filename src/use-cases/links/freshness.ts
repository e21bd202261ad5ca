import type { CopiedFrom } from '../../contract/sheet-from-server';
import type { Freshness } from '../../core/link/link';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { allLinks, linksAmong } from '../../data/system/links';

export const copiedFrom = (fresh: Freshness | undefined): CopiedFrom | null =>
  fresh === undefined
    ? null
    : { source: fresh.source, refreshedAt: fresh.refreshedAt, failing: fresh.fault !== null };

/** How fresh linked tables are, by their ids: of one, or of all. */
export async function freshnessOf(tx: Tx, table: Table | null = null): Promise<Map<string, Freshness>> {
  if (table !== null && table.linked === null) return new Map();
  const links = table === null ? await allLinks(tx) : await linksAmong(tx, [table.id]);
  return new Map(
    links.map(({ link: { tableId, mapping, every, refreshedAt, triedAt, fault, refreshed }, source }) => [
      tableId,
      {
        source: source.label,
        place: source.id,
        every,
        refreshedAt: refreshedAt?.toISOString() ?? null,
        triedAt: triedAt?.toISOString() ?? null,
        fault,
        silentUntil:
          (source.silentUntil?.getTime() ?? 0) > Date.now()
            ? (source.silentUntil?.toISOString() ?? null)
            : null,
        refreshed: refreshed ?? null,
        adds: mapping.t === 'table' && mapping.adds,
        changes: mapping.t === 'table' && mapping.changes,
      },
    ]),
  );
}
