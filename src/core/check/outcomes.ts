import { checksOfTables } from '../form/checks-of-tables';
import type { RowState } from '../form/cells';
import { homeOf, type RowsQuestion } from '../form/design';
import { rowName } from '../form/line';
import type { Sheet } from '../form/sheet';
import type { Check } from './check';
import { messageOf } from './sheet-issues';
import { valuedText } from './valued-text';

/** How one check came out on a sheet, in one of its rows where it is asked in each. */
export interface Outcome {
  readonly check: Check;
  /** a, b … of the row, a.1 of one that stands in it; null where it is asked once. */
  readonly row: string | null;
  readonly place: readonly string[];
  /** `open`: it cannot be told, because something it reads is not answered; `unasked`: the line it stands at is not asked. */
  readonly came: 'holds' | 'stops' | 'asks' | 'open' | 'unasked';
  /** The condition with the values put in. Empty for a check of a table, which is written in the names of its columns. */
  readonly why: string;
}

/** Every check of a form on a sheet, in the order of the checks, with why it held or did not. */
export function checkOutcomes(sheet: Sheet): Outcome[] {
  const { design, tables } = sheet.form;
  const ofTables = new Set(checksOfTables(design, tables).map(({ check }) => check.id));
  return sheet.form.checks.flatMap((check) => {
    const group = homeOf(design, check.on);
    const why = (row: RowState | null): string =>
      ofTables.has(check.id) ? '' : valuedText(sheet, check.must, row, group ?? undefined);
    if (group === null) return [outcome(sheet, check, null, null, why(null))];
    return sheet.filledRows(group.id).map((row) => outcome(sheet, check, group, row, why(row)));
  });
}

function outcome(
  sheet: Sheet,
  check: Check,
  group: RowsQuestion | null,
  row: RowState | null,
  why: string,
): Outcome {
  const place = group === null || row === null ? [check.on] : [group.id, row.id, check.on];
  const letter =
    group === null || row === null
      ? null
      : rowName(sheet.form.design, (id) => sheet.rows(id), group.id, row.id);
  const said = { ...check, message: messageOf(sheet, check, row) };
  return { check: said, row: letter, place, came: cameOf(sheet, check, group, row), why };
}

function cameOf(
  sheet: Sheet,
  check: Check,
  group: RowsQuestion | null,
  row: RowState | null,
): Outcome['came'] {
  const isAsked =
    group === null || row === null ? sheet.isAsked([check.on]) : sheet.isAsked([group.id, row.id, check.on]);
  if (!isAsked) return 'unasked';
  const value = row === null ? sheet.value([check.id]) : (row.values.get(check.id) ?? null);
  if (value === null) return 'open';
  return value === false ? (check.otherwise === 'ask' ? 'asks' : 'stops') : 'holds';
}
