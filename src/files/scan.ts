import { isAscii } from 'node:buffer';
import { A_BEGINS, A_TAKES, B_BEGINS, B_TAKES } from '../core/import/hash';
import type { Scanned } from '../core/import/text-rows';
import { fileLimits, RefusedFile } from './refused-file';

const [QUOTE, RETURN, FEED] = [34, 13, 10];

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

/** Room for what scans find, used again for one piece of a file after the other: what a scan gave holds until the next one of the same room. */
export class ScanRoom {
  starts: Int32Array = new Int32Array(1 << 10);
  ends: Int32Array = new Int32Array(1 << 10);
  a: Int32Array = new Int32Array(1 << 10);
  b: Int32Array = new Int32Array(1 << 10);

  grow(): void {
    const larger = (list: Int32Array): Int32Array => {
      const next = new Int32Array(list.length * 2);
      next.set(list);
      return next;
    };
    [this.starts, this.ends, this.a, this.b] = [larger(this.starts), larger(this.ends), larger(this.a), larger(this.b)];
  }
}

/**
 * The whole rows of a text in UTF-8: cells between delimiters, rows between ends of lines, cells that begin with a quote up to the quote that
 * ends them (RFC 4180). All signs that matter are single bytes, which never stand within another letter. `last`: nothing follows, so the text
 * ends the last row. `rowsBefore` is for what is refused.
 */
export function scan(bytes: Buffer, written: Written, last: boolean, rowsBefore: number, room = new ScanRoom()): Scan {
  return new Scanner(bytes, written, last, rowsBefore, room).rows();
}

/** What comes after a cell: another one, the end of its row, or nothing yet, so that it may go on in the next piece. `stuck`: none of these. */
type After = 'cell' | 'row' | 'end' | 'unknown' | 'stuck';

class Scanner {
  private readonly rowStarts: number[] = [0];
  private readonly unquoted = new Map<number, string>();
  private readonly slice: (start: number, end: number) => string;
  private readonly between: number;
  private readonly ending: number;
  private readonly wide: boolean;
  private count = 0;
  private at = 0;

  constructor(private readonly bytes: Buffer, { delimiter, newline }: Written, private readonly last: boolean, private readonly rowsBefore: number, private readonly room: ScanRoom) {
    [this.between, this.ending, this.wide] = [delimiter.charCodeAt(0), newline === '\n' ? FEED : RETURN, newline === '\r\n'];
    this.slice = sliceOf(bytes);
  }

  rows(): Scan {
    let rest = 0;
    for (;;) {
      const after = this.bytes[this.at] === QUOTE ? this.quoted() : this.plain();
      if (after === 'cell') continue;
      if (after === 'stuck' || after === 'unknown') return { scanned: this.scanned(), rest, stuck: after === 'stuck' };
      this.rowStarts.push(this.count);
      rest = this.at;
      if (after === 'end' || (!this.last && rest === this.bytes.length)) return { scanned: this.scanned(), rest, stuck: false };
    }
  }

  /** As many cells without quotes as follow one another in a row, in one go: most of a file is nothing else. */
  private plain(): After {
    const { bytes, between, ending } = this;
    // What a loop reads at each byte is at hand in it, rather than looked up in another file.
    const takesA = A_TAKES;
    const takesB = B_TAKES;
    const size = bytes.length;
    for (let at = this.at; ; ) {
      const start = at;
      let a = A_BEGINS;
      let b = B_BEGINS;
      let byte = -1;
      for (; at < size; at++) {
        byte = bytes[at] as number;
        if (byte === between || (byte === ending && (!this.wide || this.isWide(at)))) break;
        a = Math.imul(a ^ byte, takesA);
        b = Math.imul(b ^ byte, takesB);
      }
      if (at < size && byte === between) {
        this.take(start, at++, a, b);
        if (bytes[at] !== QUOTE && at < size) continue;
        this.at = at;
        return 'cell';
      }
      this.at = at;
      const after = this.after();
      if (after !== 'unknown') this.take(start, at, a, b);
      return after;
    }
  }

  private quoted(): After {
    const { bytes } = this;
    const takesA = A_TAKES;
    const takesB = B_TAKES;
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
      a = Math.imul(a ^ byte, takesA);
      b = Math.imul(b ^ byte, takesB);
    }
    this.at = at + 1;
    const after = this.after();
    if (after === 'unknown' || after === 'stuck') return after;
    if (doubled) this.unquoted.set(this.count, this.slice(start, at).replaceAll('""', '"'));
    this.take(start, at, a, b);
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

  private take(start: number, end: number, a: number, b: number): void {
    const { room, count, rowStarts } = this;
    if (end - start > fileLimits.cell && this.slice(start, end).length > fileLimits.cell) throw this.refused('cell-too-long', fileLimits.cell);
    if (count - (rowStarts[rowStarts.length - 1] ?? 0) >= fileLimits.columns) throw this.refused('too-many-columns', fileLimits.columns);
    if (count === room.starts.length) room.grow();
    room.starts[count] = start;
    room.ends[count] = end;
    room.a[count] = a;
    room.b[count] = b;
    this.count++;
  }

  private refused(fault: 'cell-too-long' | 'too-many-columns', most: number): RefusedFile {
    return new RefusedFile(fault, { most, row: this.rowsBefore + this.rowStarts.length });
  }

  /** Only whole rows: cells of one that was begun are left for the next time. */
  private scanned(): Scanned {
    const { starts, ends, a, b } = this.room;
    const count = this.rowStarts.at(-1) ?? 0;
    return { bytes: this.bytes, slice: this.slice, rowStarts: Int32Array.from(this.rowStarts), starts: starts.subarray(0, count), ends: ends.subarray(0, count), a: a.subarray(0, count), b: b.subarray(0, count), unquoted: this.unquoted };
  }
}

/** Where all letters are single bytes, the whole is made a text once, and its parts are views of it. */
function sliceOf(bytes: Buffer): (start: number, end: number) => string {
  if (!isAscii(bytes)) return (start, end) => bytes.toString('utf8', start, end);
  let text: string | null = null;
  return (start, end) => (text ??= bytes.toString('latin1')).slice(start, end);
}
