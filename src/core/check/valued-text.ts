import { toShown } from '../expression/stored-text';
import { isList, isRecord, type Value } from '../expression/value';
import type { RowState } from '../form/cells';
import type { RowsQuestion } from '../form/design';
import { scopeOf } from '../form/scope';
import type { Sheet } from '../form/sheet';
import { withValues } from './with-values';

/**
 * A stored expression with the values of a sheet in place of its names: `2 156 > 5 000`. `row` is one of
 * `group`, where it is worked out in each.
 */
export function valuedText(
  sheet: Sheet,
  stored: string,
  row: RowState | null = null,
  group?: RowsQuestion,
): string {
  const scope = scopeOf(sheet.form.design, sheet.form.tables, group);
  return withValues(toShown(stored, scope), scope, (ids) => valueAlong(sheet, row, ids));
}

/** What a name is worth: an answer, a column of the row in hand or of all rows, and from there on a column of a record. */
function valueAlong(sheet: Sheet, row: RowState | null, [first = '', ...rest]: readonly string[]): Value {
  const group = sheet.form.groups.get(first);
  if (group !== undefined) {
    const [column = '', ...more] = rest;
    const of = group.within === undefined ? undefined : row?.group === group.within ? row.id : row?.of;
    return sheet.filledRows(group.id, of).map((one) => into(one.values.get(column) ?? null, more));
  }
  return into(sheet.source(row).read(first), rest);
}

function into(value: Value, [id, ...rest]: readonly string[]): Value {
  if (id === undefined) return value;
  if (isList(value)) return value.map((one) => into(one, [id, ...rest]));
  return isRecord(value) ? into(value.values[id] ?? null, rest) : null;
}
