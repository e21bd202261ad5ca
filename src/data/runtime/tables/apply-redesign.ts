import type { Role } from '../../../core/access/rules';
import { columnOf, type TableChange } from '../../../core/table/change';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { catalogueNow } from '../../catalogue';
import { settleFormulas } from './calculated';
import { holdChecks, touchesChecks } from './hold-checks';
import { addFilledColumn, addUnique, changeSql, dressColumn } from './change-sql';
import { swapShadows, type Refill } from './refill';
import { loosenRules, settleRules } from './row-rules';
import { noteTable } from './tables';

/** A change of one table, ready to be carried out. */
export interface Applying {
  readonly before: Table | null;
  readonly after: Table;
  readonly changes: readonly TableChange[];
  readonly refills: readonly Refill[];
  /** By column id: what records there are get in a column that is added. */
  readonly filled: ReadonlyMap<string, string>;
  /** Those of `uniqueSets`, by `setKey`, whose indexes were built beforehand. */
  readonly built: ReadonlySet<string>;
}

export const setKey = (set: readonly string[]): string => [...set].sort().join();

/** The sets of columns whose values must be held against each other anew, by id. */
export function uniqueSets({
  before,
  after,
  changes,
  refills,
}: Pick<Applying, 'before' | 'after' | 'changes' | 'refills'>): (readonly string[])[] {
  if (before === null) return [];
  const refilled = new Set(refills.map(({ column }) => column.id));
  // What hangs on a column that is filled anew goes with the old one.
  const lost = [
    ...after.columns.filter(({ id, unique }) => unique && refilled.has(id)).map(({ id }) => [id]),
    ...after.together.filter((set) => set.some((id) => refilled.has(id))),
  ];
  const wanted = changes.flatMap((change): (readonly string[])[] =>
    change.t === 'keep-apart' ? [change.columns] : change.t === 'make-unique' ? [[change.column.id]] : [],
  );
  const names = new Set<string>();
  return [...lost, ...wanted].filter((set) => !names.has(setKey(set)) && names.add(setKey(set)));
}

/** The tables and what is known of them, from old to new; values that had to be read anew stand ready beside the old ones. */
export async function applyRedesign(
  tx: Tx,
  applying: Applying,
  tables: ReadonlyMap<string, Table>,
  seenBy: readonly Role[],
): Promise<void> {
  const keyOf = (id: string): string =>
    (id === applying.after.id ? applying.after : tables.get(id))?.key ?? '';
  const { before, after, changes, refills, filled, built } = applying;
  const refilled = new Set(refills.map(({ column }) => column.id));
  const relying = await loosenRules(tx, await catalogueNow(tx), [after.id]);
  for (const change of changes) {
    const column = columnOf(change);
    if (
      change.t === 'keep-apart' ||
      change.t === 'make-unique' ||
      (column !== null && refilled.has(column.id))
    )
      continue;
    const value = change.t === 'add-column' ? filled.get(change.column.id) : undefined;
    const statements =
      change.t === 'add-column' && value !== undefined
        ? addFilledColumn(change.column, after, value, keyOf)
        : changeSql(change, keyOf);
    for (const statement of statements) await tx.execute(statement);
  }
  await swapShadows(tx, after, refills);
  for (const { column } of refills)
    for (const statement of dressColumn(column, after)) await tx.execute(statement);
  for (const set of uniqueSets(applying)) await tx.execute(addUnique(set, after, built.has(setKey(set))));
  await noteTable(tx, after, before, seenBy);
  await settleRules(tx, await catalogueNow(tx), relying);
  await settleFormulas(tx, [after], new Map(tables).set(after.id, after));
  if (touchesChecks(changes)) await holdChecks(tx, after, tables);
}
