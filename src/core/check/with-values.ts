import { Duration } from '../expression/duration';
import { numberText } from '../expression/number';
import { resolvedNames } from '../expression/read';
import type { Scope } from '../expression/type';
import { isBig, isContext, isList, isRecord, Range, type Value } from '../expression/value';
import type { NumberForm } from '../formats/formats';
import { writtenNumber } from '../formats/numbers';

/** More than anybody reads of a list of values. */
const MOST_SHOWN = 6;
const MOST_LETTERS = 40;

/**
 * An expression with what each of its names is worth in place of it: `2 156 <= 0.5 * 4 000`. `valueOf` is
 * asked by the ids along a name: bed, then area.
 */
export function withValues(text: string, scope: Scope, valueOf: (ids: readonly string[]) => Value): string {
  let out = '';
  let at = 0;
  for (const { from, to, ids } of paths(text, scope)) {
    out += text.slice(at, from) + valueWords(valueOf(ids));
    at = to;
  }
  return out + text.slice(at);
}

/** The names in an expression as they are written, each once: `rate`, `product.max_rate`. */
export const namesIn = (text: string, scope: Scope): string[] => [
  ...new Set(paths(text, scope).map(({ from, to }) => text.slice(from, to))),
];

interface NamePath {
  readonly from: number;
  readonly to: number;
  readonly ids: readonly string[];
}

/** Names that are joined by a dot are one. */
function paths(text: string, scope: Scope): NamePath[] {
  const found: NamePath[] = [];
  for (const { from, to, id } of resolvedNames(text, scope)) {
    const last = found.at(-1);
    if (last !== undefined && /^\s*\.\s*$/.test(text.slice(last.to, from)))
      found[found.length - 1] = { from: last.from, to, ids: [...last.ids, id] };
    else found.push({ from, to, ids: [id] });
  }
  return found;
}

/** In an expression the same for everybody, as it is written there; in a sentence in the formats of whoever reads. */
export function valueWords(value: Value, form: NumberForm = 'space-point'): string {
  if (value === null) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (isBig(value)) return writtenNumber(numberText(value), form);
  if (typeof value === 'string') return /^\d{4}-\d\d-\d\d/.test(value) ? value : `“${shortened(value)}”`;
  if (isList(value)) {
    const more = value.length > MOST_SHOWN ? ', …' : '';
    return `[${value
      .slice(0, MOST_SHOWN)
      .map((one) => valueWords(one, form))
      .join(', ')}${more}]`;
  }
  if (isRecord(value)) return shortened(value.title);
  if (value instanceof Duration) return 'a stretch of time';
  if (value instanceof Range) return `${valueWords(value.low, form)} to ${valueWords(value.high, form)}`;
  return isContext(value) ? 'a row' : '';
}

const shortened = (text: string): string => {
  const letters = [...text];
  return letters.length > MOST_LETTERS ? `${letters.slice(0, MOST_LETTERS).join('')}…` : text;
};
