import { may, seenTable, tablesFor } from '../../core/catalogue/catalogue';
import type { TableDesignData, TableDraft } from '../../contract/table-changes';
import { fold } from '../../core/import/cell';
import { limits } from '../../core/limits';
import { readableText } from '../../core/table/convert-column';
import { forbidden, notFound, stale, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { sameJson } from '../../core/kernel/same-json';
import type { Redesign } from '../../core/table/redesign';
import { editable } from '../../core/table/table-change';
import { distinctValues } from '../../data/runtime/tables/column-values';
import { rowsOf } from '../../data/runtime/tables/refill';
import {
  doneChanges,
  insertChange,
  newTableDrafts,
  openChange,
  readChange,
  updateChange,
  type TableChangeRow,
} from '../../data/system/table-changes';
import { asPerson } from '../../data/transaction';
import { designer, type Context } from '../workspace/asking';
import { formsWritingTo } from '../../data/runtime/tables/table-rights';

const SHOWN = 20;

/** A table with what its owner has begun to change of it; `key` null opens a table that is not there yet. */
export async function openTableDesign(
  context: Context,
  key: string | null,
): Promise<Result<TableDesignData, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const tables = tablesFor(catalogue, context.person.id, 'see');
    const table = tables.find((one) => one.key === key) ?? null;
    if (key !== null && table === null) return fail(notFound('table'));
    const draft =
      table === null
        ? ((await newTableDrafts(tx, catalogue, who.value.id))[0] ?? null)
        : await openChange(tx, catalogue, table.id, who.value.id);
    const done = table === null ? [] : await doneChanges(tx, catalogue, table.id, SHOWN);
    return ok({
      table,
      tables,
      lists: [...catalogue.lists.values()],
      records: table === null ? 0 : await rowsOf(tx, table),
      draft: draft === null ? null : asDraft(draft),
      mayDesign: table === null || may(catalogue, context.person.id, 'design', table.id),
      forms: table === null ? [] : await formsWritingTo(tx, table.id),
      done: done.map(({ by, at, base, redesign }) => ({
        by,
        at: at.toISOString(),
        base: base ?? null,
        table: redesign.table,
      })),
    });
  });
}

export const asDraft = ({
  id,
  version,
  state,
  base,
  redesign,
  progress,
  issues,
}: TableChangeRow): TableDraft => ({
  id,
  version,
  state,
  base: base ?? null,
  redesign,
  progress,
  issues: issues ?? [],
});

export async function readTableChange(context: Context, id: string): Promise<Result<TableDraft, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readChange(tx, catalogue, id);
    return row === null || row.personId !== context.person.id ? fail(notFound('change')) : ok(asDraft(row));
  });
}

/** Keeps what its owner wants of a table; nothing of the table changes yet. */
export async function saveTableChange(
  context: Context,
  id: string,
  input: { version: number; base: number; redesign: Redesign },
): Promise<Result<{ version: number }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const there = catalogue.tables.get(input.redesign.table.id) ?? null;
    if (there !== null && !may(catalogue, context.person.id, 'see', there.id)) return fail(forbidden('see'));
    if (there !== null && !may(catalogue, context.person.id, 'design', there.id))
      return fail(forbidden('design-table'));
    if ((there?.version ?? 0) < input.base) return fail(stale('change-changed'));
    const row = await readChange(tx, catalogue, id, true);
    if (row === null) {
      if ((there?.version ?? 0) !== input.base) return fail(stale('table-changed'));
      const made = await insertChange(tx, {
        id,
        tableId: input.redesign.table.id,
        personId: who.value.id,
        base: there,
        redesign: input.redesign,
      });
      return made ? ok({ version: 1 }) : fail(stale('change-changed'));
    }
    if (row.personId !== who.value.id) return fail(notFound('change'));
    if (!editable.has(row.state)) return fail(stale('change-ended'));
    if (row.version !== input.version || row.tableId !== input.redesign.table.id)
      return sameJson(row.redesign, input.redesign)
        ? ok({ version: row.version })
        : fail(stale('change-changed'));
    // Drawn on a newer table than before: from now on that is what it changes.
    await updateChange(tx, id, {
      redesign: input.redesign,
      state: 'draft',
      issues: null,
      ...(there !== null && there.version === input.base && { base: there }),
    });
    return ok({ version: row.version + 1 });
  });
}

export async function dropTableChange(context: Context, id: string): Promise<Result<null, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const row = await readChange(tx, catalogue, id, true);
    if (row === null || row.personId !== context.person.id) return fail(notFound('change'));
    if (row.state === 'dropped') return ok(null);
    if (!editable.has(row.state)) return fail(stale('change-ended'));
    await updateChange(tx, id, { state: 'dropped' });
    return ok(null);
  });
}

/** What the records hold in a column, the most frequent first, as far as that could be a list of choices. */
export async function readColumnValues(
  context: Context,
  key: string,
  id: string,
): Promise<Result<{ values: string[]; more: boolean }, Refusal>> {
  const who = designer(context);
  if (!who.ok) return who;
  return asPerson({ person: who.value.id }, async (tx, catalogue) => {
    const table = seenTable(catalogue, context.person.id, key);
    const column = table?.columns.find((one) => one.id === id);
    if (table === null || column === undefined) return fail(notFound('table'));
    const show = readableText(column, (record) => record);
    const found = (await distinctValues(tx, table, column, limits.choices + 1)).flatMap(({ value }) =>
      value === null || value.trim() === '' ? [] : [show(value).trim()],
    );
    const values = found.filter((text, i) => found.findIndex((one) => fold(one) === fold(text)) === i);
    return ok({ values: values.slice(0, limits.choices), more: found.length > limits.choices });
  });
}
