import { seenTable } from '../../core/catalogue/catalogue';
import type { SavedEdits } from '../../contract/record-edits';
import { grouped } from '../../core/kernel/grouped';
import { notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import type { RecordEdit } from '../../core/record/edit';
import { asInput, type EditInput } from '../../core/record/edit-input';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { lastPositions } from '../../data/runtime/records/records';
import { asPerson } from '../../data/transaction';
import { once } from '../workspace/once';
import type { Context } from '../workspace/asking';
import { applyEdits } from './apply-edits';

/** Adds, changes and removes records of a table outside any form: all of a batch, or nothing of it. */
export async function saveEdits(
  context: Context,
  tableKey: string,
  { key, edits }: { readonly key: string; readonly edits: readonly EditInput[] },
): Promise<Result<SavedEdits, Refusal>> {
  const person = context.person.id;
  return asPerson({ person }, async (tx, catalogue) => {
    const table = seenTable(catalogue, person, tableKey);
    if (table === null) return fail(notFound('table'));
    return once(tx, context, key, { operation: 'save-edits', of: table.id, said: edits }, async () => {
      const applied = await applyEdits(tx, catalogue, { edits: await placed(tx, table, edits), person });
      if (!applied.ok) return applied;
      const { versions, inverse } = applied.value;
      return ok({ versions: Object.fromEntries(versions), undo: inverse.map(asInput) });
    });
  });
}

/** The edits of one table; rows that are added stand behind those their record has, in the order they come. */
async function placed(tx: Tx, table: Table, edits: readonly EditInput[]): Promise<RecordEdit[]> {
  const parents = edits.flatMap((edit) => (edit.t === 'add' && edit.parent !== null ? [edit.parent] : []));
  const last = table.parent === null ? new Map<string, number>() : await lastPositions(tx, table, parents);
  const before = new Map([...grouped(parents, (id) => id)].map(([id]) => [id, last.get(id) ?? 0]));
  return edits.map((edit): RecordEdit => {
    if (edit.t !== 'add') return { ...edit, table: table.id };
    const { parent, ...added } = edit;
    const position = (before.get(parent ?? '') ?? 0) + 1;
    if (parent !== null) before.set(parent, position);
    return {
      ...added,
      table: table.id,
      number: null,
      parent: parent === null ? null : { id: parent, position },
    };
  });
}
