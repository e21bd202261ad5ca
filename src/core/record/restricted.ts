import type { Catalogue } from '../catalogue/catalogue';
import { columnsRead, dependencies, type Expression } from '../expression/tree';
import { PEOPLE } from '../expression/type';
import { issue, type Issue } from '../kernel/issue';
import { isCalculated, type Column, type Table } from '../table/model';
import { readFormula } from './formulas';
import { readRowRule } from './row-rules';

/**
 * Restricted columns are seen by some of those who see their table. What names a record, what says who sees
 * it, and files, which are seen with it, cannot be; what is worked out of one is restricted as well.
 */

type Tables = ReadonlyMap<string, Table>;

/** The columns of any table that an expression over the records of one reads, as `table column`. */
function readIn(tree: Expression, table: Table, tables: Tables): Set<string> {
  const names = dependencies(tree);
  const rows = [...tables.values()].filter(({ parent }) => parent === table.id);
  return new Set([
    ...[table, ...rows].flatMap(({ id: of, columns, retired }) =>
      [...columns, ...retired].filter(({ id }) => names.has(id)).map(({ id }) => `${of} ${id}`),
    ),
    ...columnsRead(tree).map(([of, id]) => `${of} ${id}`),
  ]);
}

const restrictedIn = (tables: Tables): Set<string> =>
  new Set(
    [...tables.values()].flatMap(({ id: of, columns, retired }) =>
      [...columns, ...retired].filter(({ restricted }) => restricted).map(({ id }) => `${of} ${id}`),
    ),
  );

/** Of what a calculated column reads, the first that is restricted, as `table column`; null for none. */
function restrictedBy(
  column: Column,
  table: Table,
  tables: Tables,
  kept: ReadonlySet<string>,
): string | null {
  const read = readFormula(column, table, tables);
  return read.ok ? ([...readIn(read.value, table, tables)].find((one) => kept.has(one)) ?? null) : null;
}

/** Calculated columns that are seen by all though something they read is not: by table, their ids. One reads the other. */
export function workedOutOfRestricted(tables: Tables): ReadonlyMap<string, ReadonlySet<string>> {
  const found = new Map<string, Set<string>>();
  const kept = restrictedIn(tables);
  if (kept.size === 0) return found;
  for (let before = -1; before < kept.size;) {
    before = kept.size;
    for (const table of tables.values())
      for (const column of [...table.columns, ...table.retired].filter(isCalculated)) {
        const name = `${table.id} ${column.id}`;
        if (kept.has(name) || restrictedBy(column, table, tables, kept) === null) continue;
        kept.add(name);
        found.set(table.id, (found.get(table.id) ?? new Set()).add(column.id));
      }
  }
  return found;
}

/** A table of which these columns are restricted, and no others. */
export function restrictedTo(table: Table, wanted: ReadonlySet<string>): Table {
  const as = (column: Column): Column => ({ ...column, restricted: wanted.has(column.id) });
  return { ...table, columns: table.columns.map(as), retired: table.retired.map(as) };
}

/** Why these columns of a table cannot be its restricted ones; the path of issues is `['restricted', column id]`. */
export function restrictionIssues(catalogue: Catalogue, table: Table, wanted: ReadonlySet<string>): Issue[] {
  const all = [...table.columns, ...table.retired];
  const tables = new Map(catalogue.tables).set(table.id, restrictedTo(table, wanted));
  const unknown = [...wanted].filter((id) => !all.some((column) => column.id === id));
  return [
    ...(table.id === PEOPLE && wanted.size > 0
      ? [issue('restricted-directory', ['restricted'], {})]
      : unknown.map((id) => issue('unknown-column', ['restricted', id], { name: id }))),
    ...all.filter(({ id }) => wanted.has(id)).flatMap((column) => ownIssue(column, table) ?? []),
    ...ruleIssues(catalogue, tables),
    ...readIssues(tables, table),
  ];
}

function ownIssue({ id, kind, label }: Column, table: Table): Issue | null {
  if (table.title.includes(id)) return issue('restricted-title', ['restricted', id], { label });
  return kind === 'files' ? issue('restricted-files', ['restricted', id], { label }) : null;
}

/** Who sees a record must not hang on what they do not see of it. */
function ruleIssues({ grants }: Catalogue, tables: Tables): Issue[] {
  const kept = restrictedIn(tables);
  return grants.flatMap(({ tableId, where }) => {
    const of = tables.get(tableId ?? '');
    const read = of === undefined || where === null ? null : readRowRule(where, of, tables);
    if (of === undefined || read?.ok !== true) return [];
    return [...readIn(read.value, of, tables)]
      .filter((named) => kept.has(named))
      .map((named) => {
        const [table = '', id = ''] = named.split(' ');
        const label = tables.get(table)?.columns.find((one) => one.id === id)?.label ?? '';
        return issue('restricted-rule', ['restricted', id], { label, table: of.label });
      });
  });
}

/** What is worked out of a restricted column is to be restricted first. */
function readIssues(tables: Tables, table: Table): Issue[] {
  return [...workedOutOfRestricted(tables)].flatMap(([of, columns]) =>
    [...columns].map((id) =>
      issue('restricted-read', ['restricted', id], {
        label: tables.get(of)?.columns.find((one) => one.id === id)?.label ?? '',
        table: of === table.id ? '' : (tables.get(of)?.label ?? ''),
      }),
    ),
  );
}
