import { isAscii } from 'node:buffer';
import * as hash from '../core/import/hash';
import type { Scanned } from '../core/import/text-rows';
import { fileLimits, RefusedFile } from './refused-file';

/** As names of this file the engine takes them for what they are; those of another it would look up at each byte. */
const A_BEGINS = hash.A_BEGINS;
const B_BEGINS = hash.B_BEGINS;
const A_TAKES = hash.A_TAKES;
const B_TAKES = hash.B_TAKES;
const QUOTE = 34;
const RETURN = 13;
const FEED = 10;

export type Newline = '\r\n' | '\n' | '\r';

/** How a file is written. */
export interface Written {
  readonly delimiter: string;
  readonly newline: Newline;
}

interface Scan {
  readonly scanned: Scanned;
  /** Where the first row that is not in it begins. */
  readonly rest: number;
  /** Whether what follows is written in another way than CSV is: quotes that end within a cell, or never. */
  readonly stuck: boolean;
}

/**
 * Room for what scans find, used again for one piece of a file after the other: what a scan gave holds until
 * the next one of the same room.
 */
export class ScanRoom {
  rowStarts: Int32Array = new Int32Array(1 << 10);
  starts: Int32Array = new Int32Array(1 << 10);
  ends: Int32Array = new Int32Array(1 << 10);
  a: Int32Array = new Int32Array(1 << 10);
  b: Int32Array = new Int32Array(1 << 10);

  /** Room for a cell more than there are. */
  reserve(cells: number): void {
    if (cells < this.starts.length) return;
    [this.starts, this.ends, this.a, this.b] = [
      larger(this.starts),
      larger(this.ends),
      larger(this.a),
      larger(this.b),
    ];
  }

  endRow(row: number, cells: number): void {
    if (row === this.rowStarts.length) this.rowStarts = larger(this.rowStarts);
    this.rowStarts[row] = cells;
  }
}

function larger(list: Int32Array): Int32Array {
  const next = new Int32Array(list.length * 2);
  next.set(list);
  return next;
}

/**
 * The whole rows of a text in UTF-8: cells between delimiters, rows between ends of lines, cells that begin
 * with a quote up to the quote that ends them (RFC 4180). All signs that matter are single bytes, which never
 * stand within another letter. `last`: nothing follows, so the text ends the last row. `rowsBefore` is for
 * what is refused.
 */
export function scan(
  bytes: Buffer,
  written: Written,
  last: boolean,
  rowsBefore: number,
  room = new ScanRoom(),
): Scan {
  return new Scanner(bytes, written, last, rowsBefore, room).rows();
}

/**
 * What comes after a cell: another one, the end of its row, or nothing yet, so that it may go on in the next
 * piece. `stuck`: none of these.
 */
type After = 'cell' | 'row' | 'end' | 'unknown' | 'stuck';

class Scanner {
  private readonly unquoted = new Map<number, string>();
  private readonly slice: (start: number, end: number) => string;
  private readonly between: number;
  private readonly ending: number;
  private readonly wide: boolean;
  private at = 0;
  private count = 0;
  private rowsFound = 0;
  /** How many cells stand before the row. */
  private before = 0;

  constructor(
    private readonly bytes: Buffer,
    { delimiter, newline }: Written,
    private readonly last: boolean,
    private readonly rowsBefore: number,
    private readonly room: ScanRoom,
  ) {
    [this.between, this.ending, this.wide] = [
      delimiter.charCodeAt(0),
      newline === '\n' ? FEED : RETURN,
      newline === '\r\n',
    ];
    this.slice = sliceOf(bytes);
  }

  rows(): Scan {
    const { bytes } = this;
    let rest = 0;
    for (;;) {
      this.room.reserve(this.count);
      const after = bytes[this.at] === QUOTE ? this.quoted() : this.plain();
      if (after === 'cell') continue;
      this.guardRow();
      if (after === 'stuck' || after === 'unknown')
        return { scanned: this.scanned(), rest, stuck: after === 'stuck' };
      rest = this.at;
      this.endRow();
      if (after === 'end' || (!this.last && rest === bytes.length))
        return { scanned: this.scanned(), rest, stuck: false };
    }
  }

  /**
   * As many cells without quotes as follow one another in a row, in one go: most of a file is nothing else.
   * What is asked for at each byte and cell has a name of its own here, and there are few of them: looking
   * things up elsewhere takes twice the time of all the rest.
   */
  private plain(): After {
    const { bytes, between, ending, wide } = this;
    const { starts, ends, a: ofA, b: ofB } = this.room;
    const size = bytes.length;
    let { at, count } = this;
    for (const most = starts.length; count < most;) {
      const start = at;
      let a = A_BEGINS;
      let b = B_BEGINS;
      let byte = -1;
      for (; at < size; at++) {
        byte = bytes[at] as number;
        if (byte === between || (byte === ending && (!wide || this.isWide(at)))) break;
        a = Math.imul(a ^ byte, A_TAKES);
        b = Math.imul(b ^ byte, B_TAKES);
      }
      starts[count] = start;
      ends[count] = at;
      ofA[count] = a;
      ofB[count] = b;
      if (byte !== between) {
        this.at = at;
        this.count = count;
        const after = this.after();
        if (after !== 'unknown') this.count++;
        return after;
      }
      count++;
      at++;
      if (at >= size || bytes[at] === QUOTE) break;
    }
    this.at = at;
    this.count = count;
    return 'cell';
  }

  private quoted(): After {
    const { bytes, count, room } = this;
    const size = bytes.length;
    const start = ++this.at;
    let a = A_BEGINS;
    let b = B_BEGINS;
    let at = start;
    let doubled = false;
    for (; ; at++) {
      if (at >= size) return this.last ? 'stuck' : 'unknown';
      const byte = bytes[at] as number;
      if (byte === QUOTE) {
        if (bytes[at + 1] !== QUOTE) break;
        doubled = true;
        at++;
      }
      a = Math.imul(a ^ byte, A_TAKES);
      b = Math.imul(b ^ byte, B_TAKES);
    }
    this.at = at + 1;
    const after = this.after();
    if (after === 'unknown' || after === 'stuck') return after;
    if (doubled) this.unquoted.set(count, this.slice(start, at).replaceAll('""', '"'));
    room.starts[count] = start;
    room.ends[count] = at;
    room.a[count] = a;
    room.b[count] = b;
    this.count++;
    return after;
  }

  /** What stands where a cell ended; goes past it. */
  private after(): After {
    const { bytes, at } = this;
    if (at >= bytes.length) return this.last ? 'end' : 'unknown';
    const byte = bytes[at];
    if (byte === this.between) return (this.at++, 'cell');
    if (byte !== this.ending) return 'stuck';
    if (!this.wide) return (this.at++, 'row');
    if (at + 1 >= bytes.length && !this.last) return 'unknown';
    if (bytes[at + 1] !== FEED) return 'stuck';
    this.at += 2;
    return 'row';
  }

  /** Whether a return ends the row, or may do so: the next piece tells. */
  private isWide(at: number): boolean {
    return at + 1 < this.bytes.length ? this.bytes[at + 1] === FEED : !this.last;
  }

  private endRow(): void {
    this.before = this.count;
    this.room.endRow(++this.rowsFound, this.count);
  }

  /** Only a row that is as long as a cell may be can have a cell that is longer. */
  private guardRow(): void {
    const {
      count,
      before,
      room: { starts, ends },
    } = this;
    if (count - before > fileLimits.columns) throw this.refused('too-many-columns', fileLimits.columns);
    if ((ends[count - 1] ?? 0) - (starts[before] ?? 0) <= fileLimits.cell) return;
    for (let i = before; i < count; i++) {
      const [start = 0, end = 0] = [starts[i], ends[i]];
      if (end - start > fileLimits.cell && this.slice(start, end).length > fileLimits.cell)
        throw this.refused('cell-too-long', fileLimits.cell);
    }
  }

  private refused(fault: 'cell-too-long' | 'too-many-columns', most: number): RefusedFile {
    return new RefusedFile(fault, { most, row: this.rowsBefore + this.rowsFound + 1 });
  }

  /** Only whole rows: cells of one that was begun are left for the next time. */
  private scanned(): Scanned {
    const { before: count } = this;
    const { rowStarts, starts, ends, a, b } = this.room;
    return {
      bytes: this.bytes,
      slice: this.slice,
      rowStarts: rowStarts.subarray(0, this.rowsFound + 1),
      starts: starts.subarray(0, count),
      ends: ends.subarray(0, count),
      a: a.subarray(0, count),
      b: b.subarray(0, count),
      unquoted: this.unquoted,
    };
  }
}

/** Where all letters are single bytes, the whole is made a text once, and its parts are views of it. */
function sliceOf(bytes: Buffer): (start: number, end: number) => string {
  if (!isAscii(bytes)) return (start, end) => bytes.toString('utf8', start, end);
  let text: string | null = null;
  return (start, end) => (text ??= bytes.toString('latin1')).slice(start, end);
}
