import { PassThrough, Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import yazl from 'yazl';
import { WHAT_IS_WRONG } from '../core/import/heading';
import { kinds } from '../core/table/kinds/list';
import { listPlaces, packagedKeys, type DataPackage } from '../core/table/data-package';
import { hasChoices, type Column, type Table } from '../core/table/model';
import { listAsJson, listStored } from '../core/table/kinds/stored-list';

/** A table on its way out: its columns, and its records some at a time. Cells are texts as the database says them, references by title. */
export interface TakenOut {
  readonly name: string;
  readonly columns: readonly Column[];
  readonly rows: AsyncIterable<readonly TakenRow[]>;
}

export interface TakenRow {
  readonly number: string;
  readonly cells: readonly (string | boolean | null)[];
}

/** A file on its way out. */
export interface Download {
  readonly name: string;
  readonly type: string;
  readonly body: AsyncGenerator<Uint8Array>;
}

export const exportFormats = ['csv', 'xlsx', 'json'] as const;
export type ExportFormat = (typeof exportFormats)[number];

export const mediaTypes: Readonly<Record<ExportFormat, string>> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  json: 'application/json',
};

export function written(format: ExportFormat, table: TakenOut): AsyncGenerator<Uint8Array> {
  return { csv: csv, xlsx: xlsx, json: json }[format](table);
}

const heading = ({ label, unit, kind }: Column): string =>
  unit === '' || kind === 'money' ? label : `${label} (${unit})`;

/** What a spreadsheet would take for a formula gets an apostrophe before it, which our own import takes away again. */
export const defused = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
/** What begins one, also in the full-width signs that some spreadsheets take for the same. */
const FORMULA = /^'*[=+\-@\t\r\n\uff1d\uff0b\uff0d\uff20]/;
/** And back: what `defused` put before it is taken away. */
export const fused = (text: string): string =>
  text.startsWith("'") && FORMULA.test(text) ? text.slice(1) : text;

/** A cell as people read it, save that numbers and days are plain: a program may want to reckon with them. */
function plain(column: Column, cell: string | boolean | null): string {
  if (cell === null) return '';
  if (column.kind === 'yes-no') return cell === true ? 'yes' : 'no';
  const text = String(cell);
  if (column.kind === 'files') return kinds.files.show(listStored(text) ?? [], column);
  if (hasChoices(column)) return defused(chosenWords(column, text));
  return kinds[column.kind].type.t === 'text' || column.kind === 'reference' ? defused(text) : text;
}

const chosenWords = (column: Column, stored: string): string =>
  column.kind === 'choices'
    ? kinds.choices.show(listStored(stored) ?? [], column)
    : kinds.choice.show(stored, column);

/** With a mark at its beginning, by which spreadsheets know that it is UTF-8. */
async function* csv({ columns, rows }: TakenOut): AsyncGenerator<Uint8Array> {
  yield Buffer.from(
    `\ufeff${Papa.unparse([['Number', ...columns.map((column) => defused(heading(column)))]])}\r\n`,
  );
  for await (const some of rows)
    if (some.length > 0)
      yield Buffer.from(
        `${Papa.unparse(some.map(({ number, cells }) => [number, ...columns.map((column, i) => plain(column, cells[i] ?? null))]))}\r\n`,
      );
}

/** An array of objects by column key; numbers are texts, for JSON's own would lose digits. */
async function* json({ columns, rows }: TakenOut): AsyncGenerator<Uint8Array> {
  let between = '[\n';
  for await (const some of rows) {
    const lines = some.map(({ number, cells }) =>
      JSON.stringify({
        number,
        ...Object.fromEntries(columns.map((column, i) => [column.key, inJson(column, cells[i] ?? null)])),
      }),
    );
    if (lines.length === 0) continue;
    yield Buffer.from(between + lines.join(',\n'));
    between = ',\n';
  }
  yield Buffer.from(between === '[\n' ? '[]\n' : '\n]\n');
}

const inJson = (column: Column, cell: string | boolean | null): unknown =>
  (column.kind === 'choices' || column.kind === 'files') && typeof cell === 'string'
    ? listStored(cell)
    : cell;

async function* xlsx({ name, columns, rows }: TakenOut): AsyncGenerator<Uint8Array> {
  const out = new PassThrough();
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true });
  const sheet = book.addWorksheet(name.replace(/[*?:\\/[\]]/g, ' ').slice(0, 31) || 'Records');
  sheet.columns = [
    { header: 'Number' },
    ...columns.map((column) => ({ header: heading(column), style: { numFmt: formatOf(column) } })),
  ];
  const filled = (async () => {
    for await (const some of rows)
      for (const { number, cells } of some)
        sheet.addRow([number, ...columns.map((column, i) => typed(column, cells[i] ?? null))]).commit();
    sheet.commit();
    await book.commit();
  })();
  filled.catch((error: unknown) => out.destroy(error instanceof Error ? error : undefined));
  for await (const piece of out) yield piece as Uint8Array;
  await filled;
}

function formatOf({ kind, decimals }: Column): string {
  if (kind === 'date') return 'yyyy-mm-dd';
  if (kind === 'date-time') return 'yyyy-mm-dd hh:mm';
  if (kind === 'time') return 'hh:mm';
  return kinds[kind].type.t === 'number' && (decimals ?? 0) > 0
    ? `0.${'0'.repeat(decimals ?? 0)}`
    : 'General';
}

/** Texts go as texts, so nothing in them is ever a formula. Numbers of up to fifteen digits are what a workbook can hold. */
function typed(column: Column, cell: string | boolean | null): string | number | boolean | Date | null {
  if (cell === null || typeof cell === 'boolean') return cell;
  switch (kinds[column.kind].type.t) {
    case 'number':
      return cell.replace(/\D/g, '').length > 15 ? cell : Number(cell);
    case 'date':
    case 'date-time':
      return new Date(`${cell.replace(' ', 'T')}${cell.length > 10 ? 'Z' : 'T00:00:00Z'}`);
    case 'time':
      return new Date(`1899-12-30T${cell}Z`);
    default:
      return kept(
        column.kind === 'files'
          ? kinds.files.show(listStored(cell) ?? [], column)
          : hasChoices(column)
            ? chosenWords(column, cell)
            : cell,
      );
  }
}

/** Here no text is a formula, so none is defused; but one that looks as if it were would lose its apostrophe when it is read again. */
const kept = (text: string): string => (text.startsWith("'") ? defused(text) : text);

/** Rows of a sheet that were refused, each after what is wrong with it. */
export const refusedRowsCsv = (headings: readonly string[], rows: readonly (readonly string[])[]): string =>
  `\ufeff${Papa.unparse([[WHAT_IS_WRONG, ...headings].map(defused), ...rows.map((row) => row.map(defused))])}\r\n`;

/** A Data Package as a zip archive, made as it goes out: its descriptor, and the rows of each resource as CSV. */
export function zipped(
  descriptor: DataPackage,
  rowsOf: (
    resource: DataPackage['resources'][number],
  ) => AsyncIterable<readonly (readonly (string | null)[])[]>,
): AsyncGenerator<Uint8Array> {
  const zip = new yazl.ZipFile();
  const out = Readable.from(zip.outputStream);
  zip.addBuffer(Buffer.from(JSON.stringify(descriptor, null, 2)), DESCRIPTOR);
  for (const resource of descriptor.resources)
    zip.addReadStreamLazy(resource.path, (ready) => {
      const rows = Readable.from(packagedCsv(resource.slateTable, rowsOf(resource)));
      // Rows that cannot be read end the archive, and not the process.
      rows.on('error', (error) => out.destroy(error));
      ready(null, rows);
    });
  zip.end();
  return chunksOf(out);
}

export const DESCRIPTOR = 'datapackage.json';

/** Only texts can be taken for formulas; numbers stay what Table Schema calls numbers. */
async function* packagedCsv(
  table: Table,
  rows: AsyncIterable<readonly (readonly (string | null)[])[]>,
): AsyncGenerator<Uint8Array> {
  const keys = packagedKeys(table);
  const texts = new Set(
    [...table.columns, ...table.retired]
      .filter(({ kind }) => kinds[kind].type.t === 'text')
      .map(({ key }) => keys.indexOf(key)),
  );
  const lists = listPlaces(table);
  const packaged = (cell: string | null, i: number): string =>
    cell === null ? '' : texts.has(i) ? defused(cell) : lists.has(i) ? listAsJson(cell) : cell;
  yield Buffer.from(`${keys.join(',')}\r\n`);
  for await (const some of rows)
    if (some.length > 0) yield Buffer.from(`${Papa.unparse(some.map((row) => row.map(packaged)))}\r\n`);
}

async function* chunksOf(stream: NodeJS.ReadableStream): AsyncGenerator<Uint8Array> {
  for await (const chunk of stream) yield chunk as Buffer;
}
