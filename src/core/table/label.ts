/** Words made of the labels of tables. They know English only so far; a label they get wrong can be typed over. */
export function plural(word: string): string {
  if (/person$/i.test(word)) return word.replace(/erson$/i, 'eople');
  if (/[^aeiou]y$/i.test(word)) return `${word.slice(0, -1)}ies`;
  return /(s|x|ch|sh)$/i.test(word) ? `${word}es` : `${word}s`;
}

/** Beds: Bed; Supply lines: Supply line; Taxa stays. */
export function singular(label: string): string {
  if (/ies$/i.test(label)) return `${label.slice(0, -3)}y`;
  return /(ss|us|is)$/i.test(label) ? label : label.replace(/s$/i, '');
}

/**
 * What stands before the numbers of a table's records: the first letters of the words, or of the only word. "Treatment request" numbers as
 * TR-2026-0001. Where another table has it already, more letters are taken.
 */
export function prefixFor(label: string, taken: ReadonlySet<string> = new Set()): string {
  const words = label
    .normalize('NFKD')
    .replace(/[^A-Za-z ]/g, '')
    .toUpperCase()
    .split(' ')
    .filter((word) => word !== '');
  const [first = 'R'] = words;
  const base = (words.length > 1 ? words.map((word) => word[0] ?? '').join('') : first.slice(0, 2)).slice(
    0,
    4,
  );
  const more = Array.from({ length: 26 }, (_, i) => base.slice(0, 5) + String.fromCharCode(65 + i));
  return [base, first.slice(0, 3), first.slice(0, 4), ...more].find((one) => !taken.has(one)) ?? base;
}
