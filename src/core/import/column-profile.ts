import { fold, owned, tidy, type Cell } from './cell';
import { ColumnFigures, EXAMPLES, type CellClass } from './column-figures';
import { dateShape, readTime, type DateShape } from './formats/date';
import { isCodeLike, numberShape, readNumber, type NumberShape } from './formats/number';
import { isEmptyWord } from './empty-words';
import { isEmail, isPhone, isWebAddress, pairsOf } from './formats/words';
import { distinctOf, doubles, integers, placeIn, type Growing } from './growing';
import { foldedHash, hashesOf, hashOf, oneHash } from './hash';
import { HashIndex, type TextRows } from './text-rows';

interface Class {
  readonly name: CellClass;
  readonly number: NumberShape | null;
  readonly date: DateShape | null;
  readonly pairs: readonly number[];
  readonly contact: 'e-mail' | 'web-address' | 'phone' | null;
}

/** In the place of a value where there is none. */
const BLANK = -1;
/** Different values remembered with their counts; more than these are no choices. */
const FEW = 200;

/** A value as it was met, and all that is known of it; nothing but spaces is none. */
interface Met {
  readonly text: string;
  /** Its place among the values; `BLANK` of nothing but spaces. */
  readonly value: number;
  readonly found: Class;
}

/** Values that are remembered: each is found by its hashes as the place it has in both lists. */
interface Remembered {
  readonly index: HashIndex;
  readonly list: Met[];
  readonly values: Growing<Int32Array>;
}

/** Of a column in which fewer cells than this repeat a value, none is remembered: looking would cost more than it saves. */
const WORTH = 0.2;

/**
 * What one column shows of itself, gathered cell by cell: a small number a cell, two hashes for each
 * different value, and the first values of each class. Where hardly a value comes twice, a value is noted as
 * often as it comes.
 */
export class ColumnProfile extends ColumnFigures {
  /** Which of the values stands in each row; `BLANK` where none does. */
  readonly rows = integers();
  /** Of each value, in the order they came, a hash. */
  readonly exact = doubles();
  /** The same without case, spaces and accents. */
  readonly folded = doubles();
  private met: Remembered | null = { index: new HashIndex(), list: [], values: integers() };
  private forgot = false;

  /** Values come again and again: `most` different ones are remembered, and a cell that repeats one costs a look. */
  constructor(private readonly most: number) {
    super();
  }

  add(cell: Cell, row: number): void {
    const value = this.rows.extended(1, BLANK);
    if (cell === '') return;
    const [a, b] = hashesOf(typeof cell === 'string' ? cell : `${cell.kind}\n${cell.text}`);
    value[0] = this.again(a, b) ?? this.meet(cell, a, b, 0, row);
  }

  /** So many blank cells. */
  addBlanks(count: number): void {
    this.rows.extended(count, BLANK);
  }

  /** The same for the cells of a column in some lines of a text, which are made texts of their own only when they are new. */
  addAll(rows: TextRows, lines: Int32Array, at: number): void {
    const { bytes, a, b, rowStarts, starts, ends, unquoted } = rows.scanned;
    const values = this.rows.extended(lines.length, BLANK);
    let { met } = this;
    for (let i = 0; i < lines.length; i++) {
      const line = lines[i] as number;
      const place = (rowStarts[line] as number) + at;
      if (place >= (rowStarts[line + 1] as number) || starts[place] === ends[place]) continue;
      const known = met === null ? -1 : met.index.find(a[place] as number, b[place] as number);
      if (known >= 0) {
        values[i] = met?.values.at(known) ?? BLANK;
        continue;
      }
      const folded = unquoted.has(place)
        ? 0
        : foldedHash(bytes, starts[place] as number, ends[place] as number);
      values[i] = this.meet(
        rows.textAt(place),
        a[place] as number,
        b[place] as number,
        folded,
        rows.numberOf(line),
      );
      ({ met } = this);
    }
  }

  /** The value that is remembered under these hashes, if any is. */
  private again(a: number, b: number): number | null {
    const at = this.met?.index.find(a, b) ?? -1;
    return at < 0 ? null : (this.met?.values.at(at) ?? null);
  }

  /** All cells have come, save perhaps the last: what was remembered of them is counted and let go. */
  end(): void {
    this.takeAll();
    this.met = null;
    this.forgot = true;
  }

  /** The different values without case, spaces and accents, as hashes in order. Words that may stand for nothing are none. */
  distinct(): Float64Array {
    const all = distinctOf(this.folded.view());
    if (this.emptyWords.size === 0) return all;
    const words = new Set([...this.emptyWords.keys()].map((text) => hashOf(fold(text))));
    return all.filter((hash) => !words.has(hash));
  }

  /**
   * The first `most` rows: where the value of each stands among `distinct`, which holds all of them; -1 where
   * it is blank or stands for nothing.
   */
  places(most: number, distinct: Float64Array): Int32Array {
    const values = this.rows.view().subarray(0, most);
    const folded = this.folded.view();
    // Values are numbered as they come, so those of the first rows are the first.
    const place = new Int32Array(values.reduce((last, value) => Math.max(last, value), -1) + 1).map(
      (_, value) => placeIn(distinct, folded[value] ?? 0),
    );
    return values.map((value) => (value < 0 ? -1 : (place[value] ?? -1)));
  }

  /** Each value with its hashes and the index of the row it first stands in. */
  eachValue(see: (exact: number, folded: number, row: number) => void): void {
    const [rows, exact, folded] = [this.rows.view(), this.exact.view(), this.folded.view()];
    let next = 0;
    for (let row = 0; row < rows.length; row++) {
      if (rows[row] !== next) continue;
      see(exact[next] ?? 0, folded[next] ?? 0, row);
      next++;
    }
  }

  /** Counts what is remembered. */
  private takeAll(): void {
    if (this.met === null) return;
    const counts = new Int32Array(this.exact.length);
    const rows = this.rows.view();
    for (let row = 0; row < rows.length; row++) {
      const value = rows[row] as number;
      if (value !== BLANK) counts[value] = (counts[value] as number) + 1;
    }
    for (const known of this.met.list) this.take(known, counts[known.value] ?? 0);
  }

  /**
   * Gives the place of a new value among the values. `folded` is its hash without case, spaces and accents, 0
   * where that is not known yet.
   */
  private meet(cell: Cell, a: number, b: number, folded: number, row: number): number {
    if (this.met !== null && this.met.list.length >= this.most) this.full(this.met.list.length);
    const text = typeof cell === 'string' ? tidy(this.forgot ? cell : owned(cell)) : cell.text;
    const known =
      text === ''
        ? NOTHING
        : this.newText(
            text,
            typeof cell === 'string' ? null : cell.kind,
            text === cell ? oneHash(a, b) : hashOf(text),
            folded,
            row,
          );
    if (this.forgot) this.take(known, 1);
    else {
      this.met?.index.add(a, b);
      this.met?.list.push(known);
      this.met?.values.push(known.value);
    }
    return known.value;
  }

  private newText(
    text: string,
    native: Exclude<Cell, string>['kind'] | null,
    exact: number,
    folded: number,
    row: number,
  ): Met {
    const found = native === null ? classify(text) : nativeClass(native, text);
    if (text.length > this.longest) this.longest = text.length;
    let known = this.classes.get(found.name);
    if (known === undefined) this.classes.set(found.name, (known = { count: 0, cells: [] }));
    if (known.cells.length < EXAMPLES) known.cells.push({ row, text: owned(text) });
    this.exact.push(exact);
    this.folded.push(folded === 0 ? hashOf(fold(text)) : folded);
    return { text, value: this.exact.length - 1, found };
  }

  /** From now on other values pass; those that are known stay so, if they come often enough. */
  private full(different: number): void {
    if (this.forgot) return;
    this.forgot = true;
    const cells = this.rows.view().reduce((count, value) => count + (value === BLANK ? 0 : 1), 0);
    if (cells - different >= cells * WORTH) return;
    this.takeAll();
    this.met = null;
  }

  private take({ text, value, found }: Met, times: number): void {
    if (value === BLANK || times === 0) return;
    this.filled += times;
    const known = this.classes.get(found.name);
    if (known !== undefined) known.count += times;
    for (const pair of found.pairs) tally(this.pairs, pair, times);
    if (found.contact !== null) tally(this.contacts, found.contact, times);
    if (found.number !== null) this.takeNumber(found.number, times);
    if (found.name === 'text' && isEmptyWord(text)) tally(this.emptyWords, text, times);
    if (found === PLAIN_TEXT && text.length < 60 && PERSON.test(text)) this.personLike += times;
    if (this.values === null) return;
    tally(this.values, text, times);
    if (this.values.size > FEW) this.values = null;
  }

  private takeNumber(shape: NumberShape, times: number): void {
    const { fraction, currency, unit, sign } = shape;
    if (sign !== ',') this.sums['.'] += times * Number(readNumber(shape, '.'));
    if (sign !== '.') this.sums[','] += times * Number(readNumber(shape, ','));
    if (fraction.length > this.fraction && sign !== 'either') this.fraction = fraction.length;
    if (currency !== null) tally(this.currencies, currency, times);
    if (unit !== '') tally(this.units, unit, times);
  }
}

/** Two or three words with capitals and nothing else, as names of people are written in most of Europe. */
const PERSON =
  /^\p{Lu}[\p{L}'’-]+(?: (?:\p{Lu}\.|van|von|de|da|di|del|la|bin|al)){0,2}(?: \p{Lu}[\p{L}'’-]+){1,2}$/u;

function tally<K>(into: Map<K, number>, key: K, n = 1): void {
  into.set(key, (into.get(key) ?? 0) + n);
}

const NO_PAIRS: readonly number[] = [];
/** Most texts are nothing but text, and share one class. */
const PLAIN_TEXT: Class = { name: 'text', number: null, date: null, pairs: NO_PAIRS, contact: null };
const TEXT_WITH_DIGITS: Class = { ...PLAIN_TEXT };
/** Nothing but spaces. */
const NOTHING: Met = { text: '', value: BLANK, found: PLAIN_TEXT };

function nativeClass(kind: Exclude<Cell, string>['kind'], text: string): Class {
  switch (kind) {
    case 'number':
      return { ...PLAIN_TEXT, name: 'native-number', number: numberShape(text), pairs: pairsOf(text) };
    case 'date':
      return { ...PLAIN_TEXT, name: 'ymd', date: dateShape(text) };
    case 'date-time':
      return { ...PLAIN_TEXT, name: 'moment', date: dateShape(text) };
    case 'time':
      return { ...PLAIN_TEXT, name: 'time' };
    case 'yes-no':
      return { ...PLAIN_TEXT, name: 'native-yes-no', pairs: pairsOf(text) };
  }
}

const DIGIT = /\d/;

/** Cheap questions first: a million different texts are asked. */
function classify(text: string): Class {
  const pairs = text.length > 6 ? NO_PAIRS : pairsOf(text);
  if (!DIGIT.test(text)) return textClass(text, pairs, null, PLAIN_TEXT);
  // Figures, and the signs that telephone numbers and times begin with, come before all letters.
  const figures = text.charCodeAt(0) < 58;
  const phone = figures && isPhone(text) ? 'phone' : null;
  const number = numberShape(text);
  if (number !== null) return { name: numberClass(number), number, date: null, pairs, contact: phone };
  const date = dateShape(text);
  if (date !== null)
    return {
      name: date.time === null ? dateClass(date) : 'moment',
      number: null,
      date,
      pairs,
      contact: null,
    };
  if (figures && readTime(text) !== null) return { ...PLAIN_TEXT, name: 'time' };
  return textClass(text, pairs, phone, TEXT_WITH_DIGITS);
}

function textClass(text: string, pairs: readonly number[], phone: 'phone' | null, otherwise: Class): Class {
  const contact =
    phone ??
    (text.includes('@') && isEmail(text)
      ? 'e-mail'
      : text.includes('.') && isWebAddress(text)
        ? 'web-address'
        : null);
  return contact === null && pairs.length === 0
    ? otherwise
    : { name: 'text', number: null, date: null, pairs, contact };
}

function numberClass(shape: NumberShape): CellClass {
  if (isCodeLike(shape)) return 'code';
  return shape.sign === null
    ? 'whole'
    : shape.sign === 'either'
      ? 'either-sign'
      : shape.sign === '.'
        ? 'dot'
        : 'comma';
}

function dateClass({ orders, parts, sure }: DateShape): CellClass {
  const [first] = orders;
  if (sure) return first === 'ymd' ? 'ymd' : 'named-day';
  if (orders.length === 1) return first ?? 'text';
  return parts[0] === parts[1] ? 'same-order' : 'either-order';
}
