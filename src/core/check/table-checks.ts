import { anyNames } from '../expression/sql/any-names';
import { toSql } from '../expression/sql/to-sql';
import { columnsRead, dependencies, nodesOf, readsColumns, type Expression } from '../expression/tree';
import { readStored } from '../form/scope';
import { issue, under, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { tablesInFormulas, writtenOut } from '../record/formulas';
import { rowsNamed, tableScope } from '../record/table-scope';
import type { Table } from '../table/model';
import { isAmongRecords, type Check, type ExistingCheck } from './check';
import { comparedInTable, existingIssues } from './existing';

type Tables = ReadonlyMap<string, Table>;

/** A condition that a table demands of each of its records, read. */
export interface ReadCheck {
  readonly check: Check;
  readonly tree: Expression;
  /** The columns it reads, by id. */
  readonly reads: ReadonlySet<string>;
  /** The tables whose rows it reads: when those change, their record is asked again. */
  readonly rows: ReadonlySet<string>;
  /** It reads nothing but the record itself, so that it can be told before anything is written. */
  readonly isOwn: boolean;
}

export interface TableChecks {
  readonly conditions: readonly ReadCheck[];
  readonly among: readonly ExistingCheck[];
}

/** A check's condition over the columns of a table; the path of issues is `['checks', check id]`. */
export function readTableCheck(check: Check, table: Table, tables: Tables): Result<ReadCheck, Issue[]> {
  const path = ['checks', check.id];
  const scope = tableScope(table, tables);
  const plain = readStored(check.must, scope, path);
  if (!plain.ok) return plain;
  const must = writtenOut(check.must, table, scope);
  const read = must === check.must ? plain : readStored(must, scope, path);
  if (!read.ok) return read;
  const tree = read.value;
  if (tree.type.t !== 'yes-no')
    return fail([issue('result-type', path, { given: tree.type.t, wanted: 'yes-no' })]);
  const names = [...nodesOf(tree)].flatMap((node) =>
    node.op === 'column' ? [node.group] : node.op === 'name' && node.type.t === 'rows' ? [node.id] : [],
  );
  return ok({
    check,
    tree,
    reads: dependencies(tree),
    rows: new Set(names.flatMap((name) => rowsNamed(name, tables)?.id ?? [])),
    isOwn: !readsColumns(tree) && columnsRead(tree).length === 0,
  });
}

const known = new WeakMap<Tables, WeakMap<Table, TableChecks>>();

/**
 * The checks of a table as they are asked of its records. One that cannot be read any more, which no change
 * of a table lets come about, asks nothing.
 */
export function checksOf(table: Table, tables: Tables): TableChecks {
  const all = known.get(tables) ?? new WeakMap<Table, TableChecks>();
  known.set(tables, all);
  const found = all.get(table) ?? {
    conditions: table.checks.flatMap((check) => {
      const read = isAmongRecords(check) ? null : readTableCheck(check, table, tables);
      return read?.ok === true ? [read.value] : [];
    }),
    among: table.checks.filter(isAmongRecords),
  };
  all.set(table, found);
  return found;
}

/** The tables that the checks of a table look into, itself among them where records are held against each other. */
export function tablesChecked(table: Table, tables: Tables): Set<string> {
  const { conditions, among } = checksOf(table, tables);
  const read = [
    ...(among.length > 0 ? [table.id] : []),
    ...conditions.flatMap(({ tree, rows, isOwn }) => [
      // Of a record that is looked at after it was written, whoever wrote it must see so much.
      ...(isOwn ? [] : [table.id]),
      ...rows,
      ...columnsRead(tree).map(([id]) => id),
    ]),
  ];
  // What is worked out there looks further.
  const beyond = read.flatMap((id) => {
    const other = tables.get(id);
    return other === undefined || id === table.id ? [] : [...tablesInFormulas(other, tables)];
  });
  return new Set([...read, ...beyond]);
}

/** What is wrong with the checks of a table as it is wanted. `tables` are the others. Paths: `['checks', check id]`. */
export function tableCheckIssues(wanted: Table, others: Tables): Issue[] {
  const tables = new Map(others).set(wanted.id, wanted);
  return wanted.checks.flatMap((check) =>
    isAmongRecords(check)
      ? existingIssues(check, comparedInTable(wanted))
      : conditionIssues(check, wanted, tables),
  );
}

function conditionIssues(check: Check, table: Table, tables: Tables): Issue[] {
  const path = ['checks', check.id];
  if (check.must.trim() === '') return [issue('check-empty', path)];
  const read = readTableCheck(check, table, tables);
  const written = read.ok ? toSql(read.value.tree, anyNames) : ok(null);
  return [
    ...(table.columns.some(({ id }) => id === check.on) ? [] : [issue('check-column', path)]),
    ...(read.ok ? [] : read.error),
    ...(written.ok ? [] : under(path, written.error)),
    ...(check.message.trim() === '' ? [issue('check-message-missing', path)] : []),
  ];
}

/** Whether what it says of a record stays so as long as the record does: it reads no clock. */
export const isTimeless = (tree: Expression): boolean =>
  ![...nodesOf(tree)].some((node) => node.op === 'call' && (node.name === 'today' || node.name === 'now'));
