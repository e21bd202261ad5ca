import { tablesFor } from '../../core/catalogue/catalogue';
import type { TablePicture, TablesData } from '../../contract/answers-from-server';
import { mayDesign } from '../../core/access/rules';
import { ok, type Result } from '../../core/kernel/result';
import { type Refusal } from '../../core/kernel/refusal';
import type { Table } from '../../core/table/model';
import { recordCounts, type RecordCount } from '../../data/runtime/records/record-counts';
import { readReferences } from '../../data/runtime/tables/references';
import { asPerson } from '../../data/transaction';
import { copiedFrom, freshnessOf } from '../links/freshness';
import type { Context } from '../workspace/asking';

export async function listTables(context: Context): Promise<Result<TablesData, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const seen = tablesFor(catalogue, context.person.id, 'see');
    const counts = await recordCounts(tx, seen);
    const fresh = await freshnessOf(tx);
    return ok({
      tables: seen.map((table) => ({
        id: table.id,
        key: table.key,
        label: table.label,
        columns: table.columns.length,
        ...countOf(counts, table),
        parent: catalogue.tables.get(table.parent ?? '')?.label ?? null,
        linked: copiedFrom(fresh.get(table.id)),
      })),
      mayImport: mayDesign(context.person),
    });
  });
}

/** The tables this person may see and how they refer to one another, from the foreign keys there are. */
export async function readTablePicture(context: Context): Promise<Result<TablePicture, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const seen = tablesFor(catalogue, context.person.id, 'see');
    const counts = await recordCounts(tx, seen);
    const byKey = new Map(seen.map((table) => [table.key, table]));
    return ok({
      tables: seen.map((table) => ({
        key: table.key,
        label: table.label,
        ...countOf(counts, table),
        columns: table.columns.length,
        title: table.columns.filter(({ id }) => table.title.includes(id)).map(({ label }) => label),
      })),
      references: (await readReferences(tx))
        .filter(({ from, to }) => byKey.has(from) && byKey.has(to))
        .map(({ from, to, column }) => ({
          from,
          to,
          label:
            column === 'parent_id'
              ? 'rows of'
              : (byKey.get(from)?.columns.find(({ key }) => key === column)?.label ?? column),
        })),
    });
  });
}

export const countOf = (counts: ReadonlyMap<string, RecordCount>, { id }: Table): RecordCount =>
  counts.get(id) ?? { records: 0, about: false };
