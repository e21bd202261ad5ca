/** A word goes on with one of these. */
const LETTER = /[\p{L}\p{M}\p{N}]/u;

/**
 * Whom a word names with an @: by their whole name, or by the first of it where that is nobody else's. Case
 * is no matter. In the order of `people`.
 */
export function mentioned<P extends { readonly id: string; readonly name: string }>(
  word: string,
  people: readonly P[],
): P[] {
  const said = word.toLowerCase();
  const first = ({ name }: P): string => name.toLowerCase().split(' ')[0] ?? '';
  const isNamed = (name: string): boolean => {
    for (let at = said.indexOf(`@${name}`); at >= 0; at = said.indexOf(`@${name}`, at + 1))
      if (!LETTER.test(said[at + 1 + name.length] ?? ' ')) return true;
    return false;
  };
  return people.filter(
    (one) =>
      isNamed(one.name.toLowerCase()) ||
      (people.every((other) => other === one || first(other) !== first(one)) && isNamed(first(one))),
  );
}
