import type { Values } from '../record/column-value';
import type { AddRecord, ChangeRecord, RecordEdit } from '../record/edit';
import type { StoredRow } from './answers-of';
import type { RowToWrite } from './rows-to-write';

/** Where a record comes from in its sheet: the sheet itself, or the row at `position` from 1 of the rows in a table. */
export interface Origin {
  readonly table: string;
  readonly position: number;
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
/** A record as it is stored, with its rows by table, in their order. */
export interface StoredWhole {
  readonly version: number;
  readonly values: Values;
  readonly rows: ReadonlyMap<string, readonly PlacedRow[]>;
}

/** The edits that add a record with its rows. The record has its id and number; the rows are given an id by `newId` and get their numbers from their tables. */
export function editsOf(
  { table, values, rows }: RowToWrite,
  record: { readonly id: string; readonly number: string },
  newId: () => string,
): SheetEdits<AddRecord> {
  const origins = new Map<string, Origin>([[record.id, { table, position: 0 }]]);
  const places = new Map<string, number>();
  const inner = rows.map((row): AddRecord => {
    const position = (places.get(row.table) ?? 0) + 1;
    places.set(row.table, position);
    const id = newId();
    origins.set(id, { table: row.table, position });
    return {
      t: 'add',
      table: row.table,
      id,
      number: null,
      parent: { id: record.id, position },
      values: Object.fromEntries(row.values),
    };
  });
  const own: AddRecord = { t: 'add', table, ...record, parent: null, values: Object.fromEntries(values) };
  return { edits: [own, ...inner], origins };
}

/** A record that a sheet changes: as it is stored, and as the form would have written it had nothing been changed. */
export interface Unchanged {
  readonly record: string;
  readonly stored: StoredWhole;
  readonly was: RowToWrite;
}

/**
 * The edits that make of a record what its sheet became. Only what somebody changed is written, and what follows from that: what the form would write otherwise
 * anyway, because a price rose meanwhile or a day has passed, stays. Rows keep their records and move only where another comes before them; those that are in
 * the sheet no more are removed.
 */
export function changesOf(
  { table, values, rows }: RowToWrite,
  { record, stored, was }: Unchanged,
  newId: () => string,
): SheetEdits<RecordEdit> {
  const before = new Map(was.rows.map((row) => [row.row, row.values]));
  const origins = new Map<string, Origin>([[record, { table, position: 0 }]]);
  const edits: RecordEdit[] = [];
  const own = changed(table, { id: record, ...stored }, values, was.values);
  if (own !== null) edits.push(own);
  const kept = new Set<string>();
  const places = new Map<string, { inSheet: number; stored: number }>();
  for (const row of rows) {
    const last = places.get(row.table) ?? { inSheet: 0, stored: 0 };
    const known = stored.rows.get(row.table)?.find(({ id }) => id === row.row);
    const stays = known !== undefined && !kept.has(known.id) && known.position > last.stored;
    const place = { inSheet: last.inSheet + 1, stored: stays ? known.position : last.stored + 1 };
    places.set(row.table, place);
    if (known === undefined || kept.has(known.id)) {
      const id = newId();
      origins.set(id, { table: row.table, position: place.inSheet });
      const parent = { id: record, position: place.stored };
      edits.push({
        t: 'add',
        table: row.table,
        id,
        number: null,
        parent,
        values: Object.fromEntries(row.values),
      });
      continue;
    }
    kept.add(known.id);
    origins.set(known.id, { table: row.table, position: place.inSheet });
    const edit = changed(row.table, known, row.values, before.get(known.id));
    if (!stays) edits.push({ ...(edit ?? unchanged(row.table, known)), position: place.stored });
    else if (edit !== null) edits.push(edit);
  }
  for (const [of, list] of stored.rows)
    for (const { id, version } of list)
      if (!kept.has(id)) edits.push({ t: 'remove', table: of, id, version });
  return { edits, origins };
}

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
