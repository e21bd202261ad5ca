import { ExactSum } from './number';
import type { Run, Source, Step } from './step';
import { isBig, isList, type Value } from './value';

/** Lists count from 1, and from the end with -1; where there is nothing, the value is empty. */
export function indexStep(list: Step, index: Step): Step {
  return (from, run) => {
    const [members, which] = [list(from, run), index(from, run)];
    if (!isList(members) || !isBig(which)) return null;
    const n = which.toNumber();
    return (n > 0 ? members[n - 1] : n < 0 ? members[members.length + n] : undefined) ?? null;
  };
}

/** Those for which the condition is true; one that cannot be told is left out. */
export function filterStep(list: Step, slot: number, holds: Step): Step {
  return (from, run) => {
    const members = list(from, run);
    if (!isList(members)) return null;
    return members.filter((member) => {
      run.spend(1);
      run.slots[slot] = member;
      return holds(from, run) === true;
    });
  };
}

/** One loop: where its value is kept, and what it goes through; a series counts instead of making a list. */
export interface Loop {
  readonly slot: number;
  readonly through: Step | { readonly low: Step; readonly high: Step };
}

/** Runs `each` for every member until it gives anything but false; null when there is nothing to go through. */
type Walk = (from: Source, run: Run, each: Each) => boolean | null;
type Each = (member: Value) => boolean | null;

/** Runs `body` for every way the loops can stand. */
function walk(loops: readonly Loop[]): (from: Source, run: Run, body: () => boolean) => boolean | null {
  const [first, ...rest] = loops;
  if (first === undefined) return (_, __, body) => body();
  const [go, inner, slot] = [members(first.through), walk(rest), first.slot];
  return (from, run, body) =>
    go(from, run, (member) => {
      run.spend(1);
      run.slots[slot] = member;
      return inner(from, run, body);
    });
}

function members(through: Loop['through']): Walk {
  if (typeof through !== 'function')
    return (from, run, each) => count(through.low(from, run), through.high(from, run), each);
  return (from, run, each) => {
    const list = through(from, run);
    if (!isList(list)) return null;
    for (const member of list) {
      const stop = each(member);
      if (stop !== false) return stop;
    }
    return false;
  };
}

/** Upwards or, when it begins above, downwards. Both ends are whole numbers. */
function count(low: Value, high: Value, each: Each): boolean | null {
  if (!isBig(low) || !isBig(high) || !low.eq(low.round(0)) || !high.eq(high.round(0))) return null;
  const step = low.gt(high) ? -1 : 1;
  for (let n = low; step > 0 ? n.lte(high) : n.gte(high); n = n.plus(step)) {
    const stop = each(n);
    if (stop !== false) return stop;
  }
  return false;
}

/** `partial` is what has been gathered so far, kept in a slot of its own. */
export function forStep(loops: readonly Loop[], partial: number | null, body: Step): Step {
  const go = walk(loops);
  return (from, run) => {
    const results: Value[] = [];
    const done = go(from, run, () => {
      if (partial !== null) {
        run.spend(results.length);
        run.slots[partial] = [...results];
      }
      results.push(body(from, run));
      return false;
    });
    return done === null ? null : results;
  };
}

/** Empty when a factor is, and over nothing, as FEEL's sum. */
export function sumOfProductsStep(loops: readonly Loop[], left: Step, right: Step): Step {
  const go = walk(loops);
  return (from, run) => {
    const sum = new ExactSum();
    let [any, empty] = [false, false];
    const done = go(from, run, () => {
      const [a, b] = [left(from, run), right(from, run)];
      any = true;
      if (isBig(a) && isBig(b)) sum.addProduct(a, b);
      else empty = true;
      return false;
    });
    return done === null || empty || !any ? null : sum.total();
  };
}

/** Kleene over all the ways: one deciding turn is enough, one that cannot be told leaves it open. */
export function quantifierStep(loops: readonly Loop[], decides: boolean, body: Step): Step {
  const go = walk(loops);
  return (from, run) => {
    let open = false;
    const found = go(from, run, () => {
      const holds = body(from, run);
      open ||= holds === null;
      return holds === decides;
    });
    return found === null ? null : found ? decides : open ? null : !decides;
  };
}
