import { folded } from '../kernel/folded';
/** A piece of a text, and whether it shows a word that was searched for. */
export interface TextPart {
  readonly text: string;
  readonly matches: boolean;
}

/** A text cut where it shows words of a search; case and accents make no difference, as in searching. */
export function matchedParts(text: string, search: string): TextPart[] {
  const letters = [...text];
  const plain = letters.map(folded);
  const marked = new Array<boolean>(letters.length).fill(false);
  for (const word of search.trim().split(/\s+/).map(folded)) if (word !== '') mark(plain, word, marked);
  const parts: { text: string; matches: boolean }[] = [];
  letters.forEach((letter, i) => {
    const matches = marked[i] === true;
    const last = parts.at(-1);
    if (last?.matches === matches) last.text += letter;
    else parts.push({ text: letter, matches });
  });
  return parts;
}

/** Letters may fold to none or to several, so where a word ends is counted letter by letter. */
function mark(plain: readonly string[], word: string, marked: boolean[]): void {
  for (let from = 0; from < plain.length; from++) {
    let found = '';
    let to = from;
    while (to < plain.length && found.length < word.length) found += plain[to++] ?? '';
    if (plain[from] !== '' && found.startsWith(word)) marked.fill(true, from, to);
  }
}
