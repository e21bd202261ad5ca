/** Longer words are cut: every letter makes three patterns. */
const LONGEST = 16;
/** A letter less of a short word is in too many others. */
const SHORT = 4;

/**
 * Patterns of LIKE for a word in which one letter is wrong, missing or too many, or two are swapped. `_`
 * stands for any letter. The word itself is among what they find.
 */
export function slipsOf(word: string): string[] {
  const letters = [...word.toLowerCase()].slice(0, LONGEST);
  const joined = (parts: readonly string[]): string => parts.map(escaped).join('');
  const around = (from: number, to: number, between: string): string =>
    `${joined(letters.slice(0, from))}${between}${joined(letters.slice(to))}`;
  const patterns = letters.flatMap((letter, i) => [
    around(i, i + 1, '_'),
    ...(i > 0 ? [around(i, i, '_')] : []),
    ...(letters.length > SHORT ? [around(i, i + 1, '')] : []),
    ...(i + 1 < letters.length ? [around(i, i + 2, joined([letters[i + 1] ?? '', letter]))] : []),
  ]);
  return [...new Set(patterns)];
}

const escaped = (letter: string): string => (/[\\%_]/.test(letter) ? `\\${letter}` : letter);
