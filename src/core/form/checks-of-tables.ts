import { isAmongRecords, type Check } from '../check/check';
import { read } from '../expression/read';
import { storedScope } from '../expression/stored-text';
import { dependencies, type Expression } from '../expression/tree';
import type { Scope } from '../expression/type';
import { writtenOut } from '../record/formulas';
import { rowsName, tableScope } from '../record/table-scope';
import type { Table } from '../table/model';
import { groupsIn, groupsOf, questionsOf, totalsBeside, type FormDesign, type RowsQuestion } from './design';
import { scopeOf, type TablesById } from './scope';

/** A check of a table that a form writes to, as it is asked in the form: `on` is one of its questions. */
export interface CheckOfTable {
  readonly check: Check;
  readonly tree: Expression;
  readonly group: RowsQuestion | null;
  readonly table: Table;
}

/**
 * The checks of the tables a form writes to, as far as its answers can tell them: nobody writes them into the
 * form again. What reads columns that the form does not ask for is told when the record is written.
 */
export function checksOfTables(design: FormDesign, tables: TablesById): CheckOfTable[] {
  return [null, ...groupsOf(design)].flatMap((group) => {
    const table = tables.get((group ?? design).table.id);
    if (table === undefined || table.checks.length === 0) return [];
    const scope = answersAsColumns(design, tables, group);
    const own = group?.columns ?? questionsOf(design);
    const lines = [...own, ...(group === null ? [] : groupsIn(design, group))].map(({ id }) => id);
    return table.checks.flatMap((check): CheckOfTable[] => {
      if (isAmongRecords(check)) return [];
      const tree = read(writtenOut(check.must, table, tableScope(table, tables)), scope);
      if (!tree.ok || tree.value.type.t !== 'yes-no') return [];
      const reads = dependencies(tree.value);
      const on = lines.includes(check.on) ? check.on : lines.find((id) => reads.has(id));
      return on === undefined ? [] : [{ check: { ...check, on }, tree: tree.value, group, table }];
    });
  });
}

/** The answers of a form under the names by which checks of its table call the columns they are kept in. */
function answersAsColumns(design: FormDesign, tables: TablesById, group: RowsQuestion | null): Scope {
  const inRow = new Set([...(group?.columns ?? []), ...totalsBeside(design, group)].map(({ id }) => id));
  const all = storedScope(scopeOf(design, tables, group ?? undefined));
  const own = [...all].filter(([id]) => (group === null ? true : inRow.has(id)));
  return new Map([
    ...own,
    ...groupsIn(design, group).flatMap(({ id, table }) => {
      const field = all.get(id);
      return field === undefined ? [] : [[rowsName(table.id), field] as const];
    }),
  ]);
}

/** The ids of all checks whose reasons may be given in a form: its own, and those of its tables. */
export const checksIn = (design: FormDesign, tables: TablesById): ReadonlySet<string> =>
  new Set(
    [
      ...design.checks,
      ...[design, ...groupsOf(design)].flatMap(({ table }) => tables.get(table.id)?.checks ?? []),
    ].map(({ id }) => id),
  );
