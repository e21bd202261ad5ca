/** Signs of other languages, and what the expression language has instead. None of them can stand in a sound expression. */
const slips: readonly (readonly [RegExp, string])[] = [
  [/^===?/, '='],
  [/^!==/, '!='],
  [/^<>/, '!='],
  [/^≠/, '!='],
  [/^≤/, '<='],
  [/^≥/, '>='],
  [/^=[<>]/, '<= or >='],
  [/^&&?/, 'and'],
  [/^\|\|?/, 'or'],
  [/^!(?!=)/, 'not( )'],
  [/^%/, 'modulo( , )'],
  [/^×/, '*'],
  [/^÷/, '/'],
  [/^'[^'\n]*'?/, '" "'],
  [/^[“”„][^“”]*[“”]?/, '" "'],
  [/^;/, ','],
  [/^not(?=\s+[A-Za-z_])(?!\s*\()/, 'not( )'],
  [/^\d+(\.\d+)?[eE][+-]?\d+/, 'a number in full'],
];
/** What may stand before a word for it to begin there: otherwise the e of `rate1e5` would be an exponent. */
const WORD = /[\p{L}\p{N}_]/u;

export interface Slip {
  readonly from: number;
  readonly to: number;
  readonly given: string;
  readonly meant: string;
}

/** The first sign of another language outside texts and comments, or null. */
export function firstSlip(text: string): Slip | null {
  for (let at = 0; at < text.length; at++) {
    const skipped = pastText(text, at);
    if (skipped > at) at = skipped - 1;
    else {
      const slip = slipAt(text, at);
      if (slip !== null) return slip;
    }
  }
  return null;
}

/** Past a text or a comment that begins here; `at` itself when none does. */
export function pastText(text: string, at: number): number {
  const rest = text.slice(at, at + 2);
  if (rest.startsWith('"')) {
    let end = at + 1;
    while (end < text.length && text[end] !== '"') end += text[end] === '\\' ? 2 : 1;
    return Math.min(end + 1, text.length);
  }
  if (rest === '//') return endOr(text.indexOf('\n', at), text);
  return rest === '/*' ? endOr(text.indexOf('*/', at) + 2, text, 2) : at;
}

const endOr = (end: number, text: string, least = 0): number => (end < least ? text.length : end);

function slipAt(text: string, at: number): Slip | null {
  if (WORD.test(text[at] ?? '') && WORD.test(text[at - 1] ?? '')) return null;
  const rest = text.slice(at, at + 200);
  for (const [sign, meant] of slips) {
    const found = sign.exec(rest)?.[0];
    if (found !== undefined) return { from: at, to: at + found.length, given: found, meant };
  }
  return null;
}
