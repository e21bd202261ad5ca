import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { kinds } from '../table/kinds/list';
import type { Column } from '../table/model';
import { written, type ColumnValue } from '../storage/rows-to-write';

/** By column id. */
export type Values = Readonly<Record<string, ColumnValue>>;

/**
 * What a column is given, as it is typed, as PostgreSQL writes it as text, or as it is to be written: as the
 * column holds it. The issue's path is the column.
 */
export function columnValue(column: Column, raw: ColumnValue): Result<ColumnValue, Issue> {
  if (raw === null || (typeof raw === 'string' && raw.trim() === '')) return ok(null);
  const read = kinds[column.kind].read(
    column.kind === 'yes-no' ? asYesNo(raw) : raw,
    // How long a text may be is the form's word; a table takes any that a form may ask for.
    column.kind === 'text' ? { long: true } : column,
  );
  if (read.ok) return ok(written(read.value, decimalsOf(column)));
  return fail(issue(read.error.code, [column.id], { ...read.error.facts, label: column.label }));
}

const asYesNo = (raw: string | boolean): string | boolean =>
  raw === 'true' || raw === 't' ? true : raw === 'false' || raw === 'f' ? false : raw;
const decimalsOf = ({ kind, decimals }: Column): number =>
  kind === 'whole' ? 0 : (decimals ?? (kind === 'money' ? 2 : 0));

/** A column of a table, whether it is shown or retired. */
export const columnIn = (
  table: { readonly columns: readonly Column[]; readonly retired: readonly Column[] },
  id: string,
): Column | undefined =>
  table.columns.find((column) => column.id === id) ?? table.retired.find((column) => column.id === id);
