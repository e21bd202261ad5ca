import type { IssueCode } from '../kernel/issue';
import { convertedBy, readableText } from '../table/convert-column';
import type { Column, Table } from '../table/model';
import type { RowToWrite } from './rows-to-write';

/** A value that its column no longer takes, with the row of the sheet it stands in; null for the sheet itself. */
export interface Unfitting {
  readonly table: string;
  readonly row: string | null;
  readonly column: string;
  readonly code: IssueCode;
}

/**
 * Rows as the tables take them now. A release goes on while its tables change: what was asked as a text and is kept as a number since is
 * read as one; what goes into a column that was removed for good goes nowhere.
 * `designed` are the tables as the release knows them, `zone` (IANA) is whose times of day they hold.
 */
export function fittedRow(
  row: RowToWrite,
  designed: ReadonlyMap<string, Table>,
  tables: ReadonlyMap<string, Table>,
  zone: string,
): { row: RowToWrite; unfitting: Unfitting[] } {
  const unfitting: Unfitting[] = [];
  const values = new Map(row.values);
  for (const [id, value] of row.values) {
    const [asked, kept] = [columnOf(designed, row.table, id), columnOf(tables, row.table, id)];
    if (kept === undefined) values.delete(id);
    else if (asked !== undefined && typeof value === 'string' && !sameShape(asked, kept)) {
      const read = convertedBy(
        { before: asked, column: { ...kept, required: false }, reading: {}, mends: {} },
        () => null,
        zone,
      )(readableText(asked, (record) => record)(value));
      if ('value' in read) values.set(id, read.value);
      else unfitting.push({ table: row.table, row: row.row ?? null, column: id, code: read.code });
    }
  }
  const rows = row.rows.map((one) => {
    const fitted = fittedRow(one, designed, tables, zone);
    unfitting.push(...fitted.unfitting);
    return fitted.row;
  });
  return { row: { ...row, values, rows }, unfitting };
}

function columnOf(tables: ReadonlyMap<string, Table>, table: string, id: string): Column | undefined {
  const known = tables.get(table);
  return (
    known?.columns.find((column) => column.id === id) ?? known?.retired.find((column) => column.id === id)
  );
}

const sameShape = (asked: Column, kept: Column): boolean =>
  asked.kind === kept.kind && asked.target === kept.target && (asked.decimals ?? 0) <= (kept.decimals ?? 0);
