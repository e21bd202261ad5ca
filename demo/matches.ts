import { ok } from '../src/core/kernel/result';
import { setMatch } from '../src/core/table/edit';
import type { Table } from '../src/core/table/model';
import { asOwner } from '../src/data/transaction';
import { saveTableChange } from '../src/use-cases/tables/design-table';
import { runTableChange } from '../src/use-cases/tables/change-table';
import type { Context } from '../src/use-cases/workspace/asking';
import { must } from './must';
import { taxa } from './tables';

/** What the outside tables hold about each taxon is shown beside it, where those tables are. */
export async function matchTaxa(context: Context): Promise<void> {
  const tables = await must(asOwner({ person: '' }, (_, catalogue) => Promise.resolve(ok(catalogue.tables))));
  const now = tables.get(taxa.id) ?? taxa;
  const byKey = (key: string): Table | undefined => [...tables.values()].find((one) => one.key === key);
  const table = [
    matched('mnames', byKey('plant_names'), 'name'),
    matched('mlots', byKey('lots'), 'taxon'),
  ].reduce((all, match) => (match === null ? all : setMatch(all, match)), now);
  if (table === now) return;
  const id = crypto.randomUUID();
  const redesign = { table, readings: {}, mends: {} };
  const { version } = await must(saveTableChange(context, id, { version: 0, base: now.version, redesign }));
  await must(runTableChange(context, id, { version }));
}

function matched(id: string, other: Table | undefined, key: string) {
  const from = taxa.columns[0]?.id ?? '';
  const to = other?.columns.find((column) => column.key === key)?.id;
  return other === undefined || to === undefined ? null : { id, from, table: other.id, to };
}
