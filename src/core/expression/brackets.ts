import { pastText } from './slips';

const closing: Readonly<Record<string, string>> = { '(': ')', '[': ']', '{': '}' };

export interface BracketTrouble {
  readonly t: 'open' | 'stray' | 'deep';
  readonly from: number;
  readonly to: number;
}

/**
 * The first bracket that is never closed, closes nothing, or stands too deep in others; null when all pair up. Looked at before the text is
 * parsed: the parser mends what does not pair by trying, and takes seconds for a few hundred such brackets. A range may turn its brackets
 * away (`]1..5[`), so where there is one, pairs are left to the parser.
 */
export function bracketTrouble(text: string, deepest: number): BracketTrouble | null {
  const open: number[] = [];
  let stray: number | null = null;
  let hasRange = false;
  for (let at = 0; at < text.length; at++) {
    const past = pastText(text, at);
    if (past > at) {
      at = past - 1;
      continue;
    }
    const sign = text[at] ?? '';
    hasRange ||= sign === '.' && text[at + 1] === '.';
    if (closing[sign] !== undefined) open.push(at);
    else if (')]}'.includes(sign)) {
      const opener = open.at(-1);
      if (opener !== undefined && closing[text[opener] ?? ''] === sign) open.pop();
      else stray ??= at;
    }
    if (open.length > deepest) return { t: 'deep', from: at, to: at + 1 };
  }
  const first = stray ?? open[0];
  return hasRange || first === undefined
    ? null
    : { t: stray === null ? 'open' : 'stray', from: first, to: first + 1 };
}
