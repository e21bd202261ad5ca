import { quotedText } from '../expression/nodes/literals';
import { numberText } from '../expression/number';
import type { Type } from '../expression/type';
import { isBig, type Value } from '../expression/value';
import { writtenNumber } from '../formats/numbers';
import { sameJson } from '../kernel/same-json';
import { piecesOf, type Piece, type Pieces } from '../rules/regions';

/** What a condition may be besides what is typed: its codes with what they are called. */
export interface Known {
  readonly type: Type;
  readonly choices?: readonly { readonly code: string; readonly label: string }[];
}

/**
 * A test as one would say it: “over 500 to 5 000”, “not Visitors”, “any”. Null where it has no such words, or
 * they would be read as something else; `readTestWords` is the inverse.
 */
export function testWords(test: string, known: Known): string | null {
  const pieces = piecesOf(test, known.type);
  const words = pieces === null ? null : wordsOf(pieces, known);
  const read = words === null ? null : readTestWords(words, known);
  return read !== null && sameJson(piecesOf(read, known.type), pieces) ? words : null;
}

function wordsOf({ not, pieces }: Pieces, known: Known): string {
  if (pieces.length === 0) return 'any';
  const [only] = pieces;
  if (not && pieces.length === 1 && only?.t === 'value' && only.value === null) return 'filled';
  return `${not ? 'not ' : ''}${pieces.map((piece) => pieceWords(piece, known)).join(', ')}`;
}

/** How the ends of a stretch are said: of days, and of anything else. */
const said = {
  date: { above: 'after', below: 'before', from: 'or later' },
  other: { above: 'over', below: 'under', from: 'or more' },
} as const;

function pieceWords(piece: Piece, known: Known): string {
  if (piece.t === 'value') return valueWords(piece.value, known);
  const { above, below, from } = known.type.t === 'date' ? said.date : said.other;
  const { lowIn, highIn } = piece;
  const [low, high] = [valueWords(piece.low, known), valueWords(piece.high, known)];
  if (piece.low === null) return `${highIn ? 'up to' : below} ${high}`;
  if (piece.high === null) return lowIn ? `${low} ${from}` : `${above} ${low}`;
  return `${lowIn ? '' : `${above} `}${low} to ${highIn ? '' : `${below} `}${high}`;
}

function valueWords(value: Value, { choices }: Known): string {
  if (value === null) return 'empty';
  if (isBig(value)) return numberWords(numberText(value));
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' ? (choices?.find(({ code }) => code === value)?.label ?? value) : '';
}

/** The same for everybody, as in an expression: a comma parts one value from the next. */
function numberWords(text: string): string {
  return writtenNumber(text, 'space-point');
}

/** Such words as a test; null where they are none. Case is no matter. */
export function readTestWords(words: string, known: Known): string | null {
  const text = words.trim();
  if (/^(any|-)?$/i.test(text)) return '';
  if (/^filled$/i.test(text)) return 'not(null)';
  const not = /^not\s+(.*)$/is.exec(text)?.[1];
  const parts = (not ?? text).split(',').map((part) => readPiece(part.trim(), known));
  if (parts.includes(null)) return null;
  return not === undefined ? parts.join(', ') : `not(${parts.join(', ')})`;
}

function readPiece(words: string, known: Known): string | null {
  if (/^empty$/i.test(words)) return 'null';
  const one = readValue(words, known);
  if (one !== null || (known.type.t !== 'number' && known.type.t !== 'date')) return one;
  const stretch = /^(over |after )?(.+) to (under |before )?(.+)$/i.exec(words);
  if (stretch !== null && !/^up$/i.test(stretch[2] ?? '')) {
    const [low, high] = [readValue(stretch[2] ?? '', known), readValue(stretch[4] ?? '', known)];
    if (low === null || high === null) return null;
    return `${stretch[1] === undefined ? '[' : '('}${low}..${high}${stretch[3] === undefined ? ']' : ')'}`;
  }
  for (const [pattern, by] of bounds) {
    const value = pattern.exec(words)?.[1];
    const read = value === undefined ? null : readValue(value, known);
    if (read !== null) return `${by} ${read}`;
  }
  return null;
}

const bounds: readonly (readonly [RegExp, string])[] = [
  [/^(?:over|after|more than)\s+(.+)$/i, '>'],
  [/^(?:under|before|less than)\s+(.+)$/i, '<'],
  [/^(?:up to|until|at most)\s+(.+)$/i, '<='],
  [/^(?:from|at least)\s+(.+)$/i, '>='],
  [/^(.+)\s+or\s+(?:more|later)$/i, '>='],
  [/^(.+)\s+or\s+(?:less|earlier)$/i, '<='],
];

function readValue(words: string, { type, choices }: Known): string | null {
  switch (type.t) {
    case 'number': {
      // Thousands may be set apart by blanks of any width.
      const plain = words.replace(/(?<=\d)\s(?=\d{3})/g, '').replace(/^[−–]/, '-');
      return /^-?\d+(\.\d+)?$/.test(plain) ? plain : null;
    }
    case 'date':
      return /^\d{4}-\d\d-\d\d$/.test(words) ? `date("${words}")` : null;
    case 'yes-no':
      return /^(yes|true)$/i.test(words) ? 'true' : /^(no|false)$/i.test(words) ? 'false' : null;
    case 'text': {
      if (words === '') return null;
      if (choices === undefined) return quotedText(words);
      const low = words.toLowerCase();
      const found = choices.find(({ label, code }) => [label, code].some((one) => one.toLowerCase() === low));
      return found === undefined ? null : quotedText(found.code);
    }
    default:
      return null;
  }
}
