import type { SheetRows } from './cell';
import { bytesOf } from './hash';
import { isWithin, type RowSpan } from './row-span';

/** What a scan found in a text: cells one after the other, rows as where their first cell stands in that order. */
export interface Scanned {
  /** The text as UTF-8. */
  readonly bytes: Uint8Array;
  /** A part of it as a text of its own. */
  readonly slice: (start: number, end: number) => string;
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
 * Rows of a text as they stand in it. A cell becomes a text of its own only when it is asked for: of a
 * million rows most cells repeat one that is known, and making them, looking them up and throwing them away
 * was two thirds of an import.
 */
export class TextRows implements SheetRows {
  private made: readonly (readonly string[])[] | null = null;

  /** `before` is how many rows of the sheet came before these. */
  constructor(
    readonly scanned: Scanned,
    private readonly before: number,
  ) {}

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
    if (place < 0) return '';
    const { slice, starts, ends, unquoted } = this.scanned;
    return (
      (unquoted.size === 0 ? undefined : unquoted.get(place)) ?? slice(starts[place] ?? 0, ends[place] ?? 0)
    );
  }

  /** Whether a cell is the text that `kept` holds under `known`, letter for letter. */
  isKept(place: number, kept: KeptTexts, known: number): boolean {
    const { bytes, starts, ends, unquoted } = this.scanned;
    const special = unquoted.size === 0 ? undefined : unquoted.get(place);
    return special === undefined
      ? kept.is(known, bytes, starts[place] ?? 0, ends[place] ?? 0)
      : kept.isText(known, special);
  }

  isBlank(row: number): boolean {
    const { rowStarts, bytes, starts, ends } = this.scanned;
    for (let place = rowStarts[row] ?? 0, next = rowStarts[row + 1] ?? 0; place < next; place++) {
      const start = starts[place] as number;
      if (start === ends[place]) continue;
      // What begins with a letter, a figure or a sign is not asked for as a text.
      const first = bytes[start] as number;
      if ((first > SPACE && first < WIDE) || this.textAt(place).trim() !== '') return false;
    }
    return true;
  }

  /** Rows of the span that hold something. */
  linesWithin(span: RowSpan): Int32Array {
    const lines = new Int32Array(this.count);
    let found = 0;
    for (let row = 0; row < lines.length; row++)
      if (isWithin(this.numberOf(row), span) && !this.isBlank(row)) lines[found++] = row;
    return lines.subarray(0, found);
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

const SPACE = 32;
/** From here on bytes begin letters that are not of ASCII, wide spaces among them. */
const WIDE = 127;

/** How many rows there are, without making texts of them. */
export const countOf = (rows: SheetRows): number =>
  rows instanceof TextRows ? rows.count : rows.rows.length;

/** Texts one after the other in one list of bytes, to be held against others quickly. */
export class KeptTexts {
  private bytes = new Uint8Array(1 << 12);
  private ends = new Int32Array(1 << 8);
  private count = 0;

  add(text: string): void {
    const start = this.startOf(this.count);
    const own = bytesOf(text);
    if (start + own.length > this.bytes.length) this.bytes = widened(this.bytes, start + own.length);
    this.bytes.set(own, start);
    if (this.count === this.ends.length) this.ends = widened(this.ends, this.count + 1);
    this.ends[this.count++] = start + own.length;
  }

  /** In bytes. */
  get size(): number {
    return this.startOf(this.count);
  }

  /** Whether the text at `known` is that from `start` to `end` among other bytes. */
  is(known: number, among: Uint8Array, start: number, end: number): boolean {
    const own = this.startOf(known);
    const { bytes } = this;
    if ((this.ends[known] ?? 0) - own !== end - start) return false;
    for (let i = end - start - 1; i >= 0; i--) if (bytes[own + i] !== among[start + i]) return false;
    return true;
  }

  isText(known: number, text: string): boolean {
    const bytes = bytesOf(text);
    return this.is(known, bytes, 0, bytes.length);
  }

  private startOf(known: number): number {
    return known === 0 ? 0 : (this.ends[known - 1] ?? 0);
  }
}

function widened<A extends Uint8Array | Int32Array>(list: A, least: number): A {
  const size = Math.max(list.length * 2, least);
  const larger = (list instanceof Uint8Array ? new Uint8Array(size) : new Int32Array(size)) as A;
  larger.set(list);
  return larger;
}

/**
 * Finds things by two hashes of their text: 64 bits, so that two of a million different texts are taken for
 * one in one file of ten millions. What is asked of a slot stands side by side in it, for memory far apart is
 * what looking up costs.
 */
export class HashIndex {
  /** Four to a slot: the number of what is in it, from 1; its two hashes; nothing. */
  private slots = new Int32Array(4 << 10);
  private count = 0;

  get size(): number {
    return this.count;
  }

  /** The number it got when it was added; -1 when it is not there. */
  find(a: number, b: number): number {
    const { slots } = this;
    const mask = slots.length - 1;
    for (let at = (slotOf(a, b) << 2) & mask; ; at = (at + 4) & mask) {
      const known = slots[at] as number;
      if (known === 0 || (slots[at + 1] === a && slots[at + 2] === b)) return known - 1;
    }
  }

  /** Of what is not there yet; numbers go up from 0. */
  add(a: number, b: number): number {
    if (this.count === this.slots.length >> 3) this.grow();
    this.place(++this.count, a, b);
    return this.count - 1;
  }

  private place(known: number, a: number, b: number): void {
    const { slots } = this;
    const mask = slots.length - 1;
    let at = (slotOf(a, b) << 2) & mask;
    while (slots[at] !== 0) at = (at + 4) & mask;
    slots[at] = known;
    slots[at + 1] = a;
    slots[at + 2] = b;
  }

  /** Never more than half full. */
  private grow(): void {
    const { slots } = this;
    this.slots = new Int32Array(slots.length * 2);
    for (let at = 0; at < slots.length; at += 4)
      if (slots[at] !== 0) this.place(slots[at] as number, slots[at + 1] as number, slots[at + 2] as number);
  }
}

/** The low bits of a product know only those below them, so the high ones are brought down. */
function slotOf(a: number, b: number): number {
  const mixed = a ^ (a >>> 15) ^ Math.imul(b ^ (b >>> 13), 0x297a2d39);
  return mixed ^ (mixed >>> 16);
}
