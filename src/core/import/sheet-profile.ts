import { beginning, textOf, tidy, type Cell, type Numbered, type SheetRows } from './cell';
import { ColumnProfile } from './column-profile';
import type { TopRow, TotalsRow } from './detection';
import { distinctOf, integers } from './growing';
import { headerOf, type Header } from './header';
import { everyRow } from './row-span';
import { TextRows } from './text-rows';
import { totalsRow } from './totals';

/** How many rows are kept to show what would come of them. */
const SAMPLES = 40;
/** How many rows are looked at to find the headings. */
const HEAD = 50;
/** How many rows the headings may be said to stand in. */
const TOP = 12;
/** Different values that are remembered of all columns together, and of one at most: about 200 bytes each. */
const [REMEMBERED, OF_ONE] = [500_000, 65_536];
/** Rows by which dependencies and sets of columns are judged; keys and relations are held against all. */
const JUDGED = 200_000;

/** Gathers one sheet, some rows at a time. */
export class SheetProfile {
  readonly columns: ColumnProfile[] = [];
  header: Header = { skip: 0, at: null, names: [] };
  headerRow: number | null = null;
  /** The first rows below the headings. */
  readonly samples: (readonly Cell[])[] = [];
  /** The first rows as they stand, to say which of them holds the headings. */
  readonly top: TopRow[] = [];
  /** The last row, where it is one of totals. */
  totals: TotalsRow | null = null;
  private head: Numbered[] | null = [];
  /** The last row so far: whether it is a record is seen when all others are known. */
  private held: Numbered | null = null;
  private readonly numbers = integers();
  private readonly codeLists = new Map<number, Int32Array>();
  private readonly distincts = new Map<number, Float64Array>();
  private readonly exacts = new Map<number, Float64Array>();

  /** `headings` is the row in which somebody said they stand, 0 for none; without it they are looked for. */
  constructor(
    readonly name: string,
    private readonly headings?: number,
  ) {}

  add(given: SheetRows): void {
    if (this.head === null && given instanceof TextRows) return this.takeTexts(given);
    const { numbers, rows } = given;
    let some: Numbered[] = [];
    rows.forEach((row, i) => {
      if (row.every((cell) => tidy(textOf(cell)) === '')) return;
      const one = { number: numbers[i] ?? 0, row };
      if (this.head === null) some.push(one);
      else if (this.head.push(one) === HEAD) some = this.begin();
    });
    this.take(some);
  }

  /** All rows have come. */
  end(): void {
    if (this.head !== null) this.take(this.begin());
    for (const column of this.columns) column.end();
    if (this.held === null) return;
    this.totals = totalsRow(this.held, this);
    if (this.totals !== null) return;
    this.note([this.held]);
    // It may have brought a column of its own.
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

  /** The same as they are written. */
  exact(at: number): Float64Array {
    const known = this.exacts.get(at) ?? distinctOf(this.columns[at]?.exact.view() ?? new Float64Array(0));
    this.exacts.set(at, known);
    return known;
  }

  /** Each of the first rows' value as a number from 0, -1 where blank. */
  codes(at: number): Int32Array {
    const known = this.codeLists.get(at);
    if (known !== undefined) return known;
    const codes = this.columns[at]?.places(JUDGED, this.distinct(at)) ?? new Int32Array(0);
    this.codeLists.set(at, codes);
    return codes;
  }

  /** Finds the headings; gives the rows below them. */
  private begin(): Numbered[] {
    const head = this.head ?? [];
    this.head = null;
    const said =
      this.headings === undefined || this.headings === 0
        ? -1
        : head.findIndex(({ number }) => number === this.headings);
    this.header = headerOf(
      head.map(({ row }) => row),
      this.headings === 0 || said >= 0 ? said : undefined,
    );
    this.top.push(...head.slice(0, TOP).map(({ number, row }) => ({ row: number, text: beginning(row) })));
    this.headerRow = this.header.at === null ? null : (head[this.header.at]?.number ?? null);
    return head.slice(this.header.skip);
  }

  private take(rows: readonly Numbered[]): void {
    const last = rows.at(-1);
    if (last === undefined) return;
    this.note([...(this.held === null ? [] : [this.held]), ...rows.slice(0, -1)]);
    this.held = last;
  }

  /** Column after column: what is known of one stays near while its cells are gone through. */
  private note(rows: readonly Numbered[]): void {
    const width = rows.reduce((most, { row }) => Math.max(most, row.length), this.header.names.length);
    while (this.columns.length < width) this.column();
    for (const { number, row } of rows) {
      this.numbers.push(number);
      if (this.samples.length < SAMPLES) this.samples.push(row);
    }
    this.columns.forEach((column, i) => {
      for (const { number, row } of rows) column.add(row[i] ?? '', number);
    });
  }

  private takeTexts(rows: TextRows): void {
    const all = rows.linesWithin(everyRow);
    const last = all.at(-1);
    if (last === undefined) return;
    if (this.held !== null) this.note([this.held]);
    this.held = { number: rows.numberOf(last), row: rows.rowAt(last) };
    const lines = all.subarray(0, -1);
    const width = lines.reduce((most, line) => Math.max(most, rows.widthOf(line)), this.header.names.length);
    while (this.columns.length < width) this.column();
    const numbers = this.numbers.extended(lines.length, 0);
    lines.forEach((line, i) => (numbers[i] = rows.numberOf(line)));
    for (const line of lines.subarray(0, SAMPLES - this.samples.length)) this.samples.push(rows.rowAt(line));
    this.columns.forEach((column, at) => column.addAll(rows, lines, at));
  }

  /** A column that begins late was blank before. */
  private column(): void {
    const column = new ColumnProfile(
      Math.min(OF_ONE, Math.ceil(REMEMBERED / Math.max(1, this.header.names.length))),
    );
    column.addBlanks(this.numbers.length);
    this.columns.push(column);
    if (this.columns.length > this.header.names.length)
      this.header = { ...this.header, names: [...this.header.names, `Column ${this.columns.length}`] };
  }
}
