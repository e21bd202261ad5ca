import Big from 'big.js';

/** A number or a day that an expression stands for: a path plus a constant. The path '' stands for 0. Days count from 1970. */
export interface Term {
  readonly path: string;
  readonly plus: Big;
  /** Takes whole values only, as days and whole numbers do. */
  readonly whole: boolean;
}

/** What a combination of answers must fulfil; all of a list must hold together. */
export type Constraint =
  | { readonly t: 'order'; readonly low: Term; readonly high: Term; readonly strict: boolean }
  | { readonly t: 'differs'; readonly left: Term; readonly right: Term }
  /** A code, a text, or yes or no: one of these, or none of these. */
  | { readonly t: 'one-of'; readonly path: string; readonly values: readonly string[] }
  | { readonly t: 'none-of'; readonly path: string; readonly values: readonly string[] }
  | { readonly t: 'empty' | 'filled'; readonly path: string }
  /** Something that cannot be looked into: it holds, or it fails; both at once cannot be. */
  | { readonly t: 'opaque'; readonly text: string; readonly holds: boolean }
  | { readonly t: 'never' };

/** The values a path may take, where the form says so: the codes of a choice. */
export type Domains = ReadonlyMap<string, readonly string[]>;

/** False only when it is certain that no answers fulfil all of them. */
export function canHold(constraints: readonly Constraint[], domains: Domains): boolean {
  if (constraints.some(({ t }) => t === 'never')) return false;
  return (
    emptinessAgrees(constraints) &&
    opaqueAgrees(constraints) &&
    valuesLeft(constraints, domains) &&
    ordersAgree(constraints)
  );
}

function emptinessAgrees(constraints: readonly Constraint[]): boolean {
  const [empty, filled] = [new Set<string>(), new Set<string>()];
  for (const one of constraints) {
    if (one.t === 'empty') empty.add(one.path);
    if (one.t === 'filled' || one.t === 'one-of') filled.add(one.path);
    if (one.t === 'order') for (const { path } of [one.low, one.high]) filled.add(path);
  }
  return ![...empty].some((path) => filled.has(path));
}

function opaqueAgrees(constraints: readonly Constraint[]): boolean {
  const known = new Map<string, boolean>();
  for (const one of constraints) {
    if (one.t !== 'opaque') continue;
    if (known.get(one.text) === !one.holds) return false;
    known.set(one.text, one.holds);
  }
  return true;
}

function valuesLeft(constraints: readonly Constraint[], domains: Domains): boolean {
  const left = new Map<string, Set<string>>();
  for (const one of constraints) {
    if (one.t !== 'one-of') continue;
    const allowed = left.get(one.path) ?? new Set(domains.get(one.path) ?? one.values);
    left.set(one.path, new Set([...allowed].filter((value) => one.values.includes(value))));
  }
  // Where it must be filled, ruling out each choice there is leaves none.
  for (const one of constraints)
    if (one.t === 'filled' && domains.has(one.path) && !left.has(one.path))
      left.set(one.path, new Set(domains.get(one.path)));
  for (const one of constraints)
    if (one.t === 'none-of') for (const value of one.values) left.get(one.path)?.delete(value);
  return [...left.values()].every((values) => values.size > 0);
}

/** More paths than any sane rule has; beyond, nothing is claimed. */
const MOST_PATHS = 40;

/** `high - low >= bound`, or more than it. */
interface Bound {
  readonly bound: Big;
  readonly strict: boolean;
}

/**
 * Differences between paths, tightened through one another (Floyd and Warshall): a circle that comes back
 * higher than it began cannot be.
 */
function ordersAgree(constraints: readonly Constraint[]): boolean {
  const orders = constraints.filter((one) => one.t === 'order');
  const differs = constraints.filter((one) => one.t === 'differs');
  const paths = [...new Set(orders.flatMap(({ low, high }) => [low.path, high.path]))];
  if (paths.length > MOST_PATHS) return true;
  const least = paths.map((): (Bound | null)[] => paths.map(() => null));
  const at = (path: string) => paths.indexOf(path);
  for (const { low, high, strict } of orders)
    raise(least, at(low.path), at(high.path), tightened(low, high, strict));
  for (let k = 0; k < paths.length; k++)
    for (let i = 0; i < paths.length; i++)
      for (let j = 0; j < paths.length; j++) {
        const [a, b] = [least[i]?.[k], least[k]?.[j]];
        if (a != null && b != null)
          raise(least, i, j, { bound: a.bound.plus(b.bound), strict: a.strict || b.strict });
      }
  if (paths.some((_, i) => isAbove(least[i]?.[i] ?? null, new Big(0)))) return false;
  return !differs.some(({ left, right }) =>
    isFixed(least, at(left.path), at(right.path), left.plus.minus(right.plus)),
  );
}

/** low + a <= high + b is high - low >= a - b; between whole values a strict bound is the next whole one. */
function tightened(low: Term, high: Term, strict: boolean): Bound {
  const bound = low.plus.minus(high.plus);
  if (!low.whole || !high.whole) return { bound, strict };
  const up = bound.round(0, bound.lt(0) ? Big.roundDown : Big.roundUp);
  return { bound: strict && up.eq(bound) ? bound.plus(1) : up, strict: false };
}

function raise(least: (Bound | null)[][], i: number, j: number, bound: Bound): void {
  const row = least[i];
  const known = row?.[j] ?? null;
  if (
    row !== undefined &&
    (known === null || bound.bound.gt(known.bound) || (bound.bound.eq(known.bound) && bound.strict))
  )
    row[j] = bound;
}

const isAbove = (bound: Bound | null, than: Big): boolean =>
  bound !== null && (bound.bound.gt(than) || (bound.strict && bound.bound.eq(than)));

/** Whether two paths can only be this far apart, which they must not be. */
function isFixed(
  least: readonly (readonly (Bound | null)[])[],
  left: number,
  right: number,
  apart: Big,
): boolean {
  if (left < 0 || right < 0) return false;
  const [up, down] = [
    left === right ? { bound: new Big(0), strict: false } : least[left]?.[right],
    left === right ? { bound: new Big(0), strict: false } : least[right]?.[left],
  ];
  return up != null && down != null && up.bound.eq(apart) && down.bound.eq(apart.times(-1));
}
