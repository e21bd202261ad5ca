import { sameJson } from '../../kernel/same-json';
import type { FormDesign } from '../design';
import { applied, find, type DesignChange, type Item, type Listed } from './design-change';
import { differenceOf } from './design-difference';

/** What every question has, whatever its kind. */
const ofEveryKind = new Set([
  'key',
  'label',
  'hint',
  'required',
  'askWhen',
  'requireWhen',
  'again',
  'onChange',
  'onNew',
]);

export interface MergedDesigns {
  readonly design: FormDesign;
  /** Mine that does not fit, because somebody else changed the very same thing: theirs stands. */
  readonly clashes: readonly DesignChange[];
}

/** My changes since `base`, on top of what somebody else made of it. */
export function mergedDesigns(base: FormDesign, mine: FormDesign, theirs: FormDesign): MergedDesigns {
  const clashes: DesignChange[] = [];
  const fitting = differenceOf(base, mine).flatMap((change): DesignChange[] => {
    if (change.t !== 'set') return [change];
    const { fits, clash } = apart(change, asTree(base), asTree(theirs));
    if (clash !== null) clashes.push(clash);
    return fits === null ? [] : [fits];
  });
  return { design: applied(theirs, fitting), clashes };
}

type SetChange = Extract<DesignChange, { t: 'set' }>;
type Tree = Readonly<Record<string, unknown>>;
const asTree = (design: FormDesign): Tree => design as unknown as Tree;
const itemAt = (design: Tree, of: Listed | null): Tree | null => (of === null ? design : find(design, of));

/** The fields of a change that nobody else changed, and those that somebody did. */
function apart(
  change: SetChange,
  base: Tree,
  theirs: Tree,
): { fits: SetChange | null; clash: SetChange | null } {
  const [was, is] = [itemAt(base, change.of), itemAt(theirs, change.of)];
  if (was === null || is === null) return { fits: null, clash: change };
  const clashing = Object.entries(change.fields).filter(([key, { after }]) => isClash(key, was, is, after));
  if (clashing.length === 0) return { fits: change, clash: null };
  // Another kind comes with all that belongs to it, or not at all.
  if ('kind' in change.fields) return { fits: null, clash: change };
  const names = new Set(clashing.map(([key]) => key));
  const rest = Object.entries(change.fields).filter(([key]) => !names.has(key));
  return {
    fits: rest.length === 0 ? null : { ...change, fields: Object.fromEntries(rest) },
    clash: { ...change, fields: Object.fromEntries(clashing) },
  };
}

function isClash(key: string, was: Tree, is: Tree | Item, after: unknown): boolean {
  if (was['kind'] !== is['kind'] && !ofEveryKind.has(key)) return true;
  return !sameJson(was[key], is[key]) && !sameJson(is[key], after);
}
