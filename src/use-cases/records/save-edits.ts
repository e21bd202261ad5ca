import { may, type Catalogue } from '../../core/catalogue/catalogue';
import type { SavedEdits } from '../../contract/record-edits';
import { grouped } from '../../core/kernel/grouped';
import { issue, type Issue } from '../../core/kernel/issue';
import { invalid, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { RecordEdit } from '../../core/record/edit';
import { asInput, type EditInput } from '../../core/record/edit-input';
import type { GivenReason } from '../../core/record/own-checks';
import { worldAt } from '../../core/workspace';
import type { Column, Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { lastPositions } from '../../data/runtime/records/records';
import { asPerson } from '../../data/transaction';
import { once } from '../workspace/once';
import { localTime, type Context } from '../workspace/asking';
import { applyEdits } from './apply-edits';

/** Adds, changes and removes records outside any form: all of a batch, or nothing of it. */
export async function saveEdits(
  context: Context,
  {
    key,
    edits,
    reasons = [],
  }: {
    readonly key: string;
    readonly edits: readonly EditInput[];
    readonly reasons?: readonly GivenReason[];
  },
): Promise<Result<SavedEdits, Refusal>> {
  return asPerson({ person: context.person.id }, async (tx, catalogue) => {
    const refused = refusedEdits(catalogue, context, edits);
    if (refused !== null) return fail(refused);
    return once(
      tx,
      context,
      key,
      { operation: 'save-edits', of: '', said: reasons.length === 0 ? edits : { edits, reasons } },
      () => editsSaved(tx, catalogue, context, edits, reasons),
    );
  });
}

/** Why edits are not even tried: tables that are not seen, and columns nobody writes here. */
export function refusedEdits(
  catalogue: Catalogue,
  { person }: Context,
  edits: readonly EditInput[],
): Refusal | null {
  if (edits.some(({ table }) => !may(catalogue, person.id, 'see', table))) return notFound('table');
  const fixed = intoFixed(catalogue.tables, edits);
  return fixed.length > 0 ? invalid(...fixed) : null;
}

/** Saves them within a transaction that is there already. */
export async function editsSaved(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  edits: readonly EditInput[],
  reasons: readonly GivenReason[],
): Promise<Result<SavedEdits, Refusal>> {
  const all = await placed(tx, catalogue.tables, edits);
  const world = worldAt(catalogue.workspace, localTime(catalogue.workspace, context.now));
  const applied = await applyEdits(tx, catalogue, { edits: all, person: context.person.id, world, reasons });
  if (!applied.ok) return applied;
  const { versions, inverse } = applied.value;
  return ok({ versions: Object.fromEntries(versions), undo: inverse.map(asInput) });
}

/**
 * What is written into columns that are shown no more, where only submissions on an older release still
 * write, or that forms and imports alone fill.
 */
const intoFixed = (tables: ReadonlyMap<string, Table>, edits: readonly EditInput[]): Issue[] =>
  edits.flatMap((edit) => {
    const table = tables.get(edit.table);
    if (table === undefined || !('values' in edit)) return [];
    const written = (columns: readonly Column[]): Column[] => columns.filter(({ id }) => id in edit.values);
    return [
      ...written(table.retired).map(({ id, label }) =>
        issue('unknown-column', [edit.id, id], { name: label }),
      ),
      ...written(table.columns.filter(({ locked }) => locked)).map(({ id, label }) =>
        issue('column-locked', [edit.id, id], { label }),
      ),
    ];
  });

/** Rows that are added stand behind those their record has, in the order they come. */
async function placed(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  edits: readonly EditInput[],
): Promise<RecordEdit[]> {
  const last = new Map<string, number>();
  const rows = edits.flatMap((edit) =>
    edit.t === 'add' && edit.parent !== null ? [{ table: edit.table, parent: edit.parent }] : [],
  );
  for (const [id, own] of grouped(rows, ({ table }) => table)) {
    const table = tables.get(id);
    if (table === undefined || table.parent === null) continue;
    const parents = own.map(({ parent }) => parent);
    for (const [parent, position] of await lastPositions(tx, table, parents))
      last.set(`${id} ${parent}`, position);
  }
  return edits.map((edit): RecordEdit => {
    if (edit.t !== 'add') return edit;
    const { parent } = edit;
    if (parent === null) return { ...edit, number: null, parent: null };
    const place = `${edit.table} ${parent}`;
    const position = (last.get(place) ?? 0) + 1;
    last.set(place, position);
    return { ...edit, number: null, parent: { id: parent, position } };
  });
}
