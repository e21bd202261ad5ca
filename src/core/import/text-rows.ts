import type { SheetRows } from './cell';

/** What a scan found in a text: cells one after the other, rows as where their first cell stands in that order. */
export interface Scanned {
  readonly text: string;
  /** Its letters as numbers. */
  readonly units: Uint16Array;
  /** One more than there are rows: the last says where a next row would begin. */
  readonly rowStarts: Int32Array;
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  /** Two hashes of each cell's text, as `hashesOf` makes them. */
  readonly a: Int32Array;
  readonly b: Int32Array;
  /** Cells that do not stand in the text as they are, for their quotes are doubled there: by place. */
  readonly unquoted: ReadonlyMap<number, string>;
}

/**
 * Rows of a text as they stand in it. A cell becomes a text of its own only when it is asked for: of a million rows most cells repeat one that
 * is known, and making them, looking them up and throwing them away was two thirds of an import.
 */
export class TextRows implements SheetRows {
  private made: readonly (readonly string[])[] | null = null;

  /** `before` is how many rows of the sheet came before these. */
  constructor(readonly scanned: Scanned, private readonly before: number) {}

  get count(): number {
    return this.scanned.rowStarts.length - 1;
  }

  numberOf(row: number): number {
    return this.before + row + 1;
  }

  /** The place of a cell; -1 beyond the end of its row. */
  placeOf(row: number, column: number): number {
    const place = (this.scanned.rowStarts[row] ?? 0) + column;
    return column >= 0 && place < (this.scanned.rowStarts[row + 1] ?? 0) ? place : -1;
  }

  widthOf(row: number): number {
    return (this.scanned.rowStarts[row + 1] ?? 0) - (this.scanned.rowStarts[row] ?? 0);
  }

  isEmpty(place: number): boolean {
    return place < 0 || this.scanned.starts[place] === this.scanned.ends[place];
  }

  textAt(place: number): string {
    const { text, starts, ends, unquoted } = this.scanned;
    return place < 0 ? '' : (unquoted.get(place) ?? text.slice(starts[place], ends[place]));
  }

  /** Whether a cell is the text that `kept` holds under `known`, letter for letter. */
  isKept(place: number, kept: KeptTexts, known: number): boolean {
    const { units, starts, ends, unquoted } = this.scanned;
    const special = unquoted.size === 0 ? undefined : unquoted.get(place);
    return special === undefined ? kept.is(known, units, starts[place] ?? 0, ends[place] ?? 0) : kept.isText(known, special);
  }

  isBlank(row: number): boolean {
    for (let column = 0, width = this.widthOf(row); column < width; column++) {
      const place = this.placeOf(row, column);
      if (!this.isEmpty(place) && this.textAt(place).trim() !== '') return false;
    }
    return true;
  }

  rowAt(row: number): readonly string[] {
    return Array.from({ length: this.widthOf(row) }, (_, column) => this.textAt(this.placeOf(row, column)));
  }

  get numbers(): readonly number[] {
    return Array.from({ length: this.count }, (_, row) => this.numberOf(row));
  }

  get rows(): readonly (readonly string[])[] {
    this.made ??= Array.from({ length: this.count }, (_, row) => this.rowAt(row));
    return this.made;
  }
}

/** How many rows there are, without making texts of them. */
export const countOf = (rows: SheetRows): number => (rows instanceof TextRows ? rows.count : rows.rows.length);

/** Where two hashes of a text begin, and how each takes the next letter; a scan does the same as it goes. */
export const [A_BEGINS, B_BEGINS, A_TAKES, B_TAKES] = [0x9e3779b1 | 0, 0x85ebca6b | 0, 0x5bd1e995, 0x1b873593];

/** The two hashes of a text: [a, b]. */
export function hashesOf(text: string): [number, number] {
  let [a, b] = [A_BEGINS, B_BEGINS];
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    a = Math.imul(a ^ unit, A_TAKES);
    b = Math.imul(b ^ unit, B_TAKES);
  }
  return [a, b];
}

/** Texts one after the other in one list of letters, to be held against others quickly. */
export class KeptTexts {
  private units = new Uint16Array(1 << 12);
  private ends = new Int32Array(1 << 8);
  private count = 0;

  add(text: string): void {
    const start = this.startOf(this.count);
    if (start + text.length > this.units.length) this.units = widened(this.units, start + text.length);
    for (let i = 0; i < text.length; i++) this.units[start + i] = text.charCodeAt(i);
    if (this.count === this.ends.length) this.ends = widened(this.ends, this.count + 1);
    this.ends[this.count++] = start + text.length;
  }

  /** Whether the text at `known` is that from `start` to `end` among other letters. */
  is(known: number, letters: Uint16Array, start: number, end: number): boolean {
    const own = this.startOf(known);
    const { units } = this;
    if ((this.ends[known] ?? 0) - own !== end - start) return false;
    for (let i = end - start - 1; i >= 0; i--) if (units[own + i] !== letters[start + i]) return false;
    return true;
  }

  isText(known: number, text: string): boolean {
    const own = this.startOf(known);
    if ((this.ends[known] ?? 0) - own !== text.length) return false;
    for (let i = 0; i < text.length; i++) if (this.units[own + i] !== text.charCodeAt(i)) return false;
    return true;
  }

  private startOf(known: number): number {
    return known === 0 ? 0 : (this.ends[known - 1] ?? 0);
  }
}

function widened<A extends Uint16Array | Int32Array>(list: A, least: number): A {
  const size = Math.max(list.length * 2, least);
  const larger = (list instanceof Uint16Array ? new Uint16Array(size) : new Int32Array(size)) as A;
  larger.set(list);
  return larger;
}

/** Finds things by two hashes of their text: 64 bits, so that two of a million different texts are taken for one in one file of ten millions. */
export class HashIndex {
  private slots = new Int32Array(1_024).fill(-1);
  private a = new Int32Array(512);
  private b = new Int32Array(512);
  private count = 0;

  get size(): number {
    return this.count;
  }

  /** The number it got when it was added; -1 when it is not there. */
  find(a: number, b: number): number {
    const mask = this.slots.length - 1;
    for (let at = slotOf(a, b) & mask; ; at = (at + 1) & mask) {
      const known = this.slots[at] ?? -1;
      if (known < 0 || (this.a[known] === a && this.b[known] === b)) return known;
    }
  }

  /** Of what is not there yet; numbers go up from 0. */
  add(a: number, b: number): number {
    if (this.count === this.a.length) this.grow();
    this.a[this.count] = a;
    this.b[this.count] = b;
    this.place(this.count);
    return this.count++;
  }

  private place(known: number): void {
    const mask = this.slots.length - 1;
    let at = slotOf(this.a[known] ?? 0, this.b[known] ?? 0) & mask;
    while ((this.slots[at] ?? -1) >= 0) at = (at + 1) & mask;
    this.slots[at] = known;
  }

  /** Never more than half full. */
  private grow(): void {
    const [a, b] = [this.a, this.b];
    this.a = new Int32Array(a.length * 2);
    this.a.set(a);
    this.b = new Int32Array(b.length * 2);
    this.b.set(b);
    this.slots = new Int32Array(this.slots.length * 2).fill(-1);
    for (let known = 0; known < this.count; known++) this.place(known);
  }
}

/** The low bits of a product know only those below them, so the high ones are brought down. */
function slotOf(a: number, b: number): number {
  const mixed = a ^ (a >>> 15) ^ Math.imul(b ^ (b >>> 13), 0x297a2d39);
  return mixed ^ (mixed >>> 16);
}
