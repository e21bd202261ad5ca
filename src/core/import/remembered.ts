import { owned } from './cell';
import { hashesOf } from './hash';
import { HashIndex, KeptTexts, type TextRows } from './text-rows';

/** How many different texts are kept where nothing else is said, and after how many answers it is seen whether keeping them is worth it. */
const [MOST, TRIAL] = [4_096, 20_000];
/** How much they may be together, in bytes. */
const MOST_BYTES = 8 << 20;
/** A question costs a tenth of an answer; with fewer known than one in five, asking does not pay. */
const WORTH = 0.2;

/**
 * Remembers what was calculated for a text, for most columns hold the same values again and again: reading a cell anew takes about a
 * microsecond, finding it a tenth of that. A column of nothing but different values gives it up. What is
 * found by its hashes is held against the text itself: no cell is ever taken for another.
 */
export class Remembered<V> {
  /** Null once it is given up. */
  private index: HashIndex | null = new HashIndex();
  private texts = new KeptTexts();
  /** What was calculated, that of a blank first. Another list is begun when these are forgotten. */
  values: V[];
  private asked = 0;
  private found = 0;

  constructor(
    private readonly workOut: (text: string) => V,
    private readonly blank: V,
    private readonly most = MOST,
  ) {
    this.values = [blank];
  }

  get(text: string): V {
    if (text === '') return this.blank;
    if (this.index === null) return this.workOut(text);
    this.begin();
    const [a, b] = hashesOf(text);
    const at = this.index.find(a, b);
    return this.values[at >= 0 && this.texts.isText(at, text) ? this.known(at) : this.met(a, b, text)] as V;
  }

  /** The places that were given so far need not hold any more, so that what became too much may be forgotten. */
  begin(): void {
    if (
      this.index === null
        ? this.values.length > 1
        : this.values.length > this.most || this.texts.size > MOST_BYTES
    )
      this.forget();
  }

  /** Where among the values stands what was calculated for a cell that is not blank; it is made a text of its own only when it is new. */
  placeAt(rows: TextRows, place: number): number {
    const { index } = this;
    if (index === null) return this.values.push(this.workOut(rows.textAt(place))) - 1;
    const a = rows.scanned.a[place] as number;
    const b = rows.scanned.b[place] as number;
    const at = index.find(a, b);
    return at >= 0 && rows.isKept(place, this.texts, at)
      ? this.known(at)
      : this.met(a, b, rows.textAt(place));
  }

  private known(at: number): number {
    this.found++;
    return at + 1;
  }

  /** A text that has the hashes of another is kept beside it, and is not found again. */
  private met(a: number, b: number, text: string): number {
    const own = owned(text);
    const place = this.values.push(this.workOut(own)) - 1;
    if (++this.asked === TRIAL && this.found < (this.found + this.asked) * WORTH) this.index = null;
    this.index?.add(a, b);
    this.texts.add(own);
    return place;
  }

  private forget(): void {
    this.values = [this.blank];
    if (this.index !== null) [this.index, this.texts] = [new HashIndex(), new KeptTexts()];
  }
}
