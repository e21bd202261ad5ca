import { resolvedNames } from '../expression/read';
import { storedScope } from '../expression/stored-text';
import { anyNames } from '../expression/sql/any-names';
import { toSql } from '../expression/sql/to-sql';
import { columnsRead, dependencies, type Expression } from '../expression/tree';
import { fits, type Scope } from '../expression/type';
import { readStored } from '../form/scope';
import { issue, under, type Issue } from '../kernel/issue';
import { fail, type Result } from '../kernel/result';
import { kinds } from '../table/kinds/list';
import { isCalculated, type Column, type ColumnKind, type Table } from '../table/model';
import { rowsNamed, tableScope } from './table-scope';

type Tables = ReadonlyMap<string, Table>;

/** Kinds a formula can give. */
export const calculatedKinds: ReadonlySet<ColumnKind> = new Set([
  'text',
  'whole',
  'decimal',
  'money',
  'date',
  'time',
  'date-time',
  'yes-no',
]);

/** Formulas that read formulas, one after the other. */
const DEEPEST = 10;

/**
 * Stored text with the calculated columns of its table written out: what they read is what it reads, and SQL
 * works it out for many records at once. A circle is cut off, and is then a name that means nothing.
 */
export function writtenOut(stored: string, table: Table, scope: Scope, deep = 0): string {
  const calculated = new Map(table.columns.filter(isCalculated).map((column) => [column.id, column]));
  if (calculated.size === 0) return stored;
  let [out, at] = ['', 0];
  for (const { from, to, id } of resolvedNames(stored, storedScope(scope))) {
    const column = calculated.get(id);
    // What stands after a dot belongs to another record.
    if (column === undefined || stored[from - 1] === '.') continue;
    out += stored.slice(at, from);
    out += deep < DEEPEST ? rounded(column, writtenOut(column.formula, table, scope, deep + 1)) : CIRCLE;
    at = to;
  }
  return out + stored.slice(at);
}
const CIRCLE = 'circle';

/** A number has the decimals of its column, half up. */
function rounded({ kind, decimals }: Column, formula: string): string {
  if (kind === 'whole') return `round half up((${formula}), 0)`;
  if (kind === 'decimal') return `round half up((${formula}), ${decimals ?? 0})`;
  return kind === 'money' ? `round half up((${formula}), ${decimals ?? 2})` : `(${formula})`;
}

/** What a calculated column comes to, over the columns that are kept; the path of issues is `[column id, 'formula']`. */
export function readFormula(column: Column, table: Table, tables: Tables): Result<Expression, Issue[]> {
  const path = [column.id, 'formula'];
  const scope = tableScope(table, tables);
  // As it is written first: spans of what is wrong in it are those that its owner sees.
  const plain = readStored(column.formula, scope, path);
  if (!plain.ok) return plain;
  if (!fits(plain.value.type, kinds[column.kind].type))
    return fail([
      issue('result-type', path, { given: plain.value.type.t, wanted: kinds[column.kind].type.t }),
    ]);
  const whole = readStored(rounded(column, writtenOut(column.formula, table, scope)), scope, path);
  return whole.ok ? whole : fail([issue('formula-circle', path, { label: column.label })]);
}

/** What is wrong with the formulas of a table as it is wanted, beside the `others`. */
export function formulaIssues(wanted: Table, others: Tables): Issue[] {
  const tables = new Map(others).set(wanted.id, wanted);
  return wanted.columns.filter(isCalculated).flatMap((column) => {
    const path = [column.id, 'formula'];
    if (!calculatedKinds.has(column.kind)) return [issue('formula-kind', path, { label: column.label })];
    const read = readFormula(column, wanted, tables);
    if (!read.ok) return read.error;
    const written = toSql(read.value, anyNames);
    return written.ok ? [] : under(path, written.error);
  });
}

/** The tables that formulas of a table look into. */
export function tablesInFormulas(table: Table, tables: Tables): Set<string> {
  return new Set(
    table.columns.filter(isCalculated).flatMap((column) => {
      const read = readFormula(column, table, tables);
      if (!read.ok) return [];
      const rows = [...dependencies(read.value)].flatMap((name) => rowsNamed(name, tables)?.id ?? []);
      return [...rows, ...columnsRead(read.value).map(([id]) => id)];
    }),
  );
}
