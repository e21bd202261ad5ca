import { sameJson } from '../../kernel/same-json';
import type { FormDesign } from '../design';
import {
  applied,
  itemsOf,
  listsIn,
  withoutKnown,
  type DesignChange,
  type Item,
  type List,
  type Spot,
} from './design-change';

type Tree = Readonly<Record<string, unknown>>;

/** Where every item of one list stands. */
type Places = ReadonlyMap<string, { readonly spot: Spot; readonly item: Item }>;

const lists: readonly List[] = [
  'sections',
  'questions',
  'columns',
  'totals',
  'checks',
  'existing',
  'steps',
  'further',
  'rules',
  'conditions',
  'rows',
];

/** The changes that make one design of another, in an order they can be applied in. */
export function differenceOf(before: FormDesign, after: FormDesign): DesignChange[] {
  if (before === after) return [];
  const changes: DesignChange[] = [];
  let now = before;
  const push = (...more: DesignChange[]): void => {
    changes.push(...more);
    now = applied(now, more);
  };
  const [old, wanted] = [treeOf(before), treeOf(after)];
  const fields = fieldsChanged(old, wanted, 'form');
  if (fields !== null) push({ t: 'set', of: null, fields });
  for (const list of lists) push(...remade(old, wanted, list));
  for (const list of lists) for (const change of settled(() => treeOf(now), wanted, list)) push(change);
  // What hangs on something goes before it, each by itself: somebody else may have taken it elsewhere.
  for (const list of [...lists].reverse()) push(...gone(treeOf(now), wanted, list));
  for (const list of lists) push(...edited(old, wanted, list));
  return changes;
}

const treeOf = (design: FormDesign): Tree => design as unknown as Tree;

function placesOf(design: Tree, wanted: List): Places {
  const places = new Map<string, { spot: Spot; item: Item }>();
  const visit = (of: Tree, at: List | 'form'): void => {
    for (const list of listsIn[at]) {
      let after: string | null = null;
      for (const item of itemsOf(of, list)) {
        if (list === wanted)
          places.set(item.id, { spot: { in: at === 'form' ? null : String(of['id']), after }, item });
        visit(item, list);
        after = item.id;
      }
    }
  };
  visit(design, 'form');
  return places;
}

/** Whether both have the same lists hanging on them: what becomes repeating rows, or ceases to be, is another thing of the same name. */
const isAlike = (a: Item, b: Item, list: List): boolean =>
  listsIn[list].every((inner) => (a[inner] === undefined) === (b[inner] === undefined));

function remade(before: Tree, after: Tree, list: List): DesignChange[] {
  const places = placesOf(after, list);
  return [...placesOf(before, list)].reverse().flatMap(([id, { spot, item }]): DesignChange[] => {
    const other = places.get(id);
    return other === undefined || isAlike(item, other.item, list)
      ? []
      : [{ t: 'remove', list, at: spot, item }];
  });
}

/**
 * What is new and what stands elsewhere, from the first to the last of each list; what keeps its order among
 * its neighbours is not moved.
 */
function* settled(now: () => Tree, wanted: Tree, list: List): Generator<DesignChange> {
  const before = placesOf(now(), list);
  const goal = placesOf(wanted, list);
  const staying = stayingIn(before, goal);
  for (const [id, { spot, item }] of goal) {
    if (staying.has(id)) continue;
    const there = placesOf(now(), list).get(id);
    if (there === undefined) yield { t: 'insert', list, at: spot, item: withoutKnown(item, list, now()) };
    else if (there.spot.in !== spot.in || there.spot.after !== spot.after)
      yield { t: 'move', of: { list, id }, from: there.spot, to: spot };
  }
}

/** For each list the longest run of items that keep their order. */
function stayingIn(before: Places, goal: Places): ReadonlySet<string> {
  const order = new Map([...before.keys()].map((id, i) => [id, i]));
  const byHome = new Map<string | null, string[]>();
  for (const [id, { spot }] of goal)
    if (before.get(id)?.spot.in === spot.in) byHome.set(spot.in, [...(byHome.get(spot.in) ?? []), id]);
  return new Set([...byHome.values()].flatMap((ids) => longestRise(ids, (id) => order.get(id) ?? 0)));
}

/** The longest subsequence that rises (patience sorting, O(n log n)). */
function longestRise(ids: readonly string[], rank: (id: string) => number): string[] {
  const ends: number[] = [];
  const previous: number[] = [];
  ids.forEach((id, i) => {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (rank(ids[ends[middle] ?? 0] ?? '') < rank(id)) low = middle + 1;
      else high = middle;
    }
    previous[i] = low === 0 ? -1 : (ends[low - 1] ?? -1);
    ends[low] = i;
  });
  const rise: string[] = [];
  for (let i = ends.at(-1) ?? -1; i >= 0; i = previous[i] ?? -1) rise.push(ids[i] ?? '');
  return rise;
}

function gone(now: Tree, wanted: Tree, list: List): DesignChange[] {
  const goal = placesOf(wanted, list);
  // From the last on, so that each still stands behind what it stood behind when it is put back.
  return [...placesOf(now, list)]
    .reverse()
    .flatMap(([id, { spot, item }]): DesignChange[] =>
      goal.has(id) ? [] : [{ t: 'remove', list, at: spot, item }],
    );
}

function edited(before: Tree, after: Tree, list: List): DesignChange[] {
  const old = placesOf(before, list);
  return [...placesOf(after, list)].flatMap(([id, { item }]): DesignChange[] => {
    const was = old.get(id)?.item;
    if (was === undefined || was === item || !isAlike(was, item, list)) return [];
    const fields = fieldsChanged(was, item, list);
    return fields === null ? [] : [{ t: 'set', of: { list, id }, fields }];
  });
}

function fieldsChanged(
  before: Tree,
  after: Tree,
  at: List | 'form',
): (DesignChange & { t: 'set' })['fields'] | null {
  const inner = new Set<string>(listsIn[at]);
  const changed = [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((key) => !inner.has(key) && !sameJson(before[key], after[key]))
    .filter((key) => before[key] !== undefined || after[key] !== undefined)
    .map((key) => [key, { before: before[key], after: after[key] }] as const);
  return changed.length === 0 ? null : Object.fromEntries(changed);
}
