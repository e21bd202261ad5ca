import { tablesFor, type Catalogue } from '../../core/catalogue/catalogue';
import type { ListData, ListsData, ListUses } from '../../contract/choice-lists';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { usesList } from '../../core/table/choice-list';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { heldCodes } from '../../data/runtime/tables/column-values';
import { listVersions, readList } from '../../data/system/choice-lists';
import { designsInUse, type UsingForm } from '../../data/system/table-changes';
import { asOwner, asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';

const SHOWN = 20;

export async function listLists(context: Context): Promise<Result<ListsData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const uses = await usesBy(tx, catalogue, who.value.id);
    return ok({
      lists: [...catalogue.lists.values()].map((list) => ({ ...list, uses: uses(list.id) })),
    });
  });
}

/** A list with who uses it, what holds each of its choices, and what was changed of it. */
export async function openList(context: Context, id: string): Promise<Result<ListData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  // As the owner role, because every record counts, seen or not; only counts leave, and names of what this person sees.
  return asOwner({ person: who.value.id }, async (tx, catalogue) => {
    const list = await readList(tx, id);
    if (list === null) return fail(notFound('choice list'));
    const versions = await listVersions(tx, id, SHOWN + 1);
    const done = versions.slice(0, SHOWN).map(({ list: was, by, at }, i) => ({
      by,
      at: at.toISOString(),
      list: was,
      before: versions[i + 1]?.list ?? null,
    }));
    return ok({
      list,
      uses: (await usesBy(tx, catalogue, who.value.id))(id),
      held: await heldIn(tx, catalogue, id),
      done,
    });
  });
}

async function usesBy(tx: Tx, catalogue: Catalogue, person: string): Promise<(list: string) => ListUses> {
  const tables = [...catalogue.tables.values()];
  const seen = new Set(tablesFor(catalogue, person, 'see').map(({ id }) => id));
  const forms = await designsInUse(tx, catalogue);
  return (list) => ({
    columns: columnsOf(tables, list).map(({ table, column, retired }) =>
      seen.has(table.id)
        ? { table: table.label, key: table.key, column: column.label, retired }
        : { table: null, key: null, column: column.label, retired },
    ),
    forms: formsOf(forms, list),
  });
}

/** A form stands once: as live, where it is. */
function formsOf(forms: readonly UsingForm[], list: string): ListUses['forms'] {
  const using = forms.filter(({ design }) => usesList(design, list));
  return using
    .filter(({ id }, i) => using.findIndex((one) => one.id === id) === i)
    .map(({ id, title, release }) => ({ id, title, live: release !== null }));
}

export interface UsingColumn {
  readonly table: Table;
  readonly column: Column;
  readonly retired: boolean;
}

export const columnsOf = (tables: readonly Table[], list: string): UsingColumn[] =>
  tables.flatMap((table) => [
    ...table.columns
      .filter((column) => column.list?.id === list)
      .map((column) => ({ table, column, retired: false })),
    ...table.retired
      .filter((column) => column.list?.id === list)
      .map((column) => ({ table, column, retired: true })),
  ]);

async function heldIn(tx: Tx, catalogue: Catalogue, list: string): Promise<Record<string, number>> {
  const held: Record<string, number> = {};
  for (const { table, column } of columnsOf([...catalogue.tables.values()], list))
    for (const { code, rows } of await heldCodes(tx, table, column)) held[code] = (held[code] ?? 0) + rows;
  return held;
}
