import { plainColumn, type Column, type Table } from '../table/model';
import { speak, spoken } from '../wording/speak';

/** What can be shown of a record, sorted and grouped by, as FEEL names it: `name`, `bed.section`, `count(moves)`, `created_at`. */
export type Place = ColumnPlace | RowsPlace | StampPlace;
interface OfPlace {
  readonly text: string;
  /** `Bed › Section`. */
  readonly label: string;
  /** By what kind it is shown; its id is the text of the place, unless it is a column of the table itself. */
  readonly column: Column;
}
export interface ColumnPlace extends OfPlace {
  readonly t: 'column';
  /** From the table on; all but the last refer to a record. */
  readonly path: readonly Column[];
}
/** Of the rows that belong to a record: how many there are, or what a column of them comes to. */
export interface RowsPlace extends OfPlace {
  readonly t: 'rows';
  readonly rows: Table;
  readonly of: Column | null;
}
export interface StampPlace extends OfPlace {
  readonly t: 'stamp';
  readonly stamp: Stamp;
}
export type Stamp = 'number' | 'created_at' | 'updated_at' | 'position';

type Tables = ReadonlyMap<string, Table>;

/** References that are followed one after the other. */
const DEEP = 2;
const NUMBERS: ReadonlySet<Column['kind']> = new Set(['whole', 'decimal', 'money']);

/**
 * All that can be shown of a table's records: its own columns first, then what its rows come to, then what is
 * reached through references.
 */
export function placesOf(table: Table, tables: Tables): Place[] {
  const own = table.columns.map((column) => columnPlace([column]));
  const reached = reachedFrom([], table, tables);
  return [...own, ...rowsPlaces(table, tables), ...stampPlaces(table), ...reached];
}

function reachedFrom(path: readonly Column[], table: Table, tables: Tables): Place[] {
  if (path.length >= DEEP) return [];
  return table.columns.flatMap((column) => {
    const target = column.kind === 'reference' ? tables.get(column.target ?? '') : undefined;
    if (target === undefined) return [];
    const on = [...path, column];
    return [
      ...target.columns.map((inner) => columnPlace([...on, inner])),
      ...reachedFrom(on, target, tables),
    ];
  });
}

function columnPlace(path: readonly Column[]): ColumnPlace {
  const last = path.at(-1);
  if (last === undefined) throw new Error('a path has a column at least');
  const text = path.map(({ key }) => key).join('.');
  const label = path.map((column) => column.label).join(' › ');
  const column: Column = path.length === 1 ? last : { ...last, id: text, label, required: false };
  return { t: 'column', text, label, path, column };
}

/** The place of a column of the table itself. */
export const ownPlace = (column: Column): ColumnPlace => columnPlace([column]);

const rowsPlaces = (table: Table, tables: Tables): RowsPlace[] =>
  [...tables.values()]
    .filter(({ parent }) => parent === table.id)
    .flatMap((rows) => [
      rowsPlace(rows, null),
      ...rows.columns.filter(({ kind }) => NUMBERS.has(kind)).map((of) => rowsPlace(rows, of)),
    ]);

function rowsPlace(rows: Table, of: Column | null): RowsPlace {
  const text = of === null ? `count(${rows.key})` : `sum(${rows.key}.${of.key})`;
  const label =
    of === null ? speak`How many ${rows.label}` : speak`${rows.label} › ${of.label}, all together`;
  const kind: Column = of ?? { ...plainColumn, id: '', key: '', label: '', kind: 'whole' };
  return { t: 'rows', text, label, rows, of, column: { ...kind, id: text, label, required: false } };
}

const stampColumn = (id: Stamp, label: string, kind: Column['kind']): StampPlace => ({
  t: 'stamp',
  text: id,
  label,
  stamp: id,
  column: { ...plainColumn, id, key: id, label, kind },
});
const stampPlaces = (table: Table): StampPlace[] => [
  stampColumn('created_at', speak`Made on`, 'date-time'),
  stampColumn('updated_at', speak`Changed on`, 'date-time'),
  ...(table.parent === null ? [] : [stampColumn('position', speak`Place among its rows`, 'whole')]),
];
export const NUMBER_PLACE = spoken(() => stampColumn('number', speak`Number`, 'text'));

/** What a text names of a table; null for nothing, or nothing that is seen. */
export const placeOf = (table: Table, tables: Tables, text: string): Place | null =>
  text === 'number' ? NUMBER_PLACE() : (placesOf(table, tables).find((place) => place.text === text) ?? null);

/** By what records are sorted. */
export interface Sort {
  readonly by: string;
  readonly descending: boolean;
}

/** `-received,name`: the latest received first, then by name. */
export const readSorts = (text: string): Sort[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .map((one) =>
      one.startsWith('-') ? { by: one.slice(1), descending: true } : { by: one, descending: false },
    );
export const sortText = (sorts: readonly Sort[]): string =>
  sorts.map(({ by, descending }) => `${descending ? '-' : ''}${by}`).join(',');

/** A heading that is pressed: sorts by it alone, then the other way; with Shift it comes after those there are, turns, and goes. */
export function pressedSort(sorts: readonly Sort[], by: string, also: boolean): Sort[] {
  const known = sorts.find((sort) => sort.by === by);
  if (!also) return [{ by, descending: known !== undefined && sorts.length === 1 && !known.descending }];
  if (known === undefined) return [...sorts, { by, descending: false }].slice(0, MOST_SORTS);
  if (!known.descending) return sorts.map((sort) => (sort.by === by ? { by, descending: true } : sort));
  const left = sorts.filter((sort) => sort.by !== by);
  return left.length === 0 ? [{ by, descending: false }] : left;
}
export const MOST_SORTS = 3;
