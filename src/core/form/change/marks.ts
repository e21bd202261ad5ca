import type { FormDesign } from '../design';
import { differenceOf } from './design-difference';

export type Mark = 'new' | 'changed' | 'moved';

/**
 * What is to be marked on a design that is compared with another: by the id of a section, question, column,
 * total, check, step or further write. What is new is not called moved or changed besides, and what was
 * changed is not called moved.
 */
export function marksOf(before: FormDesign, after: FormDesign): ReadonlyMap<string, Mark> {
  const marks = new Map<string, Mark>();
  const mark = (id: string, as: Mark): void => {
    if (marks.get(id) !== 'new') marks.set(id, as);
  };
  const known = new Set(idsIn(before));
  for (const change of differenceOf(before, after)) {
    if (change.t === 'insert') for (const id of idsIn(change.item)) mark(id, known.has(id) ? 'moved' : 'new');
    if (change.t === 'move') mark(change.of.id, 'moved');
    if (change.t === 'set' && change.of !== null) mark(change.of.id, 'changed');
  }
  return marks;
}

/** Of a part of a design and of all that is in it. */
function idsIn(of: unknown): string[] {
  if (Array.isArray(of)) return (of as readonly unknown[]).flatMap(idsIn);
  if (of === null || typeof of !== 'object') return [];
  const id = (of as { readonly id?: unknown }).id;
  return [...(typeof id === 'string' ? [id] : []), ...Object.values(of).flatMap(idsIn)];
}
