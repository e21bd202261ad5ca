import type { Column } from '../table/model';
import { kinds } from '../table/kinds/list';
import type { IssueCode } from '../kernel/issue';
import { limits } from '../limits';
import { fold, textOf, tidy, type Cell } from './cell';
import { dateShape, readDate, readTime } from './formats/date';
import { numberShape, readNumber } from './formats/number';
import { MARK_PAIR, readYesNo } from './formats/words';
import type { PlannedColumn } from './import-plan';
import { Remembered } from './remembered';
import type { TextRows } from './text-rows';

/** A cell as PostgreSQL reads it for its column: text, null when blank; or why it does not fit. */
export type Converted = { readonly value: string | null } | { readonly code: IssueCode };

/** Reads cells of one column; `at` those that stand in a text. */
export interface CellReader<V> {
  readonly of: (cell: Cell | undefined) => V;
  readonly at: (rows: TextRows, place: number) => V;
}

/** Reads cells of one column; made once for a column, for choices are looked up and different texts remembered. References are found elsewhere. */
export function reader(planned: Pick<PlannedColumn, 'column' | 'reading'>): (cell: Cell | undefined) => Converted {
  const { of } = cellReader(planned);
  return of;
}

/** The same, and for cells that stand in a text. */
export function cellReader({ column, reading }: Pick<PlannedColumn, 'column' | 'reading'>, remember?: number): CellReader<Converted> {
  const read = readerOf(column, reading);
  const blank = column.kind === 'yes-no' && reading.yesNo === MARK_PAIR ? { value: 'false' } : column.required ? { code: 'required' as const } : { value: null };
  const plain = read === textReader;
  const convert = (cell: Cell): Converted => {
    if (plain && typeof cell === 'string' && isFine(cell)) return { value: cell };
    const text = tidy(textOf(cell));
    return text === '' ? blank : read(text, cell);
  };
  const remembered = new Remembered<Converted>(convert, remember);
  return { of: (cell) => (typeof cell === 'string' ? remembered.get(cell) : convert(cell ?? '')), at: (rows, place) => remembered.getAt(rows, place) };
}

type Read = (text: string, cell: Cell) => Converted;

function readerOf(column: Column, reading: PlannedColumn['reading']): Read {
  switch (column.kind) {
    case 'whole': case 'decimal': case 'money': return numberReader(column, reading);
    case 'date': return (text) => given(dayOf(text, reading), 'not-a-date');
    case 'time': return (text) => given(readTime(text), 'not-a-time');
    case 'date-time': return (text) => given(momentOf(text, reading), 'not-a-date-time');
    case 'yes-no': return yesNoReader(reading);
    case 'choice': return choiceReader(column);
    case 'e-mail': case 'web-address': case 'phone': return (text) => {
      const known = kinds[column.kind].read(text, column);
      return known.ok ? { value: String(known.value) } : { code: known.error.code };
    };
    default: return textReader;
  }
}

const given = (value: string | null, code: IssueCode): Converted => (value === null ? { code } : { value });

/** The apostrophe by which an export kept a spreadsheet from taking a text for a formula. */
const DEFUSED = /^'(?='*[=+\-@\t\r])/;

/** Words with single spaces between them, as most texts are. */
const FINE = /^(?!')[^\s\0]+(?: [^\s\0]+)*$/;
/** Such a text is kept as it stands. */
const isFine = (text: string): boolean => text.length <= limits.longText && FINE.test(text);

/** Of texts the line ends stay. */
function textReader(_: string, cell: Cell): Converted {
  const text = textOf(cell).replaceAll('\u0000', '').trim().replace(DEFUSED, '');
  return text.length > limits.longText ? { code: 'too-long' } : { value: text.includes('\n') ? text : tidy(text) };
}

function numberReader(column: Column, { decimalSign = '.', unit = '' }: PlannedColumn['reading']): Read {
  const decimals = column.decimals ?? 0;
  return (text, cell) => {
    const shape = numberShape(text);
    const number = shape === null || (shape.unit !== '' && shape.unit !== unit) || (shape.currency !== null && shape.currency !== column.unit) ? null : readNumber(shape, typeof cell === 'string' ? decimalSign : '.');
    if (number === null) return { code: 'not-a-number' };
    const [whole = '', fraction = ''] = number.replace('-', '').split('.');
    if (whole.length > limits.numberDigits) return { code: 'number-too-large' };
    return fraction.replace(/0+$/, '').length > decimals ? { code: decimals === 0 ? 'not-whole' : 'too-many-decimals' } : { value: number };
  };
}

function dayOf(text: string, { dateOrder = 'dmy' }: PlannedColumn['reading']): string | null {
  const shape = dateShape(text);
  return shape === null || shape.time !== null ? null : readDate(shape, dateOrder);
}

function momentOf(text: string, { dateOrder = 'dmy' }: PlannedColumn['reading']): string | null {
  const shape = dateShape(text);
  const day = shape === null ? null : readDate(shape, dateOrder);
  return day === null ? null : `${day} ${shape?.time ?? '00:00:00'}`;
}

function yesNoReader({ yesNo = 0 }: PlannedColumn['reading']): Read {
  return (text, cell) => {
    const means = typeof cell === 'string' ? readYesNo(text, yesNo) : cell.kind === 'yes-no' ? text === 'true' : readYesNo(text, yesNo);
    return means === null ? { code: 'not-yes-no' } : { value: String(means) };
  };
}

function choiceReader({ choices }: Column): Read {
  const codes = new Map(choices.flatMap(({ code, label }) => [[fold(label), code], [fold(code), code]]));
  return (text) => given(codes.get(fold(text)) ?? null, 'not-a-choice');
}
