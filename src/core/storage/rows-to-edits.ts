import type { AddRecord } from '../record/edit';
import type { RowToWrite } from './rows-to-write';

/** Where a record comes from in its sheet: the sheet itself, or the row at `position` from 1 of the rows in a table. */
export interface Origin {
  readonly table: string;
  readonly position: number;
}

/** The edits that add a record with its rows. The record has its id and number; the rows are given an id by `newId` and get their numbers from their tables. */
export function editsOf(
  { table, values, rows }: RowToWrite,
  record: { readonly id: string; readonly number: string },
  newId: () => string,
): { readonly edits: AddRecord[]; readonly origins: ReadonlyMap<string, Origin> } {
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
