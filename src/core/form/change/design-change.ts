import type { FormDesign } from '../design';

/**
 * One change of a design, as a value: it can be applied, taken back and said in words. Things are found by
 * their ids and stand behind a neighbour, not at an index, so that a change still fits after somebody else's.
 */
export type DesignChange =
  | {
      readonly t: 'set';
      /** Null for the form itself. */
      readonly of: Listed | null;
      readonly fields: Readonly<Record<string, { readonly before: unknown; readonly after: unknown }>>;
    }
  | { readonly t: 'insert' | 'remove'; readonly list: List; readonly at: Spot; readonly item: Item }
  | {
      readonly t: 'move';
      readonly of: Listed;
      readonly from: Spot;
      readonly to: Spot;
    };

/** Every list of a design whose items have ids. */
export type List =
  | 'sections'
  | 'questions'
  | 'columns'
  | 'totals'
  | 'checks'
  | 'existing'
  | 'steps'
  | 'further'
  | 'rules'
  | 'conditions'
  | 'rows';

export interface Listed {
  readonly list: List;
  readonly id: string;
}

/** Behind which item of a list, null for first; and whose list it is, null for the form's own. */
export interface Spot {
  readonly in: string | null;
  readonly after: string | null;
}

/** A section, question, column, total, check, step, table of rules or one of its rows, as a change carries it. */
export interface Item {
  readonly id: string;
  readonly [field: string]: unknown;
}

/** The lists that hang on an item of a list, or on the form. */
export const listsIn: Readonly<Record<List | 'form', readonly List[]>> = {
  form: ['sections', 'checks', 'existing', 'steps', 'further', 'rules'],
  sections: ['questions'],
  questions: ['columns', 'totals'],
  columns: [],
  totals: [],
  checks: [],
  existing: [],
  steps: [],
  further: [],
  rules: ['conditions', 'rows'],
  conditions: [],
  rows: [],
};

/** Lists that a form without any of their items does not have. */
const leftOut: ReadonlySet<List> = new Set(['existing', 'further', 'rules']);

/** A design as a tree of items; it is a FormDesign again as soon as it is given back. */
type Tree = Readonly<Record<string, unknown>>;

/** Where what it is about is not there any more, a change does nothing; what it adds comes last where its neighbour is gone. */
export function applied(design: FormDesign, changes: readonly DesignChange[]): FormDesign {
  // A change is made from two designs, so what it makes of a design is one.
  return changes.reduce<Tree>(applyOne, design as unknown as Tree) as unknown as FormDesign;
}

export const inverted = (changes: readonly DesignChange[]): DesignChange[] =>
  changes.map(invertedOne).reverse();

export function invertedOne(change: DesignChange): DesignChange {
  switch (change.t) {
    case 'set':
      return {
        ...change,
        fields: Object.fromEntries(
          Object.entries(change.fields).map(([key, { before, after }]) => [
            key,
            { before: after, after: before },
          ]),
        ),
      };
    case 'insert':
      return { ...change, t: 'remove' };
    case 'remove':
      return { ...change, t: 'insert' };
    case 'move':
      return { ...change, from: change.to, to: change.from };
  }
}

function applyOne(design: Tree, change: DesignChange): Tree {
  switch (change.t) {
    case 'set':
      return change.of === null
        ? withFields(design, change.fields)
        : mapItems(design, change.of, (item) => withFields(item, change.fields) as Item);
    case 'insert':
      return find(design, { list: change.list, id: change.item.id }) === null
        ? placed(design, change.list, change.at, withoutKnown(change.item, change.list, design))
        : design;
    case 'remove':
      return without(design, { list: change.list, id: change.item.id });
    case 'move': {
      const item = find(design, change.of);
      return item === null ? design : placed(without(design, change.of), change.of.list, change.to, item);
    }
  }
}

/** A field that is undefined is one that is left out. */
const defined = (item: Tree): Tree =>
  Object.fromEntries(Object.entries(item).filter(([, value]) => value !== undefined));

const withFields = (item: Tree, fields: Extract<DesignChange, { t: 'set' }>['fields']): Tree =>
  defined({
    ...item,
    ...Object.fromEntries(Object.entries(fields).map(([key, { after }]) => [key, after])),
  });

export const itemsOf = (of: Tree, list: List): readonly Item[] => (of[list] as Item[] | undefined) ?? [];

/** Every list of one name in a design, changed; `parent` is null for the form's own. */
function mapLists(
  of: Tree,
  list: List,
  change: (items: readonly Item[], parent: string | null) => readonly Item[],
  at: List | 'form' = 'form',
): Tree {
  const next: Record<string, unknown> = { ...of };
  let same = true;
  for (const inner of listsIn[at]) {
    if (of[inner] === undefined && !leftOut.has(inner)) continue;
    const before = itemsOf(of, inner);
    const after =
      inner === list
        ? change(before, at === 'form' ? null : String(of['id']))
        : before.map((item) => mapLists(item, list, change, inner) as Item);
    if (after === before || (after.length === before.length && after.every((one, i) => one === before[i])))
      continue;
    same = false;
    next[inner] = leftOut.has(inner) && after.length === 0 ? undefined : after;
  }
  return same ? of : defined(next);
}

const mapItems = (design: Tree, { list, id }: Listed, change: (item: Item) => Item): Tree =>
  mapLists(design, list, (items) => items.map((item) => (item.id === id ? change(item) : item)));

const without = (design: Tree, { list, id }: Listed): Tree =>
  mapLists(design, list, (items) =>
    items.some((item) => item.id === id) ? items.filter((item) => item.id !== id) : items,
  );

export function find(design: Tree, { list, id }: Listed): Item | null {
  let found: Item | null = null;
  mapLists(design, list, (items) => {
    found ??= items.find((item) => item.id === id) ?? null;
    return items;
  });
  return found;
}

/** What comes may bring along what is there already: that moves, and does not come twice. */
export function withoutKnown(item: Item, list: List, now: Tree): Item {
  const next: Record<string, unknown> = { ...item };
  for (const inner of listsIn[list])
    if (item[inner] !== undefined)
      next[inner] = itemsOf(item, inner)
        .filter(({ id }) => find(now, { list: inner, id }) === null)
        .map((one) => withoutKnown(one, inner, now));
  return next as unknown as Item;
}

function placed(design: Tree, list: List, { in: parent, after }: Spot, item: Item): Tree {
  const home = parentsOf(design, list);
  // Nothing that was added is lost with the place it was to stand in: it stands in the last one there is.
  const to = home.includes(parent) ? parent : (home.at(-1) ?? null);
  return mapLists(design, list, (items, of) => {
    if (of !== to) return items;
    const behind = after === null ? -1 : items.findIndex(({ id }) => id === after);
    const at = after !== null && behind < 0 ? items.length : behind + 1;
    return [...items.slice(0, at), item, ...items.slice(at)];
  });
}

function parentsOf(design: Tree, list: List): (string | null)[] {
  const parents: (string | null)[] = [];
  mapLists(design, list, (items, parent) => {
    parents.push(parent);
    return items;
  });
  return parents;
}
