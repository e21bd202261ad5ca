import { owned } from './cell';
import { hashesOf } from './hash';
import { HashIndex, KeptTexts, type TextRows } from './text-rows';

/** How many different texts are kept where nothing else is said, and after how many answers it is seen whether keeping them is worth it. */
const [MOST, TRIAL] = [4_096, 20_000];
/** A question costs a tenth of an answer; with fewer known than one in five, asking does not pay. */
const WORTH = 0.2;

/**
 * Remembers what was worked out for a text, for most columns hold the same values again and again: reading a cell anew takes about a
 * microsecond, finding it a tenth of that. A column of nothing but different values gives it up. What is found by its hashes is held against
 * the text itself: no cell is ever taken for another.
 */
export class Remembered<V> {
  private index: HashIndex | null = new HashIndex();
  private texts = new KeptTexts();
  private values: V[] = [];
  private asked = 0;
  private found = 0;

  constructor(private readonly workOut: (text: string) => V, private readonly most = MOST) {}

  get(text: string): V {
    if (this.index === null) return this.workOut(text);
    const [a, b] = hashesOf(text);
    const at = this.index.find(a, b);
    return at >= 0 && this.texts.isText(at, text) ? this.known(at) : this.met(at, a, b, text);
  }

  /** The same for a cell that stands in a text, which is made a text of its own only when it is new. */
  getAt(rows: TextRows, place: number): V {
    if (this.index === null || place < 0) return this.workOut(rows.textAt(place));
    const a = rows.scanned.a[place] as number;
    const b = rows.scanned.b[place] as number;
    const at = this.index.find(a, b);
    return at >= 0 && rows.isKept(place, this.texts, at) ? this.known(at) : this.met(at, a, b, rows.textAt(place));
  }

  private known(at: number): V {
    this.found++;
    return this.values[at] as V;
  }

  private met(at: number, a: number, b: number, text: string): V {
    // Another text has these hashes already, and keeps them.
    if (at >= 0) return this.workOut(text);
    const own = owned(text);
    const now = this.workOut(own);
    if (++this.asked === TRIAL && this.found < (this.found + this.asked) * WORTH) return this.giveUp(now);
    if (this.values.length >= this.most) this.forget();
    this.index?.add(a, b);
    this.texts.add(own);
    this.values.push(now);
    return now;
  }

  private forget(): void {
    [this.index, this.texts, this.values] = [new HashIndex(), new KeptTexts(), []];
  }

  private giveUp(now: V): V {
    this.forget();
    this.index = null;
    return now;
  }
}
