import type { RecordData } from '../../contract/answers-from-server';
import { asTyped } from '../../core/formats/typed';
import { columnValue } from '../../core/record/column-value';
import { toldAlone } from '../../core/record/own-checks';
import type { EditedRecord, TypedCell, Typed } from '../../core/record/staged';
import { hasChoices, type Column, type Table } from '../../core/table/model';
import { cellText } from '../../core/record/cell-text';
import { speak, spoken } from '../../core/wording/speak';

/** A stored cell as an edit begins from it: of a reference, the record it names with its title. */
export function storedCell(column: Column, row: RecordData): TypedCell {
  const cell = row.cells[column.id] ?? null;
  // What is reached through a reference comes as it is shown.
  if (column.kind !== 'reference' || column.id.includes('.'))
    return cell !== null && column.kind === 'reference' ? { raw: cell, title: String(cell) } : { raw: cell };
  const named = row.named[column.id];
  return named === undefined ? { raw: null } : { raw: named, title: String(cell ?? NOT_SHOWN()) };
}

/** A record is named that whoever looks may not see. */
const NOT_SHOWN = spoken(() => speak`not shown to you`);

const cellsOf = (table: Table, row: RecordData): Typed =>
  Object.fromEntries(table.columns.map((column) => [column.id, storedCell(column, row)]));

export const editedRecord = (table: Table, row: RecordData): EditedRecord => ({
  table: table.id,
  id: row.id,
  name: nameOf(table, row),
  version: row.version,
  cells: cellsOf(table, row),
  beside: Object.fromEntries(
    toldAlone(table).flatMap(({ reads }) =>
      [...reads].flatMap((id) => {
        const column = id in row.cells ? table.columns.find((one) => one.id === id) : undefined;
        return column === undefined ? [] : [[id, storedCell(column, row)]];
      }),
    ),
  ),
});

export const titleOf = (table: Table, row: RecordData): string =>
  table.columns
    .filter(({ id }) => table.title.includes(id))
    .map((column) => cellText(column, row.cells[column.id] ?? null))
    .filter((one) => one !== '')
    .join(' · ');

/** Its number, with its title where it has one. */
export function nameOf(table: Table, row: RecordData): string {
  const title = titleOf(table, row);
  return title === '' ? row.number : `${row.number} ${title}`;
}

/** What stands in a cell as people read it; what cannot be read stays as it was typed. */
export function shownCell(column: Column, { raw, title }: TypedCell): string {
  if (raw === null) return '';
  if (column.kind === 'reference') return title ?? String(raw);
  const read = columnValue(column, raw);
  return read.ok ? cellText(column, read.value) : asTyped(column.kind, String(raw));
}

/** The same as it would be typed here, and as it goes to spreadsheets: numbers and days in digits, choices by their words. */
export const typedCell = (column: Column, cell: TypedCell): string =>
  asTyped(column.kind, plainCell(column, cell));

/** The same for everybody: digits with a point, ISO days. */
export function plainCell(column: Column, cell: TypedCell): string {
  const { raw } = cell;
  if (column.kind === 'reference' || hasChoices(column) || column.kind === 'yes-no')
    return shownCell(column, cell);
  const read = raw === null ? null : columnValue(column, raw);
  return read?.ok === true && read.value !== null ? String(read.value) : String(raw ?? '');
}
