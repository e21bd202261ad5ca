/** A text without its case and accents, in which somebody finds what they type. */
export const folded = (text: string): string => text.normalize('NFD').replaceAll(/\p{M}/gu, '').toLowerCase();

/** Whether a text holds each of the words that are typed, in any order. */
export const holdsWords = (text: string, typed: string): boolean => {
  const within = folded(text);
  return folded(typed)
    .split(/\s+/)
    .every((word) => within.includes(word));
};
