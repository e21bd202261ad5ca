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
import { groupsOf, type FormDesign } from '../../../core/form/design';
import { limits } from '../../../core/limits';
import { kinds } from '../../../core/table/kinds/list';
import type { Column, Table } from '../../../core/table/model';
import { columnFragment, tableFragment } from '../../identifiers';

const ROW = 'r';
const PARENT = 'parent';

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
  const top = tables.get(design.table.id);
  const inner =
    group === null
      ? null
      : (tables.get(groupsOf(design).find(({ id }) => id === group)?.table.id ?? '') ?? null);
  if (top === undefined || (group !== null && inner === null)) return null;
  const topAlias = inner === null ? ROW : PARENT;
  const names: SqlNames = {
    name: (id) =>
      (id === SENDER ? { sql: identifier(topAlias, 'created_by') } : null) ??
      (inner === null ? null : columnIn(inner, ROW, id)) ??
      columnIn(top, topAlias, id),
    rowId: identifier(topAlias, 'id'),
    rows: (id) => {
      const rows = tables.get(groupsOf(design).find((one) => one.id === id)?.table.id ?? '');
      return rows === undefined
        ? null
        : {
            ...sqlTable(rows),
            parent: (alias) => identifier(alias, 'parent_id'),
            live: (alias) => sql`${identifier(alias, 'removed_at')} IS NULL`,
          };
    },
    records: (id) => {
      if (id === PEOPLE) return people;
      const table = tables.get(id);
      return table === undefined ? null : sqlTable(table);
    },
    ...atMoment(world.today, world.now.replace('T', ' ')),
  };
  const own = inner ?? top;
  const parent =
    inner === null
      ? sql``
      : sql` JOIN ${tableFragment(top)} ${identifier(PARENT)} ON ${identifier(PARENT, 'id')} = ${identifier(ROW, 'parent_id')}`;
  return {
    names,
    from: sql`${tableFragment(own)} ${identifier(ROW)}${parent}`,
    live: sql`${identifier(ROW, 'removed_at')} IS NULL`,
  };
}

/** A place that is not given is empty, as it is in a sheet. */
const people: SqlTable = {
  table: sql`slate.person`,
  column: (alias, id) => (isPersonColumn(id) ? { sql: sql`nullif(${identifier(alias, id)}, '')` } : null),
};

const sqlTable = (table: Table): SqlTable => ({
  table: tableFragment(table),
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
