import Big from 'big.js';
import { readDuration } from '../duration';
import { plainDate, plainDateTime, plainTime } from '../moment';
import type { Reading, SyntaxNode } from '../read';
import type { Expression } from '../tree';
import { DATE, DATE_TIME, DAYS, EMPTY, MONTHS, NUMBER, TEXT, TIME, YES_NO, type Type } from '../type';
import type { Value } from '../value';
import { DIGITS } from '../number';
import { callNode } from './call';
import { spanOf, textOf } from './typed';

const literal = (node: SyntaxNode, value: Value, type: Type): Expression => ({
  op: 'literal',
  value,
  type,
  span: spanOf(node),
});

// The rules of all nodes are declared functions: the nodes import one another in a circle, and only those are there from the beginning.
export function nullNode(node: SyntaxNode): Expression {
  return literal(node, null, EMPTY);
}

export function booleanNode(node: SyntaxNode, { text }: Reading): Expression {
  return literal(node, textOf(node, text) === 'true', YES_NO);
}

/** Digits beyond the 34 that are kept would be lost in silence, so such a number is refused. */
export function numberNode(node: SyntaxNode, reading: Reading): Expression | null {
  const written = textOf(node, reading.text).replace(/\s+/g, '');
  if (!/^-?(\d+(\.\d+)?|\.\d+)$/.test(written)) return (reading.report('expression-broken', node), null);
  const value = new Big(written);
  if (value.c.length > DIGITS) return (reading.report('number-too-long', node, { most: DIGITS }), null);
  return literal(node, value, NUMBER);
}

/** FEEL's string escapes are JSON's, and `\U` with six digits for a code point. */
export function textNode(node: SyntaxNode, reading: Reading): Expression {
  return literal(node, unquoted(textOf(node, reading.text)), TEXT);
}

function unquoted(written: string): string {
  const plain = written
    .slice(1, -1)
    .replace(/\\(u[0-9a-fA-F]{4}|U[0-9a-fA-F]{6}|.)/gs, (whole, code: string) => unescaped(whole, code));
  // NUL and half of a pair of surrogates are no characters: no text file and no database can hold them.
  return plain.replace(
    /\0|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g,
    '\uFFFD',
  );
}

const escapes: Readonly<Record<string, string>> = {
  n: '\n',
  t: '\t',
  r: '\r',
  '"': '"',
  '\\': '\\',
  "'": "'",
};

function unescaped(whole: string, code: string): string {
  if (code.length === 1) return escapes[code] ?? whole;
  const point = parseInt(code.slice(1), 16);
  return point <= 0x10ffff ? String.fromCodePoint(point) : whole;
}

/** The text as it would be written, quotes and all. */
export const quotedText = (text: string): string =>
  `"${text.replace(/[\\"]/g, '\\$&').replace(/\n/g, '\\n').replace(/\r/g, '\\r').replace(/\t/g, '\\t')}"`;

/** `date("…")` and its like with a text in quotes are literals, and so is `@"…"`; with anything else they are calls. */
export function momentNode(node: SyntaxNode, reading: Reading): Expression | null {
  const at = /^@\s*("(?:[^"\\]|\\.)*")$/s.exec(textOf(node, reading.text));
  if (at !== null) {
    const found = anyMoment(unquoted(at[1] ?? '""'));
    return found === null
      ? (reading.report('not-a-moment', node, { text: at[1] ?? '' }), null)
      : literal(node, ...found);
  }
  const [name, quoted] = quotedCall(textOf(node, reading.text));
  if (quoted === null) return callNode(node, reading);
  if (name === 'duration') {
    const duration = readDuration(quoted);
    return duration === null
      ? (reading.report('not-a-duration', node), null)
      : literal(node, duration, duration.unit === 'months' ? MONTHS : DAYS);
  }
  const [type, parse] = moments[name] ?? [DATE, plainDate];
  return literal(node, parse(quoted), type);
}

function quotedCall(text: string): [name: string, quoted: string | null] {
  const match = /^(date|time|duration|date\s+and\s+time)\s*\(\s*("(?:[^"\\]|\\.)*")\s*\)$/s.exec(text);
  return match === null ? ['', null] : [(match[1] ?? '').replace(/\s+/g, ' '), unquoted(match[2] ?? '""')];
}

const moments: Readonly<Record<string, readonly [Type, (text: string) => string | null]>> = {
  date: [DATE, (text) => plainDate(text)],
  time: [TIME, plainTime],
  'date and time': [DATE_TIME, plainDateTime],
};

function anyMoment(text: string): [Value, Type] | null {
  for (const [type, parse] of Object.values(moments)) {
    const value = type === DATE_TIME && !text.includes('T') ? null : parse(text);
    if (value !== null) return [value, type];
  }
  const duration = readDuration(text);
  return duration && [duration, duration.unit === 'months' ? MONTHS : DAYS];
}
