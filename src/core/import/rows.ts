import { fold, textOf, nameIn, tidy, type Cell, type SheetRows } from './cell';
import { hashOf } from './hash';
import {
  cellReader,
  fit,
  RememberingReader,
  type CellReader,
  type Converted,
  type Fit,
  type MadeColumn,
} from './convert';
import type { RefusedCell } from './import';
import type { PlannedColumn, PlannedTable } from './import-plan';
import { gathered, markOf, type MadeRow, type MadeRows, type RecordIds } from './made-rows';
import { isWithin, type RowSpan } from './row-span';
import { TextRows } from './text-rows';

/** Records by what names them, without case, spaces and accents: by column id, then by hash. */
export type Found = ReadonlyMap<string, Map<number, string>>;

interface Making {
  readonly plan: PlannedTable;
  /** IANA name: whose times of day the cells are. */
  readonly zone: string;
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
  readonly read: (reader: number, at: number) => Converted;
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
  private readonly distinct = new Map<number, { mark: number; row: number; values: Fit[] }>();

  constructor(private readonly making: Making) {
    const remember = Math.min(65_536, Math.max(4_096, Math.ceil(REMEMBERED / making.plan.columns.length)));
    this.readers = making.plan.columns.map((planned) => ({
      planned,
      cells: readerOf(planned, making, remember),
      noted: making.noted.get(planned.column.id) ?? null,
    }));
  }

  /** What lies outside the span is no record. */
  rows(given: SheetRows, span: RowSpan): MadeRows {
    if (given instanceof TextRows && this.making.plan.rows.t === 'each')
      return this.columns(given, given.linesWithin(span));
    const made: MadeRow[] = [];
    if (given instanceof TextRows) this.texts(given, span, made);
    else
      given.rows.forEach((row, i) =>
        this.row(
          this.plain(row),
          given.numbers[i] ?? 0,
          span,
          row.every((cell) => tidy(textOf(cell)) === ''),
          made,
        ),
      );
    return this.gathered(made);
  }

  private gathered(rows: readonly MadeRow[]): MadeRows {
    return gathered(rows, this.readers.length, this.making.ids, this.making.parentIds);
  }

  /** Column after column: what is remembered of one stays near while its cells are read, which takes half the time of going row by row. */
  private columns(rows: TextRows, lines: Int32Array): MadeRows {
    const read = this.readers.map(({ cells, planned }) => cells.all(rows, lines, planned.at[0] ?? -1));
    const sound = read.some(({ faulty }) => faulty) ? this.fitting(rows, lines, read) : null;
    const kept = sound === null ? lines : sound.map((i) => lines[i] ?? 0);
    const columns =
      sound === null
        ? read
        : read.map(({ codes, values }): MadeColumn => ({ codes: sound.map((i) => codes[i] ?? 0), values }));
    const numbers = kept.map((line) => rows.numberOf(line));
    const marks = new Float64Array(numbers.length).map((_, i) => markOf(numbers[i] ?? 0));
    if (this.readers.some(({ noted }) => noted !== null))
      kept.forEach((line, i) =>
        this.note((at) => rows.textAt(rows.placeOf(line, at)), this.making.ids.at(marks[i] ?? 0)),
      );
    return { ids: this.making.ids, marks, numbers, parents: null, columns, text: rows };
  }

  /** Those of some lines of which every cell fits, by index; of the others all cells that do not are told. */
  private fitting(rows: TextRows, lines: Int32Array, columns: readonly MadeColumn[]): Int32Array {
    return Int32Array.from(
      [...lines.keys()].filter((i) => {
        const line = lines[i] ?? 0;
        let sound = true;
        this.readers.forEach((reader, at) => {
          const code = columns[at]?.codes[i] ?? 0;
          const converted = code >= 0 ? null : (columns[at]?.values[~code] ?? null);
          if (converted === null || 'value' in converted) return;
          sound = false;
          this.refuse(
            reader,
            rows.numberOf(line),
            rows.textAt(rows.placeOf(line, reader.planned.at[0] ?? -1)),
            converted.code,
          );
        });
        if (!sound) this.making.refusedRows.add(rows.numberOf(line));
        return sound;
      }),
    );
  }

  private texts(rows: TextRows, span: RowSpan, made: MadeRow[]): void {
    let current = 0;
    const one: Row = {
      cell: (at) => rows.textAt(rows.placeOf(current, at)),
      read: (reader, at) => (this.readers[reader] as Reader).cells.at(rows, rows.placeOf(current, at)),
    };
    for (; current < rows.count; current++)
      this.row(one, rows.numberOf(current), span, rows.isBlank(current), made);
  }

  private plain(row: readonly Cell[]): Row {
    return {
      cell: (at) => row[at],
      read: (reader, at) => (this.readers[reader] as Reader).cells.of(row[at]),
    };
  }

  private row(row: Row, number: number, span: RowSpan, blank: boolean, made: MadeRow[]): void {
    if (blank || !isWithin(number, span)) return;
    const { rows: source } = this.making.plan;
    if (source.t === 'each') this.each(row, number, made);
    else if (source.t === 'numbered') this.numbered(row, number, source.times, made);
    else this.gather(row, number, source);
  }

  /** Notes what the rows are named by, before they are made: for rows that refer to later ones of their own table. */
  names({ numbers, rows }: SheetRows, span: RowSpan): void {
    rows.forEach((row, i) => {
      const number = numbers[i] ?? 0;
      if (isWithin(number, span)) this.note((at) => row[at], this.making.ids.of(number));
    });
  }

  /**
   * Makes records that have nothing but a name, and notes them; those whose name does not fit stay unmade,
   * and rows that name them are refused.
   */
  addNamed(names: readonly string[], column: string): void {
    for (const name of names) {
      const values = this.readers.map(({ planned, cells }) =>
        cells.of(planned.column.id === column ? name : ''),
      );
      if (!values.every((value): value is Fit => 'value' in value)) continue;
      const mark = markOf(BEYOND + this.named.length);
      this.named.push({ mark, row: 0, parent: null, values });
      this.making.noted.get(column)?.set(hashOf(fold(name)), this.making.ids.at(mark));
    }
  }

  /** The different values, when all rows have been seen, and what has nothing but a name. */
  rest(): MadeRows {
    return this.gathered([
      ...this.named,
      ...[...this.distinct.values()].map((one): MadeRow => ({ ...one, parent: null })),
    ]);
  }

  private each(row: Row, number: number, made: MadeRow[]): void {
    const values = this.values(row, number, 0);
    if (values === null) {
      this.making.refusedRows.add(number);
      return;
    }
    const mark = markOf(number);
    this.note(row.cell, this.making.ids.at(mark));
    made.push({ mark, row: number, parent: null, values });
  }

  private numbered(row: Row, number: number, times: number, made: MadeRow[]): void {
    if (this.making.refusedRows.has(number)) return;
    let position = 0;
    for (let time = 0; time < times; time++) {
      if (this.readers.every(({ planned }) => tidy(textOf(row.cell(planned.at[time] ?? -1))) === ''))
        continue;
      const values = this.values(row, number, time);
      if (values !== null)
        made.push({
          mark: markOf(number, time + 1),
          row: number,
          parent: { mark: markOf(number), position: ++position },
          values,
        });
    }
  }

  /** The first row that has a value gives it; later ones fill what was blank. */
  private gather(
    row: Row,
    number: number,
    { by, unless }: Extract<PlannedTable['rows'], { t: 'distinct' }>,
  ): void {
    const name = nameIn(textOf(row.cell(by)));
    if (name === '' || this.isEmpty(by, name)) return;
    const hash = hashOf(fold(name));
    const known = this.distinct.get(hash);
    if (
      known === undefined &&
      unless !== undefined &&
      (this.making.found.get(unless)?.has(hash) === true || !('value' in row.read(0, by)))
    )
      return;
    const values = known?.values ?? this.readers.map(() => NOTHING);
    this.readers.forEach((reader, i) => {
      if (values[i]?.value !== null) return;
      const converted = row.read(i, reader.planned.at[0] ?? -1);
      if ('value' in converted) values[i] = converted;
    });
    if (known !== undefined) return;
    const mark = markOf(number);
    this.distinct.set(hash, { mark, row: number, values });
    this.note(row.cell, this.making.ids.at(mark));
  }

  /** Whether it stands for nothing in the column at `at`. */
  private isEmpty(at: number, text: string): boolean {
    const empty = this.making.plan.columns.find((one) => one.at[0] === at)?.reading.empty;
    return empty !== undefined && empty.includes(fold(text));
  }

  /** Null when a cell does not fit: all of them are told. */
  private values(row: Row, number: number, time: number): Fit[] | null {
    const values = new Array<Fit>(this.readers.length);
    let sound = true;
    this.readers.forEach((reader, i) => {
      const at = reader.planned.at[time] ?? -1;
      const converted = row.read(i, at);
      if ('value' in converted) values[i] = converted;
      else {
        sound = false;
        this.refuse(reader, number, textOf(row.cell(at)), converted.code);
      }
    });
    return sound ? values : null;
  }

  private refuse({ planned }: Reader, row: number, text: string, code: RefusedCell['code']): void {
    this.making.refuse({
      sheet: this.making.plan.sheet,
      row,
      column: planned.column.label,
      text: text.slice(0, 200),
      code,
    });
  }

  private note(cell: Row['cell'], id: string): void {
    for (const { planned, noted } of this.readers) {
      if (noted === null) continue;
      const text = nameIn(textOf(cell(planned.at[0] ?? -1)));
      if (text === '') continue;
      const hash = hashOf(fold(text));
      // In a table there is, a name that is known is that of a record there.
      if (this.making.plan.into === null || !noted.has(hash)) noted.set(hash, id);
    }
  }
}

/** Blank cells are all the same. */
const NOTHING = fit(null);

function readerOf(planned: PlannedColumn, { found, zone }: Making, remember: number): CellReader {
  if (planned.finds === null) return cellReader(planned, zone, remember);
  const records = found.get(planned.finds.column);
  const blank = planned.column.required ? { code: 'required' as const } : NOTHING;
  const { empty = [] } = planned.reading;
  const texts = new RememberingReader(
    (written) => {
      const text = nameIn(written);
      if (text === '') return blank;
      const id = records?.get(hashOf(fold(text)));
      if (id !== undefined) return fit(id);
      // A record that is called as a word for nothing is meant where it is there.
      return empty.includes(fold(text)) ? blank : { code: 'not-found-there' };
    },
    blank,
    false,
    remember,
  );
  return {
    of: (cell) => texts.of(textOf(cell)),
    at: (rows, place) => texts.at(rows, place),
    all: (rows, lines, at) => texts.all(rows, lines, at),
  };
}
