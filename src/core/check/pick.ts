import { print } from '../expression/print';
import { read } from '../expression/read';
import type { Expression, OfOp } from '../expression/tree';
import { elementOf, type Scope, type Type } from '../expression/type';
import { isRelativeDay, rangeWords, relativeDayWords } from './day-ranges';
import { memberWords, phraseFor, type Pick, type PickBy, type Picked, type PickGroup } from './pick-text';
import { speak, spoken } from '../wording/speak';

/** What a side of a condition may be picked from: each name of the scope, the columns of looked-up records, and what rows add up to. */
export interface Pickable {
  readonly text: string;
  readonly type: Type;
}

export function pickables(scope: Scope): Pickable[] {
  return [...scope].flatMap(([key, { type }]): Pickable[] => {
    if (type.t === 'rows') return overRows(key, type);
    const inner =
      type.t === 'record'
        ? [...type.fields].map(([name, field]) => ({ text: `${key}.${name}`, type: field.type }))
        : [];
    return [{ text: key, type }, ...inner];
  });
}

function overRows(key: string, { columns }: Extract<Type, { t: 'rows' }>): Pickable[] {
  const numbers = [...columns].filter(([, { type }]) => type.t === 'number');
  const sums = numbers.flatMap(([name, { type }]) =>
    ['sum', 'min', 'max'].map((fold) => ({ text: `${fold}(${key}.${name})`, type })),
  );
  return [{ text: `count(${key})`, type: { t: 'number' } }, ...sums];
}

/** The picks an expression is, or null when picking could not have made it. */
export function pickedOf(text: string, scope: Scope): Picked | null {
  const tree = read(text, scope);
  if (!tree.ok) return null;
  const join = tree.value.op === 'or' ? 'any' : 'all';
  const picks = partsOf(tree.value, tree.value.op).map(pickOf);
  return picks.every((pick) => pick !== null) ? { join, picks } : null;
}

/** The same with conditions that stand together, one deep. */
export function pickedFilterOf(text: string, scope: Scope): Picked | null {
  const tree = read(text, scope);
  if (!tree.ok) return null;
  const join = tree.value.op === 'or' ? 'any' : 'all';
  const parts = partsOf(tree.value, tree.value.op).map((part) => pickOf(part) ?? groupOf(part, join));
  const groups = parts.flatMap((part) => (part !== null && 'picks' in part ? [part] : []));
  return parts.every((part) => part !== null)
    ? {
        join,
        picks: parts.flatMap((part) => ('picks' in part ? [] : [part])),
        ...(groups.length > 0 && { groups }),
      }
    : null;
}

/** What stands together in a filter of all, or any: any, or all, of some, or none of them. */
function groupOf(tree: Expression, outer: 'all' | 'any'): PickGroup | null {
  const within = outer === 'all' ? 'any' : 'all';
  const [inner] = tree.op === 'call' && tree.name === 'not' ? tree.args : [];
  const of = inner ?? tree;
  const isGroup = of.op === (inner === undefined && within === 'all' ? 'and' : 'or');
  if (inner === undefined && !isGroup) return null;
  const picks = (isGroup ? partsOf(of, of.op) : [of]).map(pickOf);
  return picks.every((pick) => pick !== null)
    ? { join: inner === undefined ? within : 'none', within, picks }
    : null;
}

function partsOf(tree: Expression, op: string): Expression[] {
  return tree.op === op && (tree.op === 'and' || tree.op === 'or')
    ? [...partsOf(tree.left, op), tree.right]
    : [tree];
}

function pickOf(tree: Expression): Pick | null {
  switch (tree.op) {
    case 'compare':
      return comparisonPick(tree);
    case 'between':
      return sides('between', tree.of, [tree.low, tree.high]);
    case 'in':
      return listPick('one-of', tree);
    case 'call':
      return callPick(tree);
    default:
      return null;
  }
}

function callPick(tree: OfOp<'call'>): Pick | null {
  if (tree.name === 'list contains') return memberPick('has', tree);
  const [inner] = tree.name === 'not' ? tree.args : [];
  if (inner?.op === 'in') return listPick('none-of', inner);
  return inner?.op === 'call' && inner.name === 'list contains' ? memberPick('has-not', inner) : null;
}

/** Of a list that is an answer or a column, and one text. */
function memberPick(by: 'has' | 'has-not', { args: [list, member] }: OfOp<'call'>): Pick | null {
  const named = list?.op === 'name' || (list?.op === 'field' && list.of.op === 'name');
  return named && list.type.t === 'list' && member !== undefined && isSide(member)
    ? { left: print(list), by, right: [print(member)] }
    : null;
}

function comparisonPick({ by, left, right }: OfOp<'compare'>): Pick | null {
  const empty = right.op === 'literal' && right.value === null && right.type.t === 'null';
  if (!empty) return sides(by, left, [right]);
  return by === '=' || by === '!=' ? sides(by === '=' ? 'empty' : 'filled', left, []) : null;
}

function listPick(by: 'one-of' | 'none-of', tree: OfOp<'in'>): Pick | null {
  return tree.tests.every(({ t }) => t === 'is')
    ? sides(
        by,
        tree.of,
        tree.tests.map(({ value }) => value),
      )
    : null;
}

function sides(by: PickBy, left: Expression, right: readonly Expression[]): Pick | null {
  return isSide(left) && right.every(isSide) ? { left: print(left), by, right: right.map(print) } : null;
}

function isSide(tree: Expression): boolean {
  if (tree.op === 'name') return tree.type.t === 'list' || elementOf(tree.type) === null;
  if (tree.op === 'literal') return tree.type.t !== 'null';
  if (tree.op === 'field' && tree.of.op === 'name') return true;
  if (tree.type.t === 'date' && isRelativeDay(print(tree))) return true;
  if (tree.op !== 'call') return false;
  const [first] = tree.args;
  return (
    tree.name === 'today' ||
    (tree.args.length === 1 &&
      (first?.op === 'column' ||
        (first?.op === 'name' && first.type.t === 'rows' && tree.name === 'count')) &&
      ['sum', 'min', 'max', 'count'].includes(tree.name))
  );
}

/** A check says what must be, a condition what is. */
export type Mood = 'must be' | 'is';

/** `rate must be at most product.max_rate`, in pieces, so that the interface can mark the names. */
export function pickSentence(
  pick: Pick,
  scope: Scope,
  mood: Mood,
): { left: string; words: string; right: string } {
  const type = pickables(scope).find(({ text }) => text === pick.left)?.type ?? { t: 'number' as const };
  const range = pick.by === 'between' ? rangeWords(pick.right) : null;
  if (range !== null) return { left: sideWords(pick.left), words: spokenMood(mood), right: range };
  const phrase = phraseFor(type, pick.by);
  const between =
    pick.by === 'between'
      ? type.t === 'date'
        ? speak` to `
        : speak` and `
      : pick.by === 'none-of' || pick.by === 'one-of'
        ? ', '
        : '';
  return {
    left: sideWords(pick.left),
    words: moodWords(mood, pick.by, phrase),
    right: pick.right.map(sideWords).join(between),
  };
}

const spokenMood = (mood: Mood): string => (mood === 'must be' ? speak`must be` : speak`is`);

/** What a list has in it is said by a verb of its own. */
function moodWords(mood: Mood, by: PickBy, phrase: string): string {
  const words = memberWords(by);
  if (words === null) return mood === 'must be' ? speak`must be ${phrase}` : speak`is ${phrase}`;
  return mood === 'must be' ? speak`must ${phrase}` : words;
}

/** The whole as one line: `rate must be at most 5, and bed must be filled`. */
export function pickedSentence({ join, picks }: Picked, scope: Scope, mood: Mood): string {
  const parts = picks.map((pick) => {
    const { left, words: phrase, right } = pickSentence(pick, scope, mood);
    return `${left} ${phrase}${right === '' ? '' : ` ${right}`}`;
  });
  return parts.join(join === 'all' ? speak`, and ` : speak`, or `);
}

const folds = spoken((): Readonly<Record<string, string>> => ({
  sum: speak`the sum of`,
  min: speak`the least of`,
  max: speak`the most of`,
  count: speak`the number of`,
}));

function sideWords(text: string): string {
  const day = relativeDayWords(text);
  if (day !== null) return day;
  if (text === 'true') return speak`yes`;
  if (text === 'false') return speak`no`;
  const [, fold, of] = /^(sum|min|max|count)\((.*)\)$/.exec(text) ?? [];
  if (fold !== undefined && of !== undefined) return `${folds()[fold] ?? fold} ${of}`;
  return /^(?:date|time|date and time|duration)\("(.*)"\)$/.exec(text)?.[1] ?? text;
}
