import { isBig, isList, isRecord, type Value } from '../expression/value';
import { groupsIn, isField, questionsOf, type FieldQuestion, type RowsQuestion } from '../form/design';
import type { Place } from '../form/cells';
import { totalDecimals } from '../form/totals';
import type { Sheet } from '../form/sheet';
import { storedList } from '../table/kinds/stored-list';

/** A value as it is written to a column: decimals and dates as text, references as the record's id. */
export type ColumnValue = string | boolean | null;

export interface RowToWrite {
  readonly table: string;
  /** By column id. */
  readonly values: ReadonlyMap<string, ColumnValue>;
  readonly rows: readonly RowToWrite[];
  /** Of a row: its id in the sheet, which is its record's where the sheet changes a record that has it. */
  readonly row?: string;
}

/** The rows a sheet becomes when it is kept: the parent with its rows, and these with theirs, in order. The sheet must have no issues. */
export function rowsToWrite(sheet: Sheet): RowToWrite {
  const { design } = sheet.form;
  const values = new Map<string, ColumnValue>();
  for (const question of questionsOf(design)) {
    if (question.kind === 'rows') {
      if (question.within === undefined)
        for (const total of question.totals)
          values.set(total.id, written(sheet.value([total.id]), totalDecimals(question, total)));
    } else if (isField(question))
      values.set(question.id, written(sheet.value([question.id]), decimalsOf(question)));
  }
  return { table: design.table.id, values, rows: rowsIn(sheet, null) };
}

/** The rows of the groups that stand in those of a group, in one of its rows; of null, those of the form. */
function rowsIn(sheet: Sheet, outer: RowsQuestion | null, of?: string): RowToWrite[] {
  const { design } = sheet.form;
  return groupsIn(design, outer).flatMap((group) =>
    sheet.filledRows(group.id, of).map((row): RowToWrite => {
      const place = (id: string): Place => [group.id, row.id, id];
      const cells = group.columns.map(
        (column) => [column.id, written(sheet.value(place(column.id)), decimalsOf(column))] as const,
      );
      const totals = groupsIn(design, group).flatMap((inner) =>
        inner.totals.map(
          (total) => [total.id, written(sheet.value(place(total.id)), totalDecimals(inner, total))] as const,
        ),
      );
      return {
        table: group.table.id,
        values: new Map([...cells, ...totals]),
        rows: rowsIn(sheet, group, row.id),
        row: row.id,
      };
    }),
  );
}

const decimalsOf = (question: FieldQuestion): number => ('decimals' in question ? question.decimals : 0);
/** Rounded half up to the decimals of the column, exactly as the sheet shows it. */
export function written(value: Value, decimals: number): ColumnValue {
  if (isBig(value)) return value.toFixed(decimals, 1);
  if (isRecord(value)) return value.id;
  if (isList(value)) return storedList(value);
  return typeof value === 'string' || typeof value === 'boolean' ? value : null;
}
