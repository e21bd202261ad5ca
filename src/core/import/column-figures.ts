import type { CellAt } from './detection';
import type { DecimalSign } from './formats/number';
import { MARK_PAIR, pairsOf } from './formats/words';

/** What a cell looks like by itself. Cells of one class fit the same kinds. */
export type CellClass =
  | 'whole'
  | 'code'
  | 'native-number'
  | 'dot'
  | 'comma'
  | 'either-sign'
  | 'ymd'
  | 'named-day'
  | 'dmy'
  | 'mdy'
  | 'either-order'
  | 'same-order'
  | 'moment'
  | 'time'
  | 'native-yes-no'
  | 'text';

/** How many first cells of each class are kept to be shown. */
export const EXAMPLES = 20;

/** What the cells of a column come to, by which its kind is judged. */
export class ColumnFigures {
  filled = 0;
  longest = 0;
  personLike = 0;
  readonly classes = new Map<CellClass, { count: number; cells: CellAt[] }>();
  readonly pairs = new Map<number, number>();
  readonly contacts = new Map<string, number>();
  readonly currencies = new Map<string, number>();
  readonly units = new Map<string, number>();
  fraction = 0;
  /** What all numbers come to, by the sign before their decimals. */
  readonly sums: Record<DecimalSign, number> = { '.': 0, ',': 0 };
  /** Different values with how often they stand; null when there are too many. */
  values: Map<string, number> | null = new Map();
  /** Words such as `n/a` that may stand for nothing, as they are written, with how often. */
  readonly emptyWords = new Map<string, number>();

  countOf(...names: readonly CellClass[]): number {
    return names.reduce((sum, name) => sum + (this.classes.get(name)?.count ?? 0), 0);
  }

  /** The first cells of all classes but these, by row. */
  cellsBut(names: ReadonlySet<CellClass>): CellAt[] {
    return [...this.classes]
      .flatMap(([name, { cells }]) => (names.has(name) ? [] : cells))
      .sort((a, b) => a.row - b.row)
      .slice(0, EXAMPLES);
  }

  get emptyWordCells(): number {
    return [...this.emptyWords.values()].reduce((sum, count) => sum + count, 0);
  }

  /** The same column, were the cells empty that hold nothing but such a word. They are all of the class of texts. */
  withoutEmptyWords(): ColumnFigures {
    const { emptyWords: words } = this;
    if (words.size === 0) return this;
    const other = new ColumnFigures();
    other.filled = this.filled - this.emptyWordCells;
    other.longest = this.longest;
    other.personLike = this.personLike;
    other.fraction = this.fraction;
    Object.assign(other.sums, this.sums);
    for (const name of ['contacts', 'currencies', 'units'] as const)
      for (const [key, count] of this[name]) other[name].set(key, count);
    for (const [pair, count] of this.pairs) {
      const rest = count - (pair === MARK_PAIR ? marksIn(words) : 0);
      if (rest > 0) other.pairs.set(pair, rest);
    }
    for (const [name, { count, cells }] of this.classes) {
      const rest = name === 'text' ? count - this.emptyWordCells : count;
      if (rest > 0)
        other.classes.set(name, { count: rest, cells: cells.filter(({ text }) => !words.has(text)) });
    }
    other.values =
      this.values === null ? null : new Map([...this.values].filter(([text]) => !words.has(text)));
    return other;
  }
}

const marksIn = (words: ReadonlyMap<string, number>): number =>
  [...words].reduce((sum, [text, count]) => sum + (pairsOf(text).includes(MARK_PAIR) ? count : 0), 0);
