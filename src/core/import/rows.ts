import { fold, textOf, tidy, type Cell, type SheetRows } from './cell';
import { hashOf } from './hash';
import { cellReader, fit, readingTexts, type AsItStands, type CellReader, type Converted, type Fit } from './convert';
import type { RefusedCell } from './import';
import type { PlannedColumn, PlannedTable } from './import-plan';
import { Remembered } from './remembered';
import { TextRows } from './text-rows';

/** A row ready to be kept; values are in the order of the columns. */
export interface MadeRow {
  readonly id: string;
  /** The row of the sheet it was made of, or first made of. */
  readonly row: number;
  readonly parent: string | null;
  /** Among the rows of its parent, from 1; 0 without one. */
  readonly position: number;
  readonly values: readonly (Fit | AsItStands)[];
  /** The text in which cells stand that are kept as they do; null where there are none. */
  readonly text: TextRows | null;
}

/** A value as PostgreSQL reads it. */
export function valueOf({ text }: MadeRow, value: Fit | AsItStands): string | null {
  return typeof value === 'number' ? (text?.textAt(value) ?? null) : value.value;
}

/** Records by what names them, without case, spaces and accents: by column id, then by hash. */
export type Found = ReadonlyMap<string, Map<number, string>>;

/** Ids that follow from the import, the table and the row, so that a job that is done again makes the same. */
export class RecordIds {
  private readonly beginning: string;

  /** `index` is the table's place in its plan. */
  constructor(importId: string, index: number) {
    const hash = (hashOf(importId) % 4096).toString(16).padStart(3, '0');
    this.beginning = `${importId.slice(0, 8)}-${importId.slice(9, 13)}-7${hash}-a${index.toString(16).padStart(3, '0')}-`;
  }

  /** The record of a row in the file; of numbered columns `time` says which. */
  of(row: number, time = 0): string {
    return this.beginning + (row * 128 + time).toString(16).padStart(12, '0');
  }
}

interface Making {
  readonly plan: PlannedTable;
  readonly ids: RecordIds;
  /** Of the table its rows belong to. */
  readonly parentIds: RecordIds | null;
  readonly found: Found;
  /** Where this table's own records are noted for those that refer to them: by column id. */
  readonly noted: ReadonlyMap<string, Map<number, string>>;
  /** Rows of the sheet that were refused before; what would belong to them is left out. */
  readonly refusedRows: Set<number>;
  readonly refuse: (cell: RefusedCell) => void;
}

/** One row of some: what is asked of it is its cells, as they stand and as a reader, by its place, reads them. */
interface Row {
  readonly cell: (at: number) => Cell | undefined;
  readonly read: (reader: number, at: number) => Converted | AsItStands;
  readonly text: TextRows | null;
}

interface Reader {
  readonly planned: PlannedColumn;
  readonly cells: CellReader;
  readonly noted: Map<number, string> | null;
}

/** Different cells that are remembered of all columns together: about 150 bytes each. */
const REMEMBERED = 500_000;

/** No row of a file has a number like this, so records that stand in none have ids from here. */
const BEYOND = 2 ** 33;

/** Makes the rows of one table from those of its sheet. */
export class RowMaker {
  private readonly readers: readonly Reader[];
  private readonly named: MadeRow[] = [];
  /** Of a table of different values: what is known of each so far. */
  private readonly distinct = new Map<number, { id: string; row: number; values: Fit[] }>();

  constructor(private readonly making: Making) {
    const remember = Math.min(65_536, Math.max(4_096, Math.ceil(REMEMBERED / making.plan.columns.length)));
    this.readers = making.plan.columns.map((planned) => ({ planned, cells: readerOf(planned, making.found, remember), noted: making.noted.get(planned.column.id) ?? null }));
  }

  /** `headerRow` and all above it are no rows. */
  rows(given: SheetRows, headerRow: number): MadeRow[] {
    const made: MadeRow[] = [];
    if (given instanceof TextRows && this.making.plan.rows.t === 'each') this.columns(given, headerRow, made);
    else if (given instanceof TextRows) this.texts(given, headerRow, made);
    else given.rows.forEach((row, i) => this.row(this.plain(row), given.numbers[i] ?? 0, headerRow, row.every((cell) => tidy(textOf(cell)) === ''), made));
    return made;
  }

  /** Column after column: what is remembered of one stays near while its cells are read, which takes half the time of going row by row. */
  private columns(rows: TextRows, headerRow: number, made: MadeRow[]): void {
    const lines: number[] = [];
    for (let i = 0; i < rows.count; i++) if (rows.numberOf(i) > headerRow && !rows.isBlank(i)) lines.push(i);
    const columns = this.readers.map(({ cells, planned }) => cells.all(rows, lines, planned.at[0] ?? -1));
    let current = 0;
    const one: Row = { cell: (at) => rows.textAt(rows.placeOf(lines[current] ?? 0, at)), read: (reader) => columns[reader]?.[current] as Converted | AsItStands, text: rows };
    for (; current < lines.length; current++) this.each(one, rows.numberOf(lines[current] ?? 0), made);
  }

  private texts(rows: TextRows, headerRow: number, made: MadeRow[]): void {
    let current = 0;
    const one: Row = { cell: (at) => rows.textAt(rows.placeOf(current, at)), read: (reader, at) => (this.readers[reader] as Reader).cells.at(rows, rows.placeOf(current, at)), text: null };
    for (; current < rows.count; current++) this.row(one, rows.numberOf(current), headerRow, rows.isBlank(current), made);
  }

  private plain(row: readonly Cell[]): Row {
    return { cell: (at) => row[at], read: (reader, at) => (this.readers[reader] as Reader).cells.of(row[at]), text: null };
  }

  private row(row: Row, number: number, headerRow: number, blank: boolean, made: MadeRow[]): void {
    if (number <= headerRow || blank) return;
    const { rows: source } = this.making.plan;
    if (source.t === 'each') this.each(row, number, made);
    else if (source.t === 'numbered') this.numbered(row, number, source.times, made);
    else this.gather(row, number, source.by);
  }

  /** Notes what the rows are named by, before they are made: for rows that refer to later ones of their own table. */
  names({ numbers, rows }: SheetRows, headerRow: number): void {
    rows.forEach((row, i) => {
      const number = numbers[i] ?? 0;
      if (number > headerRow) this.note(this.plain(row), 0, this.making.ids.of(number));
    });
  }

  /** Makes records that have nothing but a name, and notes them; those whose name does not fit stay unmade, and rows that name them are refused. */
  addNamed(names: readonly string[], column: string): void {
    for (const name of names) {
      const values = this.readers.map(({ planned, cells }) => cells.of(planned.column.id === column ? name : ''));
      if (!values.every((value): value is Fit => 'value' in value)) continue;
      const id = this.making.ids.of(BEYOND + this.named.length);
      this.named.push({ id, row: 0, parent: null, position: 0, values, text: null });
      this.making.noted.get(column)?.set(hashOf(fold(name)), id);
    }
  }

  /** The different values, when all rows have been seen, and what has nothing but a name. */
  rest(): MadeRow[] {
    return [...this.named, ...this.distinct.values()].map(({ id, row, values }) => ({ id, row, parent: null, position: 0, values, text: null }));
  }

  private each(row: Row, number: number, made: MadeRow[]): void {
    const values = this.values(row, number, 0);
    if (values === null) {
      this.making.refusedRows.add(number);
      return;
    }
    const id = this.making.ids.of(number);
    this.note(row, 0, id);
    made.push({ id, row: number, parent: null, position: 0, values, text: row.text });
  }

  private numbered(row: Row, number: number, times: number, made: MadeRow[]): void {
    if (this.making.refusedRows.has(number)) return;
    let position = 0;
    for (let time = 0; time < times; time++) {
      if (this.readers.every(({ planned }) => tidy(textOf(row.cell(planned.at[time] ?? -1))) === '')) continue;
      const values = this.values(row, number, time);
      if (values !== null) made.push({ id: this.making.ids.of(number, time + 1), row: number, parent: this.making.parentIds?.of(number) ?? null, position: ++position, values, text: null });
    }
  }

  /** The first row that has a value gives it; later ones fill what was blank. */
  private gather(row: Row, number: number, by: number): void {
    const name = tidy(textOf(row.cell(by)));
    if (name === '') return;
    const hash = hashOf(fold(name));
    const known = this.distinct.get(hash);
    const values = known?.values ?? this.readers.map(() => NOTHING);
    this.readers.forEach((reader, i) => {
      if (values[i]?.value !== null) return;
      const converted = row.read(i, reader.planned.at[0] ?? -1);
      if (typeof converted !== 'number' && 'value' in converted) values[i] = converted;
    });
    if (known !== undefined) return;
    const id = this.making.ids.of(number);
    this.distinct.set(hash, { id, row: number, values });
    this.note(row, 0, id);
  }

  /** Null when a cell does not fit: all of them are told. */
  private values(row: Row, number: number, time: number): (Fit | AsItStands)[] | null {
    const values = new Array<Fit | AsItStands>(this.readers.length);
    let sound = true;
    for (let i = 0; i < this.readers.length; i++) {
      const reader = this.readers[i] as Reader;
      const { planned } = reader;
      const converted = row.read(i, planned.at[time] ?? -1);
      if (typeof converted === 'number' || 'value' in converted) values[i] = converted;
      else {
        sound = false;
        this.making.refuse({ sheet: this.making.plan.sheet, row: number, column: planned.column.label, text: textOf(row.cell(planned.at[time] ?? -1)).slice(0, 200), code: converted.code });
      }
    }
    return sound ? values : null;
  }

  private note(row: Row, time: number, id: string): void {
    for (const { planned, noted } of this.readers) {
      if (noted === null) continue;
      const text = tidy(textOf(row.cell(planned.at[time] ?? -1)));
      if (text === '') continue;
      const hash = hashOf(fold(text));
      // In a table there is, a name that is known is that of a record there.
      if (this.making.plan.into === null || !noted.has(hash)) noted.set(hash, id);
    }
  }
}

/** Blank cells are all the same. */
const NOTHING = fit(null);

function readerOf(planned: PlannedColumn, found: Found, remember: number): CellReader {
  if (planned.finds === null) return cellReader(planned, remember);
  const records = found.get(planned.finds.column);
  const blank = planned.column.required ? { code: 'required' as const } : NOTHING;
  const remembered = new Remembered<Converted>((written) => {
    const text = tidy(written);
    const id = text === '' ? undefined : records?.get(hashOf(fold(text)));
    return text === '' ? blank : id === undefined ? { code: 'not-found-there' } : fit(id);
  }, remember);
  return { of: (cell) => remembered.get(textOf(cell)), ...readingTexts(remembered, blank, false) };
}
