import { keyFor } from '../form/key';
import type { TableChange } from '../table/change';
import type { Column, Table } from '../table/model';
import { foundName, type FoundTable } from './found-table';
import type { MappedColumn, TableMapping } from './link';
import { planLinks, type LinkedThere } from './plan-link';

/** What a linked table's source has become since it was linked, and what follows from it here. */
export interface Following {
  readonly changes: readonly TableChange[];
  readonly mapping: TableMapping;
  /** Columns that are there now and not yet here, as they would be here. */
  readonly gained: readonly Column[];
  /** Columns here whose own is not there any more, or may not be read: their last values stay. */
  readonly lost: readonly Column[];
  /** Choices that are there now, by the column they are of. */
  readonly choices: readonly { readonly column: Column; readonly labels: readonly string[] }[];
  /** Columns that hold something of another kind there; such a change is not followed. */
  readonly differs: readonly Column[];
  /** What may be done with its records from here is another. */
  readonly rights: boolean;
  /** What told its records apart is not there any more, so nothing can be followed. */
  readonly keyLost: boolean;
}

/**
 * Holds a linked table against what its source is now; null when nothing is different. `linked` are all of
 * the source's tables that are linked, this one among them. Column ids follow from the table's id and the
 * names there, so what was linked before is known again.
 */
export function following(
  found: FoundTable,
  own: LinkedThere,
  linked: readonly LinkedThere[],
  there: readonly Table[],
): Following | null {
  const others = linked.filter(({ table }) => table.id !== own.table.id);
  const [plan] = planLinks([found], others, there, () => own.table.id);
  if (plan === undefined) return null;
  const now = new Map(plan.mapping.columns.map((one) => [one.column, one]));
  const planned = new Map(plan.table.columns.map((column) => [column.id, column]));
  const here = own.mapping.columns.flatMap((mapped) =>
    own.table.columns.filter(({ id }) => id === mapped.column).map((column) => ({ column, mapped })),
  );
  const lost = here.filter(({ mapped }) => !now.has(mapped.column)).map(({ column }) => column);
  const differs = here
    .filter(({ column, mapped }) => isOther(column, planned.get(column.id), mapped))
    .map(({ column }) => column);
  const gained = newColumns(
    plan.table.columns.filter(({ id }) => !own.mapping.columns.some(({ column }) => column === id)),
    own.table,
  );
  const choices = here.flatMap(({ column }) => newChoices(column, planned.get(column.id)));
  const mapping: TableMapping = {
    ...own.mapping,
    adds: plan.mapping.adds,
    changes: plan.mapping.changes,
    columns: [
      ...here
        .filter(({ column }) => !lost.includes(column))
        .map(({ column, mapped }) => mappedNow(mapped, now.get(column.id), differs.includes(column))),
      ...gained.flatMap(({ id }) => now.get(id) ?? []),
    ],
  };
  const result: Following = {
    mapping,
    gained,
    lost,
    differs,
    choices: choices.map(({ column, labels }) => ({ column, labels })),
    rights: rightsOf(mapping, now, gained) !== rightsOf(own.mapping, now, gained),
    keyLost: own.mapping.by.some(
      (id) => lost.some((column) => column.id === id) || differs.some((column) => column.id === id),
    ),
    changes: [
      ...lost
        .filter(({ required }) => required)
        .map((column): TableChange => ({
          t: 'loosen-column',
          table: own.table,
          column: { ...column, required: false },
        })),
      ...choices.map(({ wanted }): TableChange => ({
        t: 'change-choices',
        table: own.table,
        column: wanted,
      })),
      ...gained.map((column): TableChange => ({ t: 'add-column', table: own.table, column })),
    ],
  };
  return gained.length + lost.length + differs.length + choices.length === 0 && !result.rights
    ? null
    : result;
}

/** The linked table of a found one, with what has become of it. */
export function followingOf(
  found: FoundTable,
  linked: readonly LinkedThere[],
  there: readonly Table[],
): Following | null {
  const own = linked.find(({ mapping }) => foundName(mapping) === foundName(found));
  return own === undefined ? null : following(found, own, linked, there);
}

/** What refers to a table that was linked later stays what it is; anything else that is of another kind is another thing. */
function isOther(column: Column, planned: Column | undefined, { refers }: MappedColumn): boolean {
  if (planned === undefined || column.kind === planned.kind)
    return planned !== undefined && (column.decimals ?? 0) < (planned.decimals ?? 0);
  return refers === null && planned.kind !== 'reference';
}

const mappedNow = (before: MappedColumn, now: MappedColumn | undefined, differs: boolean): MappedColumn =>
  now === undefined || differs ? before : { ...now, refers: before.refers };

/** What may be done, with the columns that are there before and after. */
function rightsOf(
  { adds, changes, columns }: TableMapping,
  now: ReadonlyMap<string, MappedColumn>,
  gained: readonly Column[],
): string {
  const both = columns.filter(({ column }) => now.has(column) && !gained.some(({ id }) => id === column));
  return JSON.stringify([adds, changes, both.map((one) => [one.column, one.adds, one.changes])]);
}

/** Records that are here have nothing in them before the next refresh, so they cannot be required. */
function newColumns(planned: readonly Column[], table: Table): Column[] {
  const taken = new Set([...table.columns, ...table.retired].map(({ key }) => key));
  return planned.map((column) => {
    const key = keyFor(column.label, taken, 'column');
    taken.add(key);
    return { ...column, key, required: false };
  });
}

function newChoices(
  column: Column,
  planned: Column | undefined,
): { column: Column; wanted: Column; labels: string[] }[] {
  if (column.kind !== 'choice' || planned?.kind !== 'choice') return [];
  const fresh = planned.choices.filter(({ code }) => !column.choices.some((one) => one.code === code));
  return fresh.length === 0
    ? []
    : [
        {
          column,
          labels: fresh.map(({ label }) => label),
          wanted: { ...column, choices: [...column.choices, ...fresh] },
        },
      ];
}
