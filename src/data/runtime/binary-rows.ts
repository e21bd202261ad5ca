import type { AsItStands, Fit } from '../../core/import/convert';
import type { MadeRow } from '../../core/import/rows';
import type { TextRows } from '../../core/import/text-rows';
import type { ColumnKind } from '../../core/table/model';
import { unreachable } from '../../core/kernel/result';

/**
 * Rows in the binary form of COPY, which PostgreSQL takes in two thirds of the time of text: nothing is parsed or unescaped there. Every value is
 * laid down once, and copied from there each time it comes again.
 */

/** "PGCOPY" with signs that a changed line end would spoil, no flags, no extension; and what ends the rows. */
export const BEGINNING = Buffer.from('5047434f50590aff0d0a000000000000000000', 'hex');
export const END = Buffer.from('ffff', 'hex');

/** Bytes that grow: values are written at their end. */
class Bytes {
  list = Buffer.allocUnsafeSlow(1 << 12);
  size = 0;

  /** Room for so many more. */
  room(more: number): void {
    if (this.size + more <= this.list.length) return;
    const larger = Buffer.allocUnsafeSlow(Math.max(this.list.length * 2, this.size + more));
    larger.set(this.list.subarray(0, this.size));
    this.list = larger;
  }

  text(text: string): void {
    const start = this.size;
    this.room(text.length * 3);
    const { list } = this;
    for (let i = 0; i < text.length; i++) {
      const unit = text.charCodeAt(i);
      if (unit > 127) {
        this.size = start + list.write(text, start, 'utf8');
        return;
      }
      list[start + i] = unit;
    }
    this.size = start + text.length;
  }

  int16(n: number): void {
    this.room(2);
    const { list, size } = this;
    list[size] = n >> 8;
    list[size + 1] = n;
    this.size = size + 2;
  }

  int32(n: number): void {
    this.room(4);
    this.lengthAt(this.size, n);
    this.size += 4;
  }

  /** A number of four bytes where there is room for it already. The library's own way looks at what it is given, which costs more than the writing. */
  lengthAt(at: number, n: number): void {
    const { list } = this;
    list[at] = n >> 24;
    list[at + 1] = n >> 16;
    list[at + 2] = n >> 8;
    list[at + 3] = n;
  }

  int64(n: bigint): void {
    this.room(8);
    this.size = this.list.writeBigInt64BE(n, this.size);
  }

  /** Some of other bytes. Most values are short, and a loop is quicker for those than a call. */
  take(from: Uint8Array, start: number, end: number): void {
    const size = end - start;
    this.room(size);
    const to = this.list;
    const at = this.size;
    if (size > 64) to.set(from.subarray(start, end), at);
    else for (let i = 0; i < size; i++) to[at + i] = from[start + i] as number;
    this.size = at + size;
  }

  byte(n: number): void {
    this.room(1);
    this.list[this.size++] = n;
  }
}

type Write = (value: string, to: Bytes) => void;

/** A value as the type of its kind is sent; kinds that share a type share this. */
export function writerOf(kind: ColumnKind): Write {
  switch (kind) {
    case 'text': case 'choice': case 'e-mail': case 'web-address': case 'phone': return (value, to) => to.text(value);
    case 'whole': case 'decimal': case 'money': return numeric;
    case 'yes-no': return (value, to) => to.byte(value === 'true' ? 1 : 0);
    case 'date': return (value, to) => to.int32(daysOf(value));
    case 'time': return (value, to) => to.int64(microseconds(secondsOf(value)));
    case 'date-time': return (value, to) => to.int64(microseconds(daysOf(value) * 86_400 + secondsOf(value.slice(-8))));
    case 'reference': return uuid;
    default: return unreachable(kind);
  }
}

/** `-123.45`: how many digits of base 10 000, the power of the first, the sign, how many decimals, the digits. */
function numeric(value: string, to: Bytes): void {
  const negative = value.startsWith('-');
  const [whole = '', fraction = ''] = (negative ? value.slice(1) : value).split('.');
  const left = whole.padStart(Math.ceil(whole.length / 4) * 4, '0');
  const all = left + fraction.padEnd(Math.ceil(fraction.length / 4) * 4, '0');
  const digits = Array.from({ length: all.length / 4 }, (_, i) => Number(all.slice(i * 4, i * 4 + 4)));
  const first = digits.findIndex((digit) => digit !== 0);
  const last = digits.findLastIndex((digit) => digit !== 0);
  const [shown, weight] = first < 0 ? [[], 0] : [digits.slice(first, last + 1), left.length / 4 - 1 - first];
  for (const part of [shown.length, weight]) to.int16(part);
  to.byte(negative && first >= 0 ? 0x40 : 0);
  to.byte(0);
  for (const part of [fraction.length, ...shown]) to.int16(part);
}

const DAY = 86_400_000;
/** PostgreSQL counts from the first of January 2000. */
const FIRST_DAY = Date.UTC(2000, 0, 1) / DAY;

function daysOf(iso: string): number {
  return new Date(0).setUTCFullYear(Number(iso.slice(0, 4)), Number(iso.slice(5, 7)) - 1, Number(iso.slice(8, 10))) / DAY - FIRST_DAY;
}

const secondsOf = (time: string): number => Number(time.slice(0, 2)) * 3_600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8));
const microseconds = (seconds: number): bigint => BigInt(seconds) * 1_000_000n;

const DASH = 45;

/** Digits of 16 are letters from `a` and figures; a UUID has nothing else but dashes. */
function uuid(value: string, to: Bytes): void {
  to.room(16);
  const { list } = to;
  for (let i = 0; i < value.length; i++) {
    const sign = value.charCodeAt(i);
    if (sign === DASH) continue;
    list[to.size++] = (nibble(sign) << 4) | nibble(value.charCodeAt(++i));
  }
}
const nibble = (sign: number): number => (sign & 15) + (sign >> 6) * 9;

/** How much is laid down of one column's values before they are forgotten and laid down anew as they come. */
const MOST = 8 << 20;

/** The values of one column, each with its length before it. */
class Laid {
  readonly bytes = new Bytes();
  /** A value is noted by where it stands in all that was ever laid down; what stands before this is forgotten. */
  forgotten = 0;

  constructor(private readonly write: Write) {}

  add(one: Fit, value: string): void {
    const { bytes } = this;
    if (bytes.size > MOST) [this.forgotten, bytes.size] = [this.forgotten + bytes.size, 0];
    const start = bytes.size;
    bytes.int32(0);
    this.write(value, bytes);
    bytes.lengthAt(start, bytes.size - start - 4);
    one.written = this.forgotten + start;
    one.size = bytes.size - start;
  }
}

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

  /** `before` are the values of the columns that come before those of the kinds. */
  add(before: readonly Before[], { values, text }: Pick<MadeRow, 'values' | 'text'>): void {
    const { out, columns } = this;
    out.int16(before.length + columns.length);
    for (const one of before) this.before(one);
    for (let i = 0; i < columns.length; i++) {
      const value = values[i] as Fit | AsItStands;
      if (typeof value === 'number') this.asItStands(text as TextRows, value);
      else if (value.value === null) out.int32(-1);
      else this.laid(columns[i] as Laid, value, value.value);
    }
  }

  private asItStands({ scanned: { bytes, starts, ends } }: TextRows, place: number): void {
    const start = starts[place] as number;
    const end = ends[place] as number;
    this.out.int32(end - start);
    this.out.take(bytes, start, end);
  }

  private laid(laid: Laid, one: Fit, value: string): void {
    if (one.written < laid.forgotten) laid.add(one, value);
    const start = one.written - laid.forgotten;
    this.out.take(laid.bytes.list, start, start + one.size);
  }

  private before(one: Before): void {
    const { out } = this;
    if (typeof one === 'number') {
      out.int32(4);
      out.int32(one);
      return;
    }
    const place = out.size;
    out.int32(0);
    if ('uuid' in one) uuid(one.uuid, out);
    else out.text(one.text);
    out.lengthAt(place, out.size - place - 4);
  }

  /** All so far; what comes is put elsewhere. */
  taken(): Buffer {
    const { out } = this;
    this.out = new Bytes();
    this.out.room(out.list.length - 4_096);
    return out.list.subarray(0, out.size);
  }
}

export type Before = { readonly uuid: string } | { readonly text: string } | number;
