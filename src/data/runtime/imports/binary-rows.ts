import type { Converted, Fit, MadeColumn } from '../../../core/import/convert';
import type { MadeRows, Marked } from '../../../core/import/made-rows';
import type { Scanned } from '../../../core/import/text-rows';
import { COUNT_DIGITS, type ColumnKind } from '../../../core/table/model';
import { Bytes, uuid, writerOf, type Write } from './binary-values';

/**
 * Rows in the binary form of COPY, which PostgreSQL takes in two thirds of the time of text: nothing is
 * parsed or unescaped there. Every value is laid down once, and copied from there each time it comes again;
 * column after column, so that what one has laid down stays near.
 */

/** "PGCOPY" with signs that a changed line end would spoil, no flags, no extension; and what ends the rows. */
export const BEGINNING = Buffer.from('5047434f50590aff0d0a000000000000000000', 'hex');
export const END = Buffer.from('ffff', 'hex');

/** The values of one column, each with its length before it, by their places in its list; of none, the length is -1. */
class Laid {
  private bytes = new Bytes();
  private starts: Int32Array = new Int32Array(0);
  private sizes: Int32Array = new Int32Array(0);
  private values: readonly Converted[] = [];

  constructor(private readonly write: Write) {}

  /** Some rows of the column, as a part of all that is written of them. */
  field({ codes, values }: MadeColumn, text: Cells): Field {
    this.begin(values);
    return {
      measure: (sizes) => this.measure(codes, text, sizes),
      write: (to, next) => this.copy(codes, text, to, next),
    };
  }

  /** What was laid down is kept as long as the list is the same. */
  private begin(values: readonly Converted[]): void {
    if (this.values !== values)
      [this.values, this.starts, this.sizes, this.bytes] = [
        values,
        new Int32Array(0),
        new Int32Array(0),
        new Bytes(),
      ];
    const known = this.starts.length;
    if (known >= values.length) return;
    const room = Math.max(values.length, known * 2);
    [this.starts, this.sizes] = [widened(this.starts, room).fill(NOT_YET, known), widened(this.sizes, room)];
  }

  private measure(codes: Int32Array, { starts, ends }: Cells, sizes: Int32Array): void {
    const { starts: laidAt, sizes: laidSizes } = this;
    for (let row = 0; row < codes.length; row++) {
      const code = codes[row] as number;
      if (code < 0 && laidAt[~code] === NOT_YET) this.lay(~code);
      sizes[row] =
        (sizes[row] as number) +
        (code < 0
          ? (laidSizes[~code] as number)
          : LENGTH + (ends[code] as number) - (starts[code] as number));
    }
  }

  private lay(at: number): void {
    const { bytes } = this;
    const { value } = this.values[at] as Fit;
    const start = bytes.size;
    bytes.int32(-1);
    if (value !== null) {
      this.write(value, bytes);
      bytes.lengthAt(start, bytes.size - start - LENGTH);
    }
    this.starts[at] = start;
    this.sizes[at] = bytes.size - start;
  }

  private copy(codes: Int32Array, { bytes, starts, ends }: Cells, to: DataView, next: Int32Array): void {
    const { starts: laidAt, sizes } = this;
    const [laid, text] = [viewOf(this.bytes.list), viewOf(bytes)];
    for (let row = 0; row < codes.length; row++) {
      const code = codes[row] as number;
      const at = next[row] as number;
      next[row] =
        code < 0
          ? copied(laid, laidAt[~code] as number, sizes[~code] as number, to, at)
          : cell(text, starts[code] as number, ends[code] as number, to, at);
    }
  }
}

/** Where the cells of a text stand in it. */
type Cells = Pick<Scanned, 'bytes' | 'starts' | 'ends'>;

const NO_CELLS: Cells = { bytes: new Uint8Array(0), starts: new Int32Array(0), ends: new Int32Array(0) };
const NOT_YET = -1;
/** Bytes of a length, and of an id. */
const [LENGTH, ID] = [4, 16];

function widened(list: Int32Array, size: number): Int32Array {
  const larger = new Int32Array(size);
  larger.set(list);
  return larger;
}

const viewOf = ({ buffer, byteOffset, length }: Uint8Array): DataView =>
  new DataView(buffer, byteOffset, length);

/** Writes a number of four bytes; gives where the next thing goes. */
function int32(n: number, to: DataView, at: number): number {
  to.setInt32(at, n);
  return at + 4;
}

/** Most values are short: for those a loop over four bytes at a time is quicker than a call, and than one over each. */
function copied(from: DataView, start: number, size: number, to: DataView, at: number): number {
  let i = 0;
  for (; i + 4 <= size; i += 4) to.setInt32(at + i, from.getInt32(start + i));
  for (; i < size; i++) to.setUint8(at + i, from.getUint8(start + i));
  return at + size;
}

const cell = (from: DataView, start: number, end: number, to: DataView, at: number): number =>
  copied(from, start, end - start, to, int32(end - start, to, at));

/** A part of each row: adds its size to that of the row, and is written where the row goes on. */
interface Field {
  readonly measure: (sizes: Int32Array) => void;
  readonly write: (to: DataView, next: Int32Array) => void;
}

/** A part that is always as long. */
const fixed = (size: number, write: (row: number, to: DataView, at: number) => void): Field => ({
  measure: (sizes) => {
    for (let row = 0; row < sizes.length; row++) sizes[row] = (sizes[row] as number) + size;
  },
  write: (to, next) => {
    for (let row = 0; row < next.length; row++) {
      const at = next[row] as number;
      write(row, to, at);
      next[row] = at + size;
    }
  },
});

/** How many values follow. */
const countField = (count: number): Field => fixed(2, (_, to, at) => to.setInt16(at, count));

function idField({ ids, marks }: Marked): Field {
  const first = new Bytes();
  uuid(ids.at(0), first);
  const beginning = viewOf(first.list);
  return fixed(LENGTH + ID, (row, to, at) => {
    const mark = marks[row] as number;
    const high = Math.floor(mark / 2 ** 32);
    const own = copied(beginning, 0, ID - 6, to, int32(ID, to, at));
    to.setInt16(own, high);
    int32(mark, to, own + 2);
  });
}

/** Numbers of records: what stands before the count, and the count of the first of them. */
export interface Numbers {
  readonly before: string;
  readonly first: number;
}

function numberField({ before, first }: Numbers): Field {
  const bytes = new Bytes();
  bytes.text(before);
  const [beginning, size] = [viewOf(bytes.list), bytes.size];
  return {
    measure: (sizes) => {
      for (let row = 0; row < sizes.length; row++)
        sizes[row] = (sizes[row] as number) + LENGTH + size + digitsOf(first + row);
    },
    write: (to, next) => {
      for (let row = 0; row < next.length; row++) {
        const digits = digitsOf(first + row);
        const at = copied(beginning, 0, size, to, int32(size + digits, to, next[row] as number));
        for (let i = digits - 1, left = first + row; i >= 0; i--, left = Math.floor(left / 10))
          to.setUint8(at + i, 48 + (left % 10));
        next[row] = at + digits;
      }
    },
  };
}

function digitsOf(count: number): number {
  let digits = COUNT_DIGITS;
  for (let more = 10 ** COUNT_DIGITS; more <= count; more *= 10) digits++;
  return digits;
}

const placeField = (positions: Int32Array): Field =>
  fixed(LENGTH + 4, (row, to, at) => void int32(positions[row] as number, to, int32(4, to, at)));

/** Puts rows together; what is ready is taken away from time to time. */
export class BinaryRows {
  private out = new Bytes();
  private readonly columns: readonly Laid[];

  constructor(kinds: readonly ColumnKind[]) {
    this.columns = kinds.map((kind) => new Laid(writerOf(kind)));
  }

  get size(): number {
    return this.out.size;
  }

  /**
   * Each row has its id, its number and, where it belongs to another, that one's id and its place there,
   * before the values of the kinds.
   */
  add(rows: MadeRows, numbers: Numbers): void {
    const { marks, parents, columns, text } = rows;
    const cells = text?.scanned ?? NO_CELLS;
    const fields = [
      idField(rows),
      numberField(numbers),
      ...(parents === null ? [] : [idField(parents), placeField(parents.positions)]),
      ...this.columns.map((laid, i) => laid.field(columns[i] as MadeColumn, cells)),
    ];
    this.write([countField(fields.length), ...fields], marks.length);
  }

  private write(fields: readonly Field[], count: number): void {
    const { out } = this;
    const next = new Int32Array(count);
    for (const field of fields) field.measure(next);
    let end = out.size;
    for (let row = 0; row < count; row++) {
      const size = next[row] as number;
      next[row] = end;
      end += size;
    }
    out.room(end - out.size);
    out.size = end;
    const to = viewOf(out.list);
    for (const field of fields) field.write(to, next);
  }

  /** All so far; what comes is put elsewhere. */
  taken(): Buffer {
    const { out } = this;
    this.out = new Bytes();
    this.out.room(out.list.length - 4_096);
    return out.list.subarray(0, out.size);
  }
}
