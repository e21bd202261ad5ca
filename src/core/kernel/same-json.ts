/** Whether two pieces of JSON are the same; the order of keys says nothing, for a database gives them back in its own. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) &&
      Array.isArray(b) &&
      a.length === b.length &&
      a.every((one, i) => sameJson(one, b[i]))
    );
  const [left, right] = [definedIn(a), definedIn(b)];
  return (
    left.length === right.length &&
    left.every(([key, one]) => Object.hasOwn(b, key) && sameJson(one, (b as Record<string, unknown>)[key]))
  );
}

/** What is undefined is not written in JSON. */
const definedIn = (of: object): [string, unknown][] =>
  Object.entries(of).filter(([, one]) => one !== undefined);
