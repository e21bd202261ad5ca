import { sameJson } from './same-json';

/**
 * Three-way merging: `base` is what both began from, `mine` and `theirs` what each made of it. What only one
 * of them changed is as they made it; where both changed the same thing differently, they clash: mine stands
 * in the result, and the place is named so that somebody may be asked.
 */
export interface Merged<T> {
  readonly value: T;
  /** Paths of what both changed differently, from the value down. */
  readonly clashes: readonly (readonly string[])[];
}

export type Same = (a: unknown, b: unknown) => boolean;

export function mergedValue<T>(base: T, mine: T, theirs: T, same: Same = sameJson): Merged<T> {
  if (same(base, mine)) return { value: theirs, clashes: [] };
  return { value: mine, clashes: same(base, theirs) || same(mine, theirs) ? [] : [[]] };
}

/** How one field is merged that is more than a value. */
export type FieldMerges<T> = {
  readonly [K in keyof T]?: (base: T[K], mine: T[K], theirs: T[K]) => Merged<T[K]>;
};

/** Field by field. Fields that only some of the three have count as undefined where they are missing. */
export function mergedFields<T extends object>(
  base: T,
  mine: T,
  theirs: T,
  merges: FieldMerges<T> = {},
): Merged<T> {
  const value: Partial<T> = {};
  const clashes: string[][] = [];
  for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine), ...Object.keys(base)])) {
    const field = key as keyof T;
    const one = (merges[field] ?? mergedValue)(base[field], mine[field], theirs[field]);
    if (one.value !== undefined) value[field] = one.value as T[keyof T];
    clashes.push(...one.clashes.map((path) => [key, ...path]));
  }
  // Every field of the three was looked at.
  return { value: value as T, clashes };
}

/**
 * Lists of things that keep their key. What somebody changed stays, even where the other took it out, and that is a clash; what nobody else
 * touched goes with whoever took it out. The order is mine where I moved anything, else theirs; what is new stands behind what it
 * stood behind.
 */
export function mergedList<T>(
  base: readonly T[],
  mine: readonly T[],
  theirs: readonly T[],
  keyOf: (item: T) => string,
  merge: (base: T, mine: T, theirs: T) => Merged<T> = mergedValue,
): Merged<T[]> {
  const [old, wanted, known] = [base, mine, theirs].map(
    (list) => new Map(list.map((one) => [keyOf(one), one])),
  );
  const clashes: string[][] = [];
  const items = new Map<string, T>();
  for (const key of new Set([...theirs, ...mine].map(keyOf))) {
    const one = mergedItem(old?.get(key), wanted?.get(key), known?.get(key), merge);
    if (one === null) continue;
    if (one.value !== undefined) items.set(key, one.value);
    clashes.push(...one.clashes.map((path) => [key, ...path]));
  }
  const keys = [base, mine, theirs].map((list) => list.map(keyOf)) as [string[], string[], string[]];
  return { value: mergedOrder(...keys).flatMap((key) => items.get(key) ?? []), clashes };
}

/** Null where nobody has it, or it was taken out. */
function mergedItem<T>(
  base: T | undefined,
  mine: T | undefined,
  theirs: T | undefined,
  merge: (base: T, mine: T, theirs: T) => Merged<T>,
): Merged<T | undefined> | null {
  if (mine !== undefined && theirs !== undefined)
    return base === undefined
      ? { value: mine, clashes: sameJson(mine, theirs) ? [] : [[]] }
      : merge(base, mine, theirs);
  if (base === undefined) return { value: mine ?? theirs, clashes: [] };
  const left = mine ?? theirs;
  if (left === undefined || sameJson(base, left)) return null;
  // One took out what the other changed: mine stands, whichever of the two it is.
  return { value: mine, clashes: [[]] };
}

function mergedOrder(base: readonly string[], mine: readonly string[], theirs: readonly string[]): string[] {
  const common = new Set(base.filter((key) => mine.includes(key)));
  const inBoth = (list: readonly string[]): string => list.filter((key) => common.has(key)).join('\n');
  const [first, second] = inBoth(mine) === inBoth(base) ? [theirs, mine] : [mine, theirs];
  const order = [...first];
  const known = new Set(second);
  for (const [i, key] of second.entries()) {
    if (order.includes(key)) continue;
    const before = i === 0 ? undefined : second[i - 1];
    let at = before === undefined ? 0 : order.indexOf(before) + 1;
    // What the first put in the same place comes first.
    while (at < order.length && !known.has(order[at] ?? '')) at++;
    order.splice(at, 0, key);
  }
  return order;
}
