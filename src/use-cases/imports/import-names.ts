import {
  namedBeforeMade,
  namesFor,
  type ImportPlan,
  type PlannedColumn,
  type PlannedTable,
} from '../../core/import/import-plan';
import { fold } from '../../core/import/cell';
import { eachName } from '../../core/import/named-cells';
import type { RowSpan } from '../../core/import/row-span';
import type { RowMaker } from '../../core/import/rows';
import type { Table } from '../../core/table/model';
import type { Tx } from '../../data/connect';
import { readNames } from '../../data/runtime/tables/table-keys';
import type { Reopen } from '../../files/again';

/** Records by what names them, as hashes without case, spaces and accents: by the column they are looked up in. */
export type Names = Map<string, Map<number, string>>;

/** The sheets of an import, and which rows of each are records. */
export interface Sheets {
  readonly plan: ImportPlan;
  readonly reopen: Reopen;
  readonly spanOf: (sheet: string) => RowSpan;
}

/** The records of tables there are that rows of new tables name. Only those are held, however many there are. */
export async function recordsThere(
  tx: Tx,
  sheets: Sheets,
  there: ReadonlyMap<string, Table>,
): Promise<Names> {
  const found: Names = new Map();
  const named = sheets.plan.tables
    .filter(({ into }) => into === null)
    .flatMap(({ sheet, columns }) => columns.map((column) => ({ sheet, column })));
  for (const {
    column: { finds },
  } of named) {
    const table = there.get(finds?.table ?? '');
    const column = table?.columns.find(({ id }) => id === finds?.column);
    if (table === undefined || column === undefined || found.has(column.id)) continue;
    const wanted = await wantedOf(
      sheets,
      named.filter((one) => one.column.finds?.column === column.id),
    );
    found.set(column.id, await readNames(tx, table, column, wanted));
  }
  return found;
}

/** The same for rows that come into a table there is: by whatever names a record, those this import has just added among them. */
export async function namesThere(
  tx: Tx,
  sheets: Sheets,
  { sheet, columns }: PlannedTable,
  tables: ReadonlyMap<string, Table>,
  found: Names,
): Promise<void> {
  for (const column of columns) {
    const target = tables.get(column.finds?.table ?? '');
    if (column.finds !== null && target !== undefined)
      found.set(
        column.finds.column,
        await readNames(
          tx,
          target,
          null,
          await wantedOf(
            sheets,
            columns
              .filter(({ finds }) => finds?.column === column.finds?.column)
              .map((one) => ({ sheet, column: one })),
          ),
        ),
      );
  }
}

async function wantedOf(
  { reopen, spanOf }: Sheets,
  named: readonly { readonly sheet: string; readonly column: PlannedColumn }[],
): Promise<Set<number>> {
  const wanted = new Set<number>();
  for (const { sheet, column } of named)
    for await (const some of reopen(sheet))
      eachName(some, spanOf(sheet), column.at, (_, hash) => wanted.add(hash));
  return wanted;
}

/** Notes what rows go by that others name before they are made, and makes records for what is named and not there, where that was said. */
export async function noteNames(
  { plan, reopen, spanOf }: Sheets,
  makers: ReadonlyMap<PlannedTable, RowMaker>,
  found: Names,
): Promise<void> {
  const early = namedBeforeMade(plan);
  for (const one of early)
    for await (const some of reopen(one.sheet)) makers.get(one)?.names(some, spanOf(one.sheet));
  for (const one of early)
    for (const { column } of one.columns) {
      const missing = new Map<number, string>();
      for (const { sheet, at, empty } of namesFor(plan, column.id))
        for await (const some of reopen(sheet))
          eachName(some, spanOf(sheet), at, (text, hash) => {
            if (
              found.get(column.id)?.has(hash) === false &&
              !missing.has(hash) &&
              !empty.includes(fold(text))
            )
              missing.set(hash, text);
          });
      makers.get(one)?.addNamed([...missing.values()], column.id);
    }
}
