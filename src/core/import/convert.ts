import type { Column } from '../table/model';
import { kinds } from '../table/kinds/list';
import type { IssueCode } from '../kernel/issue';
import { limits } from '../limits';
import { fold, textOf, tidy, undefused, type Cell } from './cell';
import { dateShape, readDate, readMoment, readTime } from './formats/date';
import { numberShape, readNumber } from './formats/number';
import { MARK_PAIR, readYesNo } from './formats/words';
import type { PlannedColumn } from './import-plan';
import { Remembered } from './remembered';
import type { TextRows } from './text-rows';
import { choicesNamed } from '../table/kinds/choices';

/** A cell as PostgreSQL reads it for its column: text, null when blank. */
export interface Fit {
  readonly value: string | null;
}

export const fit = (value: string | null): Fit => ({ value });

/** A cell as it fits its column, or why it does not. */
export type Converted = Fit | { readonly code: IssueCode };

/** What one column of some rows holds. */
export interface MadeColumn {
  /** For each row: the place in the text of a cell that is kept as it stands there, or `~n` for the value at `n`. */
  readonly codes: Int32Array;
  /** A list that goes on from one lot of rows to the next: what stands in it stays where it is. Another list begins anew. */
  readonly values: readonly Converted[];
}

/** Reads cells of one column: `all` those of some rows of a text. */
export interface CellReader {
  readonly of: (cell: Cell | undefined) => Converted;
  readonly at: (rows: TextRows, place: number) => Converted;
  readonly all: (rows: TextRows, lines: Int32Array, column: number) => ReadColumn;
}

interface ReadColumn extends MadeColumn {
  /** Whether there may be values among them that do not fit. */
  readonly faulty: boolean;
}

/**
 * Reads cells of one column, times of day as those of an IANA zone; made once for a column, for choices are
 * looked up and different texts remembered. References are found elsewhere.
 */
export function reader(
  planned: Pick<PlannedColumn, 'column' | 'reading'>,
  zone: string,
): (cell: Cell | undefined) => Converted {
  const { of } = cellReader(planned, zone);
  return of;
}

/** The same, and for cells that stand in a text. */
export function cellReader(
  { column, reading }: Pick<PlannedColumn, 'column' | 'reading'>,
  zone: string,
  remember?: number,
): CellReader {
  const read = readerOf(column, reading, zone);
  const blank =
    column.kind === 'yes-no' && reading.yesNo === MARK_PAIR
      ? fit('false')
      : column.required
        ? { code: 'required' as const }
        : fit(null);
  const empty = new Set(reading.empty);
  const plain = read === textReader && empty.size === 0;
  const convert = (cell: Cell): Converted => {
    if (plain && typeof cell === 'string' && isFine(cell)) return fit(cell);
    const text = tidy(textOf(cell));
    return text === '' || (empty.size > 0 && empty.has(fold(text))) ? blank : read(text, cell);
  };
  const texts = new RememberingReader(convert, blank, plain, remember);
  return {
    of: (cell) => (typeof cell === 'string' ? texts.of(cell) : convert(cell ?? '')),
    at: (rows, place) => texts.at(rows, place),
    all: (rows, lines, at) => texts.all(rows, lines, at),
  };
}

/**
 * Reads texts, and remembers what came of them. `plain`: what is written well is kept as it stands, and is
 * neither looked up nor made a text.
 */
export class RememberingReader implements Pick<CellReader, 'at' | 'all'> {
  private readonly remembered: Remembered<Converted>;
  /** In which list something that does not fit was noted last. */
  private faultyIn: readonly Converted[] | null = null;

  constructor(
    convert: (text: string) => Converted,
    private readonly blank: Converted,
    private readonly plain: boolean,
    remember?: number,
  ) {
    this.remembered = new Remembered<Converted>(
      (text) => {
        const converted = convert(text);
        if (!('value' in converted)) this.faultyIn = this.remembered.values;
        return converted;
      },
      blank,
      remember,
    );
  }

  of(text: string): Converted {
    return this.remembered.get(text);
  }

  at(rows: TextRows, place: number): Converted {
    if (rows.isEmpty(place)) return this.blank;
    this.remembered.begin();
    return this.remembered.values[this.remembered.placeAt(rows, place)] as Converted;
  }

  all(rows: TextRows, lines: Int32Array, column: number): ReadColumn {
    const { remembered, plain } = this;
    const { rowStarts, starts, ends } = rows.scanned;
    remembered.begin();
    const codes = new Int32Array(lines.length);
    let blanks = false;
    for (let i = 0; i < codes.length; i++) {
      const line = lines[i] as number;
      const place = (rowStarts[line] as number) + column;
      if (column < 0 || place >= (rowStarts[line + 1] as number) || starts[place] === ends[place]) {
        blanks = true;
        codes[i] = BLANK;
      } else codes[i] = plain && isFineAt(rows, place) ? place : ~remembered.placeAt(rows, place);
    }
    return {
      codes,
      values: remembered.values,
      faulty: this.faultyIn === remembered.values || (blanks && !('value' in this.blank)),
    };
  }
}

/** A blank is the first of all values. */
const BLANK = ~0;

type Read = (text: string, cell: Cell) => Converted;

function readerOf(column: Column, reading: PlannedColumn['reading'], zone: string): Read {
  switch (column.kind) {
    case 'whole':
    case 'decimal':
    case 'money':
      return numberReader(column, reading);
    case 'date':
      return (text) => given(dayOf(text, reading), 'not-a-date');
    case 'time':
      return (text) => given(readTime(text), 'not-a-time');
    case 'date-time':
      return (text) => given(momentOf(text, reading, zone), 'not-a-date-time');
    case 'yes-no':
      return yesNoReader(reading);
    case 'choice':
      return choiceReader(column);
    case 'choices':
      return choicesReader(column);
    case 'files':
      // Files are brought to a form; a sheet has but their names.
      return () => ({ code: 'not-files' });
    case 'e-mail':
    case 'web-address':
    case 'phone':
      return (written) => {
        const text = undefused(written);
        const known = kinds[column.kind].read(text, column);
        return known.ok ? fit(String(known.value)) : { code: known.error.code };
      };
    default:
      return textReader;
  }
}

const given = (value: string | null, code: IssueCode): Converted => (value === null ? { code } : fit(value));

/** Words with single spaces between them, as most texts are. */
const FINE = /^(?!')[^\s\0]+(?: [^\s\0]+)*$/;
/** Such a text is kept as it stands. */
const isFine = (text: string): boolean => text.length <= limits.longText && FINE.test(text);

/** The same, told from the bytes of a cell: a sign that may begin one of the wide or odd spaces is looked at by the slower way. */
function isFineAt({ scanned: { bytes, starts, ends, unquoted } }: TextRows, place: number): boolean {
  const start = starts[place] ?? 0;
  const end = ends[place] ?? 0;
  if (
    place < 0 ||
    end === start ||
    end - start > LONGEST ||
    bytes[start] === APOSTROPHE ||
    bytes[start] === SPACE ||
    bytes[end - 1] === SPACE
  )
    return false;
  if (unquoted.size > 0 && unquoted.has(place)) return false;
  for (let i = start; i < end; i++) {
    const byte = bytes[i] as number;
    if (byte > 0x7e ? MAY_BEGIN_SPACE.has(byte) : byte < SPACE || (byte === SPACE && bytes[i + 1] === SPACE))
      return false;
  }
  return true;
}
const LONGEST = limits.longText;
const SPACE = 32;
const APOSTROPHE = 39;
/** First bytes, in UTF-8, of U+00A0, U+1680, U+2000 and those after it, U+3000 and U+FEFF. */
const MAY_BEGIN_SPACE = new Set([0xc2, 0xe1, 0xe2, 0xe3, 0xef]);

/** Texts stay as they are written, save the spaces around them. */
function textReader(_: string, cell: Cell): Converted {
  const text = undefused(textOf(cell).replaceAll('\u0000', '').trim());
  return text.length > limits.longText ? { code: 'too-long' } : fit(text);
}

function numberReader(column: Column, { decimalSign = '.', unit = '' }: PlannedColumn['reading']): Read {
  const decimals = column.decimals ?? 0;
  return (text, cell) => {
    const shape = numberShape(text);
    const number =
      shape === null ||
      (shape.unit !== '' && shape.unit !== unit) ||
      (shape.currency !== null && shape.currency !== column.unit)
        ? null
        : readNumber(shape, typeof cell === 'string' ? decimalSign : '.');
    if (number === null) return { code: 'not-a-number' };
    const [whole = '', fraction = ''] = number.replace('-', '').split('.');
    if (whole.length > limits.numberDigits) return { code: 'number-too-large' };
    return fraction.replace(/0+$/, '').length > decimals
      ? { code: decimals === 0 ? 'not-whole' : 'too-many-decimals' }
      : fit(number);
  };
}

function dayOf(text: string, { dateOrder = 'dmy' }: PlannedColumn['reading']): string | null {
  const shape = dateShape(text);
  return shape === null || shape.time !== null ? null : readDate(shape, dateOrder);
}

function momentOf(
  text: string,
  { dateOrder = 'dmy' }: PlannedColumn['reading'],
  zone: string,
): string | null {
  const shape = dateShape(text);
  return shape === null ? null : readMoment(shape, dateOrder, zone);
}

function yesNoReader({ yesNo = 0 }: PlannedColumn['reading']): Read {
  return (text, cell) => {
    const means =
      typeof cell === 'string'
        ? readYesNo(text, yesNo)
        : cell.kind === 'yes-no'
          ? text === 'true'
          : readYesNo(text, yesNo);
    return means === null ? { code: 'not-yes-no' } : fit(String(means));
  };
}

function choiceReader({ choices }: Column): Read {
  // What people read comes before what is stored, should one choice be called as another is stored.
  const codes = new Map([
    ...choices.map(({ code }) => [fold(code), code] as const),
    ...choices.map(({ code, label }) => [fold(label), code] as const),
  ]);
  return (text) => given(codes.get(fold(undefused(text))) ?? null, 'not-a-choice');
}

/** What is stored, as another export of ours has it, or what people read. */
function choicesReader({ choices: offered }: Column): Read {
  return (written) => {
    const text = undefused(written);
    const stored = kinds.choices.read(text, { choices: offered });
    const codes = stored.ok ? stored.value : choicesNamed(text, offered);
    return given(codes === null ? null : (kinds.choices.write(codes, {}) as string | null), 'not-a-choice');
  };
}
