import { identifier, sql, type SqlFragment } from '../../../core/expression/sql/fragment';
import {
  atMoment,
  type NumberSize,
  type SqlColumn,
  type SqlNames,
  type SqlTable,
} from '../../../core/expression/sql/names';
import { isPersonColumn, SENDER } from '../../../core/expression/person';
import { PEOPLE } from '../../../core/expression/type';
import type { World } from '../../../core/expression/functions/builtin';
import { groupsOf, outerOf, type FormDesign } from '../../../core/form/design';
import { limits } from '../../../core/limits';
import { stampFields } from '../../../core/record/table-scope';
import { kinds } from '../../../core/table/kinds/list';
import type { Column, Table } from '../../../core/table/model';
import { columnFragment, seenFragment } from '../../identifiers';

const ROW = 'r';
const PARENT = 'parent';
const OUTER = 'outer';

/** How the names of a form's expressions are found among the records kept from it: the form's own, or the rows of one of its groups. */
export interface FormNames {
  readonly names: SqlNames;
  readonly from: SqlFragment;
  /** What a record must fulfil to count. */
  readonly live: SqlFragment;
}

/** Null when the form has kept nothing yet, for then there is no table. */
export function formNames(
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  group: string | null,
  world: Pick<World, 'today' | 'now'>,
): FormNames | null {
  const rows = groupsOf(design).find(({ id }) => id === group);
  const of = rows === undefined ? null : outerOf(design, rows);
  const top = tables.get(design.table.id);
  const inner = group === null ? null : (tables.get(rows?.table.id ?? '') ?? null);
  const outer = of === null ? null : (tables.get(of.table.id) ?? null);
  if (top === undefined || (group !== null && inner === null) || (of !== null && outer === null)) return null;
  const ofTop = recordNames(
    top,
    tables,
    inner === null ? ROW : PARENT,
    // What is read in a row of the rows within it is of its own, which is not to be had here.
    (id) => {
      const named = groupsOf(design).find((one) => one.id === id);
      return named === undefined || named.within !== undefined ? undefined : tables.get(named.table.id);
    },
    world,
  );
  const name: SqlNames['name'] = (id) =>
    (inner === null ? null : columnIn(inner, ROW, id)) ??
    (outer === null ? null : columnIn(outer, OUTER, id)) ??
    ofTop.name(id);
  return {
    names: { ...ofTop, name },
    from: sql`${seenFragment(inner ?? top)} ${identifier(ROW)}${joined(outer, OUTER, ROW)}${joined(inner === null ? null : top, PARENT, outer === null ? ROW : OUTER)}`,
    live: sql`${identifier(ROW, 'removed_at')} IS NULL`,
  };
}

/** The table whose rows those under an alias are. */
const joined = (parent: Table | null, as: string, rows: string): SqlFragment =>
  parent === null
    ? sql``
    : sql` JOIN ${seenFragment(parent)} ${identifier(as)} ON ${identifier(as, 'id')} = ${identifier(rows, 'parent_id')}`;

/** How the names of expressions over a table are found under an alias of it; `rowsOf` gives the table of the rows of a name. */
export const recordNames = (
  table: Table,
  tables: ReadonlyMap<string, Table>,
  alias: string,
  rowsOf: (id: string) => Table | undefined,
  { today, now }: Pick<World, 'today' | 'now'>,
): SqlNames => ({
  name: (id) =>
    id === SENDER
      ? { sql: identifier(alias, 'created_by') }
      : (columnIn(table, alias, id) ?? stampIn(alias, id)),
  rowId: identifier(alias, 'id'),
  rows: (id) => {
    const rows = rowsOf(id);
    return rows === undefined
      ? null
      : {
          ...sqlTable(rows),
          parent: (inner) => identifier(inner, 'parent_id'),
          live: (inner) => sql`${identifier(inner, 'removed_at')} IS NULL`,
        };
  },
  records: (id) => {
    if (id === PEOPLE) return people;
    const known = tables.get(id);
    return known === undefined ? null : sqlTable(known);
  },
  ...atMoment(today, now.replace('T', ' ')),
});

/** What every record says of itself; times as the clocks of the workspace showed them. */
function stampIn(alias: string, id: string): SqlColumn | null {
  const type = stampFields.get(id)?.type;
  if (type === undefined) return null;
  const stamp = identifier(alias, id);
  return { sql: type.t === 'date-time' ? sql`${stamp}::timestamp` : stamp };
}

/**
 * How the names of expressions are found that read nothing but a record of a table, which is not named: in a
 * constraint, or a column that is generated.
 */
export const ownNames = (table: Table): SqlNames => ({
  name: (id) => {
    const found = table.columns.find((one) => one.id === id);
    const size = found && sizeOf(found);
    return found === undefined ? null : { sql: identifier(found.key), ...(size && { size }) };
  },
  rowId: null,
  rows: () => null,
  records: () => null,
  // Whoever reads a clock is refused before.
  ...atMoment('2000-01-01', '2000-01-01 00:00:00'),
});

/** A place that is not given is empty, as it is in a sheet. */
const people: SqlTable = {
  table: sql`slate.person`,
  column: (alias, id) => (isPersonColumn(id) ? { sql: sql`nullif(${identifier(alias, id)}, '')` } : null),
};

const sqlTable = (table: Table): SqlTable => ({
  table: seenFragment(table),
  column: (alias, id) => columnIn(table, alias, id),
});

function columnIn(table: Table, alias: string, id: string): SqlColumn | null {
  const column = table.columns.find((one) => one.id === id);
  const size = column && sizeOf(column);
  return column === undefined ? null : { sql: columnFragment(alias, column), ...(size && { size }) };
}

function sizeOf({ kind, decimals }: Column): NumberSize | undefined {
  return kinds[kind].type.t === 'number'
    ? { whole: limits.numberDigits, decimals: decimals ?? (kind === 'money' ? 2 : 0) }
    : undefined;
}
