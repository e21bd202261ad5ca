import type { RecordsData, RelatedTable } from '../../contract/answers-from-server';
import { MOST_STAGED, typeCell, type EditedRecord, type Staged } from '../../core/record/staged';
import { isTypedIn, type Column, type Table } from '../../core/table/model';
import { call } from '../kit/call';
import { editedRecord } from './record-cells';

/** A column of another table that refers to a removed record, and may be emptied by whoever asks. */
export interface Clearable {
  readonly table: Table;
  readonly column: Column;
}

/** Where references to records of a table may be emptied, so that one of them can be removed. */
export const clearables = (related: readonly RelatedTable[]): readonly Clearable[] =>
  related.flatMap(({ table, column: id, same, may }) => {
    const column = table.columns.find((one) => one.id === id);
    return column !== undefined && same === null && may.change && !column.required && isTypedIn(column)
      ? [{ table, column }]
      : [];
  });

/** The records that refer to one by these columns; null where they cannot be fetched, or are more than are saved together. */
export async function referring(
  record: string,
  places: readonly Clearable[],
): Promise<readonly { readonly column: Column; readonly record: EditedRecord }[] | null> {
  const found: { column: Column; record: EditedRecord }[] = [];
  for (const { table, column } of places) {
    let after: string | null = null;
    do {
      const asked = new URLSearchParams({ sort: 'number', of: record, via: column.id });
      if (after !== null) asked.set('after', after);
      const page = await call<RecordsData>('GET', `/api/tables/${table.key}/records?${asked}`).catch(
        () => null,
      );
      if (page?.ok !== true) return null;
      const { rows, more } = page.value;
      found.push(...rows.map((row) => ({ column, record: editedRecord(table, row) })));
      if (found.length > MOST_STAGED / 2) return null;
      after = more.after ? (rows.at(-1)?.id ?? null) : null;
    } while (after !== null);
  }
  return found;
}

/** Their references emptied, to be saved with the removal. */
export const cleared = (staged: Staged, found: NonNullable<Awaited<ReturnType<typeof referring>>>): Staged =>
  found.reduce((all, { column, record }) => typeCell(all, record, column, { raw: null }), staged);
