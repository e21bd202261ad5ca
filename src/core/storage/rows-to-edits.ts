import type { Values } from '../record/column-value';
import type { AddRecord, ChangeRecord, RecordEdit } from '../record/edit';
import type { StoredRow } from './answers-of';
import type { RowToWrite } from './rows-to-write';

/** Where a record comes from in its sheet: a row of it, by its id there, or the sheet itself. */
export interface Origin {
  readonly table: string;
  readonly row: string | null;
}

/** What a batch does, and where each record of it comes from. */
export interface SheetEdits<Edit extends RecordEdit> {
  readonly edits: Edit[];
  readonly origins: ReadonlyMap<string, Origin>;
}

/** A row as it is stored, with what an edit of it must know. */
export interface PlacedRow extends StoredRow {
  readonly version: number;
  readonly position: number;
}
/** A record as it is stored, with its rows and theirs by table, in their order. */
export interface StoredWhole {
  readonly version: number;
  readonly values: Values;
  readonly rows: ReadonlyMap<string, readonly PlacedRow[]>;
}

/**
 * The edits that add a record with its rows. The record has its id and number; the rows are given an id by
 * `newId` and get their numbers from their tables.
 */
export function editsOf(
  { table, values, rows }: RowToWrite,
  record: { readonly id: string; readonly number: string },
  newId: () => string,
): SheetEdits<AddRecord> {
  const origins = new Map<string, Origin>([[record.id, { table, row: null }]]);
  const own: AddRecord = { t: 'add', table, ...record, parent: null, values: Object.fromEntries(values) };
  return { edits: [own, ...addedRows(rows, record.id, newId, origins)], origins };
}

/** New rows of a record, each before those that stand in it. */
function addedRows(
  rows: readonly RowToWrite[],
  parent: string,
  newId: () => string,
  origins: Map<string, Origin>,
): AddRecord[] {
  const places = new Map<string, number>();
  return rows.flatMap((row) => {
    const position = (places.get(row.table) ?? 0) + 1;
    places.set(row.table, position);
    return addedRow(row, { id: parent, position }, newId, origins);
  });
}

function addedRow(
  { table, row, values, rows }: RowToWrite,
  parent: AddRecord['parent'],
  newId: () => string,
  origins: Map<string, Origin>,
): AddRecord[] {
  const id = newId();
  origins.set(id, { table, row: row ?? null });
  const own: AddRecord = { t: 'add', table, id, number: null, parent, values: Object.fromEntries(values) };
  return [own, ...addedRows(rows, id, newId, origins)];
}

/** A record that a sheet changes: as it is stored, and as the form would have written it had nothing been changed. */
export interface Unchanged {
  readonly record: string;
  readonly stored: StoredWhole;
  readonly was: RowToWrite;
}

/**
 * The edits that make of a record what its sheet became. Only what somebody changed is written, and what
 * follows from that: what the form would write otherwise anyway, because a price rose meanwhile or a day has
 * passed, stays. Rows keep their records and move only where another comes before them; those that are in the
 * sheet no more are removed.
 */
export function changesOf(
  { table, values, rows }: RowToWrite,
  { record, stored, was }: Unchanged,
  newId: () => string,
): SheetEdits<RecordEdit> {
  const before = new Map(allRows(was.rows).map((row) => [row.row, row.values]));
  const origins = new Map<string, Origin>([[record, { table, row: null }]]);
  const own = changed(table, { id: record, ...stored }, values, was.values);
  const changes: RowChanges = { stored, before, origins, newId, kept: new Set() };
  const edits = [...(own === null ? [] : [own]), ...changedRows(rows, record, undefined, changes)];
  return { edits: [...edits, ...removedRows(changes)], origins };
}

const allRows = (rows: readonly RowToWrite[]): RowToWrite[] =>
  rows.flatMap((row) => [row, ...allRows(row.rows)]);

interface RowChanges {
  readonly stored: StoredWhole;
  readonly before: ReadonlyMap<string | undefined, RowToWrite['values']>;
  readonly origins: Map<string, Origin>;
  readonly newId: () => string;
  /** The records that are still in the sheet. */
  readonly kept: Set<string>;
}

/** Of the rows of a record, or with `of` of one of its rows. */
function changedRows(
  rows: readonly RowToWrite[],
  parent: string,
  of: string | undefined,
  changes: RowChanges,
): RecordEdit[] {
  const { stored, before, origins, newId, kept } = changes;
  const places = new Map<string, { inSheet: number; stored: number }>();
  return rows.flatMap((row): RecordEdit[] => {
    const last = places.get(row.table) ?? { inSheet: 0, stored: 0 };
    const known = stored.rows.get(row.table)?.find((one) => one.id === row.row && one.of === of);
    const stays = known !== undefined && !kept.has(known.id) && known.position > last.stored;
    const place = { inSheet: last.inSheet + 1, stored: stays ? known.position : last.stored + 1 };
    places.set(row.table, place);
    if (known === undefined || kept.has(known.id))
      return addedRow(row, { id: parent, position: place.stored }, newId, origins);
    kept.add(known.id);
    origins.set(known.id, { table: row.table, row: row.row ?? null });
    const edit = changed(row.table, known, row.values, before.get(known.id));
    const own = stays ? edit : { ...(edit ?? unchanged(row.table, known)), position: place.stored };
    return [...(own === null ? [] : [own]), ...changedRows(row.rows, known.id, known.id, changes)];
  });
}

/** Those that are in the sheet no more; what stands in one of them goes with it. */
const removedRows = ({ stored, kept }: RowChanges): RecordEdit[] =>
  [...stored.rows].flatMap(([table, list]) =>
    list.flatMap(({ id, version, of }): RecordEdit[] =>
      kept.has(id) || (of !== undefined && !kept.has(of)) ? [] : [{ t: 'remove', table, id, version }],
    ),
  );

/** Null where nothing of it is otherwise. */
function changed(
  table: string,
  { id, version, values: before }: Pick<PlacedRow, 'id' | 'version' | 'values'>,
  values: RowToWrite['values'],
  was: RowToWrite['values'] = new Map(),
): ChangeRecord | null {
  const other = [...values].filter(
    ([column, value]) => column in before && value !== was.get(column) && value !== before[column],
  );
  if (other.length === 0) return null;
  return {
    t: 'change',
    table,
    id,
    version,
    before: Object.fromEntries(other.map(([column]) => [column, before[column] ?? null])),
    values: Object.fromEntries(other),
  };
}

const unchanged = (table: string, { id, version }: PlacedRow): ChangeRecord => ({
  t: 'change',
  table,
  id,
  version,
  before: {},
  values: {},
});
