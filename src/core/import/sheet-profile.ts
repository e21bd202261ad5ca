import { textOf, tidy, type Cell, type SheetRows } from './cell';
import { ColumnProfile } from './column-profile';
import { distinctOf, integers, placeIn } from './growing';
import { headerOf, type Header } from './header';

/** How many rows are kept to show what would come of them. */
const SAMPLES = 40;
/** How many rows are looked at to find the headings. */
const HEAD = 50;
/** Rows by which dependencies and sets of columns are judged; keys and relations are held against all. */
const JUDGED = 200_000;

/** Gathers one sheet, some rows at a time. */
export class SheetProfile {
  readonly columns: ColumnProfile[] = [];
  header: Header = { skip: 0, at: null, names: [] };
  headerRow: number | null = null;
  /** The first rows below the headings. */
  readonly samples: (readonly Cell[])[] = [];
  private head: { number: number; row: readonly Cell[] }[] | null = [];
  private readonly numbers = integers();
  private readonly codeLists = new Map<number, Int32Array>();
  private readonly distincts = new Map<number, Float64Array>();

  constructor(readonly name: string) {}

  add({ numbers, rows }: SheetRows): void {
    rows.forEach((row, i) => {
      if (row.every((cell) => tidy(textOf(cell)) === '')) return;
      const number = numbers[i] ?? 0;
      if (this.head === null) this.row(row, number);
      else if (this.head.push({ number, row }) === HEAD) this.begin();
    });
  }

  /** All rows have come. */
  end(): void {
    if (this.head !== null) this.begin();
    for (const column of this.columns) column.end();
  }

  get rows(): number {
    return this.numbers.length;
  }

  /** The number in the file of the row at `index`. */
  rowNumber(index: number): number {
    return this.numbers.view()[index] ?? 0;
  }

  get names(): readonly string[] {
    return this.header.names;
  }

  /** The different values of a column without case, spaces and accents, as hashes in order. */
  distinct(at: number): Float64Array {
    const known = this.distincts.get(at) ?? this.columns[at]?.distinct() ?? new Float64Array(0);
    this.distincts.set(at, known);
    return known;
  }

  /** Each of the first rows' value as a number from 0, -1 where blank. */
  codes(at: number): Int32Array {
    const known = this.codeLists.get(at);
    if (known !== undefined) return known;
    const hashes = (this.columns[at]?.folded.view() ?? new Float64Array(0)).subarray(0, JUDGED);
    const distinct = hashes.length < this.rows ? distinctOf(hashes) : this.distinct(at);
    const codes = Int32Array.from(hashes, (hash) => (hash === 0 ? -1 : placeIn(distinct, hash)));
    this.codeLists.set(at, codes);
    return codes;
  }

  private begin(): void {
    const head = this.head ?? [];
    this.head = null;
    this.header = headerOf(head.map(({ row }) => row));
    this.headerRow = this.header.at === null ? null : (head[this.header.at]?.number ?? null);
    for (const { row, number } of head.slice(this.header.skip)) this.row(row, number);
  }

  private row(row: readonly Cell[], number: number): void {
    while (this.columns.length < Math.max(row.length, this.header.names.length)) this.column();
    this.numbers.push(number);
    if (this.samples.length < SAMPLES) this.samples.push(row);
    for (let i = 0; i < this.columns.length; i++) this.columns[i]?.add(row[i] ?? '', number);
  }

  /** A column that begins late was blank before. */
  private column(): void {
    const column = new ColumnProfile();
    for (let i = 0; i < this.numbers.length; i++) column.add('', 0);
    this.columns.push(column);
    if (this.columns.length > this.header.names.length) this.header = { ...this.header, names: [...this.header.names, `Column ${this.columns.length}`] };
  }
}
