import { compile } from '../expression/compile';
import { partsOf, type Part } from '../expression/parts';
import { read } from '../expression/read';
import type { Scope } from '../expression/type';
import type { RowState } from '../form/cells';
import type { RowsQuestion } from '../form/design';
import { rowName } from '../form/line';
import type { Sheet } from '../form/sheet';

/** What an expression comes to on a sheet. */
export interface Explained {
  /** a, b … of the row it is told for; null where it is asked once. */
  readonly row: string | null;
  readonly parts: readonly Part[];
}

/**
 * An expression, as it is shown, on a sheet: its value and that of each of its pieces. In a group it is told for the first row in which
 * it is `no`, else for the first that is filled. Null while it cannot be read, and where no row is filled.
 */
export function explained(
  sheet: Sheet,
  text: string,
  scope: Scope,
  group: RowsQuestion | null,
): Explained | null {
  const tree = read(text, scope);
  if (!tree.ok) return null;
  const told = (row: RowState | null, letter: string | null): Explained => ({
    row: letter,
    parts: partsOf(tree.value, text, sheet.source(row)),
  });
  if (group === null) return told(null, null);
  const rows = sheet.filledRows(group.id);
  const worth = compile(tree.value);
  const row = rows.find((one) => worth(sheet.source(one)) === false) ?? rows[0];
  if (row === undefined) return null;
  return told(
    row,
    rowName(sheet.form.design, (id) => sheet.rows(id), group.id, row.id),
  );
}
