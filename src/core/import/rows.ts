import { fold, hashOf, textOf, tidy, type Cell, type SheetRows } from './cell';
import { reader, type Converted } from './convert';
import type { RefusedCell } from './import';
import type { PlannedColumn, PlannedTable } from './import-plan';
import { Remembered } from './remembered';

/** A row ready to be kept; values are texts that PostgreSQL reads, in the order of the columns. */
export interface MadeRow {
  readonly id: string;
  /** The row of the sheet it was made of, or first made of. */
  readonly row: number;
  readonly parent: string | null;
  /** Among the rows of its parent, from 1; 0 without one. */
  readonly position: number;
  readonly values: readonly (string | null)[];
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

interface Reader {
  readonly planned: PlannedColumn;
  readonly read: (cell: Cell | undefined) => Converted | { readonly code: 'not-found-there' };
  readonly noted: Map<number, string> | null;
}

/** Makes the rows of one table from those of its sheet. */
export class RowMaker {
  private readonly readers: readonly Reader[];
  /** Of a table of different values: what is known of each so far. */
  private readonly distinct = new Map<number, { id: string; row: number; values: (string | null)[] }>();

  constructor(private readonly making: Making) {
    this.readers = making.plan.columns.map((planned) => ({ planned, read: readerOf(planned, making.found), noted: making.noted.get(planned.column.id) ?? null }));
  }

  /** `headerRow` and all above it are no rows. */
  *rows({ numbers, rows }: SheetRows, headerRow: number): Generator<MadeRow> {
    for (let i = 0; i < rows.length; i++) {
      const [row, number] = [rows[i] ?? [], numbers[i] ?? 0];
      if (number <= headerRow || row.every((cell) => tidy(textOf(cell)) === '')) continue;
      const { rows: source } = this.making.plan;
      if (source.t === 'each') yield* this.each(row, number);
      else if (source.t === 'numbered') yield* this.numbered(row, number, source.times);
      else this.gather(row, number, source.by);
    }
  }

  /** Notes what the rows are named by, before they are made: for rows that refer to later ones of their own table. */
  names({ numbers, rows }: SheetRows, headerRow: number): void {
    rows.forEach((row, i) => {
      const number = numbers[i] ?? 0;
      if (number > headerRow) this.note(row, 0, this.making.ids.of(number));
    });
  }

  /** The different values, when all rows have been seen. */
  *rest(): Generator<MadeRow> {
    for (const { id, row, values } of this.distinct.values()) yield { id, row, parent: null, position: 0, values };
  }

  private *each(row: readonly Cell[], number: number): Generator<MadeRow> {
    const values = this.values(row, number, 0);
    if (values === null) {
      this.making.refusedRows.add(number);
      return;
    }
    const id = this.making.ids.of(number);
    this.note(row, 0, id);
    yield { id, row: number, parent: null, position: 0, values };
  }

  private *numbered(row: readonly Cell[], number: number, times: number): Generator<MadeRow> {
    if (this.making.refusedRows.has(number)) return;
    let position = 0;
    for (let time = 0; time < times; time++) {
      if (this.readers.every(({ planned }) => tidy(textOf(row[planned.at[time] ?? -1])) === '')) continue;
      const values = this.values(row, number, time);
      if (values !== null) yield { id: this.making.ids.of(number, time + 1), row: number, parent: this.making.parentIds?.of(number) ?? null, position: ++position, values };
    }
  }

  /** The first row that has a value gives it; later ones fill what was blank. */
  private gather(row: readonly Cell[], number: number, by: number): void {
    const name = tidy(textOf(row[by]));
    if (name === '') return;
    const hash = hashOf(fold(name));
    const known = this.distinct.get(hash);
    const values = known?.values ?? this.readers.map(() => null);
    this.readers.forEach(({ planned, read }, i) => {
      if (values[i] !== null) return;
      const converted = read(row[planned.at[0] ?? -1]);
      if ('value' in converted) values[i] = converted.value;
    });
    if (known !== undefined) return;
    const id = this.making.ids.of(number);
    this.distinct.set(hash, { id, row: number, values });
    this.note(row, 0, id);
  }

  /** Null when a cell does not fit: all of them are told. */
  private values(row: readonly Cell[], number: number, time: number): (string | null)[] | null {
    const values: (string | null)[] = new Array<string | null>(this.readers.length);
    let sound = true;
    for (let i = 0; i < this.readers.length; i++) {
      const { planned, read } = this.readers[i] as Reader;
      const cell = row[planned.at[time] ?? -1];
      const converted = read(cell);
      if ('value' in converted) values[i] = converted.value;
      else {
        sound = false;
        this.making.refuse({ sheet: this.making.plan.sheet, row: number, column: planned.column.label, text: textOf(cell).slice(0, 200), code: converted.code });
      }
    }
    return sound ? values : null;
  }

  private note(row: readonly Cell[], time: number, id: string): void {
    for (const { planned, noted } of this.readers) {
      const text = noted === null ? '' : tidy(textOf(row[planned.at[time] ?? -1]));
      const hash = hashOf(fold(text));
      // In a table there is, a name that is known is that of a record there.
      if (text !== '' && (this.making.plan.into === null || noted?.has(hash) !== true)) noted?.set(hash, id);
    }
  }
}

function readerOf(planned: PlannedColumn, found: Found): Reader['read'] {
  if (planned.finds === null) return reader(planned);
  const records = found.get(planned.finds.column);
  const blank = planned.column.required ? { code: 'required' as const } : { value: null };
  const remembered = new Remembered((written: string): ReturnType<Reader['read']> => {
    const text = tidy(written);
    const id = text === '' ? undefined : records?.get(hashOf(fold(text)));
    return text === '' ? blank : id === undefined ? { code: 'not-found-there' } : { value: id };
  });
  return (cell) => remembered.get(textOf(cell));
}
