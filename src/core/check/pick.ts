import { read } from '../expression/read';
import type { Comparison, Expression } from '../expression/tree';
import type { Scope, Type } from '../expression/type';
import { isBig } from '../expression/value';

/** A check as picking makes it: an answer, how it must compare, and a value or another answer. Both sides as FEEL text. */
export interface Pick {
  readonly left: string;
  readonly by: Comparison;
  readonly right: string;
}

/** What a side of a check may be picked from: each name of the scope, and the columns of looked-up records. */
export interface Pickable {
  readonly text: string;
  readonly type: Type;
}

export function pickables(scope: Scope): Pickable[] {
  return [...scope].flatMap(([key, { type }]) => {
    if (type.t === 'rows') return [];
    const inner = type.t === 'record' ? [...type.fields].map(([name, field]) => ({ text: `${key}.${name}`, type: field.type })) : [];
    return [{ text: key, type }, ...inner];
  });
}

/** How a comparison reads, by what is compared: a day is not "at most" another. */
export function comparisonsFor(type: Type): { by: Comparison; words: string }[] {
  if (type.t === 'date') {
    return [{ by: '<', words: 'before' }, { by: '<=', words: 'on or before' }, { by: '=', words: 'on' }, { by: '>=', words: 'on or after' }, { by: '>', words: 'after' }];
  }
  if (type.t === 'number') {
    return [{ by: '<=', words: 'at most' }, { by: '<', words: 'less than' }, { by: '=', words: 'equal to' }, { by: '!=', words: 'other than' }, { by: '>', words: 'more than' }, { by: '>=', words: 'at least' }];
  }
  return [{ by: '=', words: 'the same as' }, { by: '!=', words: 'other than' }];
}

export const pickText = (pick: Pick): string => `${pick.left} ${pick.by} ${pick.right}`;

/** The pick an expression is, or null when picking could not have made it. */
export function pickOf(text: string, scope: Scope): Pick | null {
  const tree = read(text, scope);
  if (!tree.ok || tree.value.op !== 'compare') return null;
  const { by, left, right } = tree.value;
  const sides = [left, right].map((side) => (isSide(side) ? text.slice(side.span.from, side.span.to) : null));
  return sides[0] && sides[1] ? { left: sides[0], by, right: sides[1] } : null;
}

function isSide(tree: Expression): boolean {
  if (tree.op === 'name' || tree.op === 'literal') return true;
  if (tree.op === 'field') return tree.of.op === 'name';
  return (tree.op === 'call' && tree.name === 'today') || (tree.op === 'negate' && tree.of.op === 'literal' && isBig(tree.of.value));
}

/** `rate must be at most product.max_rate`, in pieces, so that the interface can mark the names. */
export function pickSentence(pick: Pick, scope: Scope): { left: string; words: string; right: string } {
  const type = pickables(scope).find(({ text }) => text === pick.left)?.type ?? { t: 'number' };
  const words = comparisonsFor(type).find(({ by }) => by === pick.by)?.words ?? pick.by;
  return { left: pick.left, words: `must be ${words}`, right: sideWords(pick.right) };
}

function sideWords(text: string): string {
  if (text === 'today()') return 'today';
  if (text === 'true') return 'yes';
  if (text === 'false') return 'no';
  return /^date\("(.*)"\)$/.exec(text)?.[1] ?? text;
}
