import { A_BEGINS, A_TAKES, B_BEGINS, B_TAKES, type Scanned } from '../core/import/text-rows';
import { fileLimits, RefusedFile } from './refused-file';

const [QUOTE, RETURN, FEED] = [34, 13, 10];

export type Newline = '\r\n' | '\n' | '\r';

interface Scan {
  readonly scanned: Scanned;
  /** Where the first row that is not in it begins. */
  readonly rest: number;
  /** Whether what follows is written in another way than CSV is: quotes that end within a cell, or never. */
  readonly stuck: boolean;
}

/** Room for what scans find, used again for one piece of a file after the other: what a scan gave holds until the next one of the same room. */
export class ScanRoom {
  readonly cells = new Cells(1 << 10);
  private bytes = Buffer.allocUnsafeSlow(1 << 12);

  /** The letters of a text as numbers: a text that was put together of pieces is slow to read letter by letter. */
  unitsOf(text: string): Uint16Array {
    if (this.bytes.length < text.length * 2) this.bytes = Buffer.allocUnsafeSlow(text.length * 3);
    this.bytes.write(text, 'utf16le');
    return new Uint16Array(this.bytes.buffer, this.bytes.byteOffset, text.length);
  }
}

/** Int32 lists that grow together. */
class Cells {
  starts: Int32Array;
  ends: Int32Array;
  a: Int32Array;
  b: Int32Array;
  count = 0;

  constructor(first: number) {
    [this.starts, this.ends, this.a, this.b] = [new Int32Array(first), new Int32Array(first), new Int32Array(first), new Int32Array(first)];
  }

  add(start: number, end: number, a: number, b: number): void {
    if (this.count === this.starts.length) this.grow();
    this.starts[this.count] = start;
    this.ends[this.count] = end;
    this.a[this.count] = a;
    this.b[this.count++] = b;
  }

  private grow(): void {
    const larger = (list: Int32Array): Int32Array => {
      const next = new Int32Array(list.length * 2);
      next.set(list);
      return next;
    };
    [this.starts, this.ends, this.a, this.b] = [larger(this.starts), larger(this.ends), larger(this.a), larger(this.b)];
  }
}

/**
 * The whole rows of a text: cells between `delimiter`, rows between `newline`, cells that begin with a quote up to the quote that ends them
 * (RFC 4180). `last`: nothing follows, so the text ends the last row. `rowsBefore` is for what is refused.
 */
export function scan(text: string, delimiter: string, newline: Newline, last: boolean, rowsBefore: number, room = new ScanRoom()): Scan {
  return new Scanner(text, delimiter, newline, last, rowsBefore, room).rows();
}

/** What comes after a cell: another one, the end of its row, or nothing yet, so that it may go on in the next piece. `stuck`: none of these. */
type After = 'cell' | 'row' | 'end' | 'unknown' | 'stuck';

class Scanner {
  private readonly units: Uint16Array;
  private readonly cells: Cells;
  private readonly rowStarts: number[] = [0];
  private readonly unquoted = new Map<number, string>();
  private readonly between: number;
  private readonly ending: number;
  private readonly wide: boolean;
  private at = 0;

  constructor(private readonly text: string, delimiter: string, newline: Newline, private readonly last: boolean, private readonly rowsBefore: number, room: ScanRoom) {
    this.units = room.unitsOf(text);
    this.cells = room.cells;
    this.cells.count = 0;
    [this.between, this.ending, this.wide] = [delimiter.charCodeAt(0), newline === '\n' ? FEED : RETURN, newline === '\r\n'];
  }

  rows(): Scan {
    let rest = 0;
    for (;;) {
      const after = this.units[this.at] === QUOTE ? this.quoted() : this.plain();
      if (after === 'stuck' || after === 'unknown') return { scanned: this.scanned(), rest, stuck: after === 'stuck' };
      if (after === 'cell') continue;
      this.rowStarts.push(this.cells.count);
      rest = this.at;
      if (after === 'end' || (!this.last && rest === this.units.length)) return { scanned: this.scanned(), rest, stuck: false };
    }
  }

  private plain(): After {
    const { units, between, ending } = this;
    const start = this.at;
    let a = A_BEGINS;
    let b = B_BEGINS;
    let at = start;
    for (; at < units.length; at++) {
      const unit = units[at] as number;
      if (unit === between || (unit === ending && (!this.wide || this.isWide(at)))) break;
      a = Math.imul(a ^ unit, A_TAKES);
      b = Math.imul(b ^ unit, B_TAKES);
    }
    this.at = at;
    const after = this.after();
    if (after !== 'unknown') this.take(start, at, a, b);
    return after;
  }

  private quoted(): After {
    const { units } = this;
    const start = ++this.at;
    let a = A_BEGINS;
    let b = B_BEGINS;
    let at = start;
    let doubled = false;
    for (; ; at++) {
      if (at >= units.length) return this.last ? 'stuck' : 'unknown';
      const unit = units[at] as number;
      if (unit === QUOTE) {
        if (units[at + 1] !== QUOTE) break;
        doubled = true;
        at++;
      }
      a = Math.imul(a ^ unit, A_TAKES);
      b = Math.imul(b ^ unit, B_TAKES);
    }
    this.at = at + 1;
    const after = this.after();
    if (after === 'unknown' || after === 'stuck') return after;
    if (doubled) this.unquoted.set(this.cells.count, this.text.slice(start, at).replaceAll('""', '"'));
    this.take(start, at, a, b);
    return after;
  }

  /** What stands where a cell ended; goes past it. */
  private after(): After {
    const { units, at } = this;
    if (at >= units.length) return this.last ? 'end' : 'unknown';
    const unit = units[at];
    if (unit === this.between) return (this.at++, 'cell');
    if (unit !== this.ending) return 'stuck';
    if (!this.wide) return (this.at++, 'row');
    if (at + 1 >= units.length && !this.last) return 'unknown';
    if (units[at + 1] !== FEED) return 'stuck';
    this.at += 2;
    return 'row';
  }

  /** Whether a return ends the row, or may do so: the next piece tells. */
  private isWide(at: number): boolean {
    return at + 1 < this.units.length ? this.units[at + 1] === FEED : !this.last;
  }

  private take(start: number, end: number, a: number, b: number): void {
    const row = this.rowStarts.length;
    if (end - start > fileLimits.cell) throw new RefusedFile('cell-too-long', { most: fileLimits.cell, row: this.rowsBefore + row });
    if (this.cells.count - (this.rowStarts[row - 1] ?? 0) >= fileLimits.columns) throw new RefusedFile('too-many-columns', { most: fileLimits.columns, row: this.rowsBefore + row });
    this.cells.add(start, end, a, b);
  }

  /** Only whole rows: cells of one that was begun are left for the next time. */
  private scanned(): Scanned {
    const { starts, ends, a, b } = this.cells;
    const count = this.rowStarts.at(-1) ?? 0;
    return { text: this.text, units: this.units, rowStarts: Int32Array.from(this.rowStarts), starts: starts.subarray(0, count), ends: ends.subarray(0, count), a: a.subarray(0, count), b: b.subarray(0, count), unquoted: this.unquoted };
  }
}
