import type { ColumnKind } from '../../../core/table/model';
import { unreachable } from '../../../core/kernel/result';
import { listStored } from '../../../core/table/kinds/stored-list';

/** Bytes that grow: values are written at their end. */
export class Bytes {
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

  /**
   * A number of four bytes where there is room for it already. The library's own way looks at what it is
   * given, which costs more than the writing.
   */
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

  byte(n: number): void {
    this.room(1);
    this.list[this.size++] = n;
  }
}

export type Write = (value: string, to: Bytes) => void;

/** A value as the type of its kind is sent; kinds that share a type share this. */
export function writerOf(kind: ColumnKind): Write {
  switch (kind) {
    case 'text':
    case 'choice':
    case 'e-mail':
    case 'web-address':
    case 'phone':
      return (value, to) => to.text(value);
    case 'whole':
    case 'decimal':
    case 'money':
      return numeric;
    case 'yes-no':
      return (value, to) => to.byte(value === 'true' ? 1 : 0);
    case 'date':
      return (value, to) => to.int32(daysOf(value));
    case 'time':
      return (value, to) => to.int64(microseconds(secondsOf(value)));
    case 'date-time':
      return (value, to) => to.int64(microseconds(daysOf(value) * 86_400 + secondsOf(value.slice(-8))));
    case 'choices':
      return texts;
    case 'files':
      return uuids;
    case 'reference':
      return uuid;
    default:
      return unreachable(kind);
  }
}

const TEXT_OID = 25;

/** How many dimensions, whether any is empty, of what type, how many, from which index, and each with its length before it. */
function texts(value: string, to: Bytes): void {
  const list = listStored(value) ?? [];
  for (const part of [1, 0, TEXT_OID, list.length, 1]) to.int32(part);
  for (const text of list) {
    const at = to.size;
    to.int32(0);
    to.text(text);
    to.lengthAt(at, to.size - at - 4);
  }
}

const UUID_OID = 2950;

function uuids(value: string, to: Bytes): void {
  const list = listStored(value) ?? [];
  for (const part of [1, 0, UUID_OID, list.length, 1]) to.int32(part);
  for (const id of list) {
    to.int32(16);
    uuid(id, to);
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
  return (
    new Date(0).setUTCFullYear(
      Number(iso.slice(0, 4)),
      Number(iso.slice(5, 7)) - 1,
      Number(iso.slice(8, 10)),
    ) /
      DAY -
    FIRST_DAY
  );
}

const secondsOf = (time: string): number =>
  Number(time.slice(0, 2)) * 3_600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8));
const microseconds = (seconds: number): bigint => BigInt(seconds) * 1_000_000n;

const DASH = 45;

/** Digits of 16 are letters from `a` and figures; a UUID has nothing else but dashes. */
export function uuid(value: string, to: Bytes): void {
  to.room(16);
  const { list } = to;
  for (let i = 0; i < value.length; i++) {
    const sign = value.charCodeAt(i);
    if (sign === DASH) continue;
    list[to.size++] = (nibble(sign) << 4) | nibble(value.charCodeAt(++i));
  }
}
const nibble = (sign: number): number => (sign & 15) + (sign >> 6) * 9;
