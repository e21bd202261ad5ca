import { owned } from './cell';

/** How many different keys are kept, and after how many questions it is seen whether keeping them is worth it. */
const [MOST, TRIAL] = [4_096, 20_000];
/** A question costs a tenth of an answer; with fewer known than one in five, asking does not pay. */
const WORTH = 0.2;

/**
 * Remembers what was worked out for a text, for most columns hold the same values again and again: reading a cell anew takes about a
 * microsecond, finding it a tenth of that. A column of nothing but different values gives it up.
 */
export class Remembered<V> {
  private known: Map<string, V> | null = new Map();
  private asked = 0;
  private found = 0;

  constructor(private readonly workOut: (text: string) => V) {}

  get(text: string): V {
    const { known } = this;
    if (known === null) return this.workOut(text);
    const before = known.get(text);
    if (before !== undefined) {
      this.found++;
      return before;
    }
    const own = owned(text);
    const now = this.workOut(own);
    if (++this.asked === TRIAL && this.found < (this.found + this.asked) * WORTH) this.known = null;
    if (known.size === MOST) known.clear();
    known.set(own, now);
    return now;
  }
}
