import type { Comparison } from '../expression/tree';
import type { Type } from '../expression/type';
import { speak, spoken } from '../wording/speak';

/** How one side of a condition stands to the other. */
export type PickBy = Comparison | 'filled' | 'empty' | 'one-of' | 'none-of' | 'between' | 'has' | 'has-not';

/** One condition as picking makes it: an answer, how it must stand, and values or other answers. All sides as FEEL text. */
export interface Pick {
  readonly left: string;
  readonly by: PickBy;
  /** None for `filled` and `empty`, two for `between`, one or more for a list, else one. */
  readonly right: readonly string[];
}

/** Several conditions of which all, or any, must hold; a single one is all of itself. */
export interface Picked {
  readonly join: 'all' | 'any';
  readonly picks: readonly Pick[];
  /** Conditions that stand together as one, after the others. Left out, none; in checks there are none. */
  readonly groups?: readonly PickGroup[];
}

export interface PickGroup {
  readonly join: 'all' | 'any' | 'none';
  /** How they are joined when they are not to be none: the other way than what they stand in. */
  readonly within: 'all' | 'any';
  readonly picks: readonly Pick[];
}

const words = spoken(
  (): Readonly<Record<'number' | 'date' | 'list' | 'other', readonly (readonly [PickBy, string])[]>> => ({
    number: [
      ['<=', speak`at most`],
      ['<', speak`less than`],
      ['=', speak`equal to`],
      ['!=', speak`other than`],
      ['>', speak`more than`],
      ['>=', speak`at least`],
      ['between', speak`between`],
    ],
    date: [
      ['<', speak`before`],
      ['<=', speak`on or before`],
      ['=', speak`on`],
      ['!=', speak`not on`],
      ['>=', speak`on or after`],
      ['>', speak`after`],
      ['between', speak`from`],
    ],
    list: [
      ['has', speak`include`],
      ['has-not', speak`not include`],
    ],
    other: [
      ['=', speak`the same as`],
      ['!=', speak`other than`],
      ['<', speak`before, by the alphabet,`],
      ['<=', speak`before, by the alphabet, or the same as`],
      ['>', speak`after, by the alphabet,`],
      ['>=', speak`after, by the alphabet, or the same as`],
      ['between', speak`by the alphabet between`],
    ],
  }),
);
const always = spoken((): readonly (readonly [PickBy, string])[] => [
  ['filled', speak`filled`],
  ['empty', speak`left empty`],
  ['one-of', speak`one of`],
  ['none-of', speak`none of`],
]);
const wordsFor = ({ t }: Type) =>
  words()[
    t === 'number' || t === 'list' ? t : t === 'date' || t === 'date-time' || t === 'time' ? 'date' : 'other'
  ];

/** How a comparison with one other side reads, by what is compared: a day is not "at most" another. */
export function comparisonsFor(type: Type): { by: PickBy; words: string }[] {
  const fit = wordsFor(type).filter(
    ([by]) =>
      by !== 'between' &&
      (type.t !== 'text' && type.t !== 'yes-no' && type.t !== 'record' ? true : by === '=' || by === '!='),
  );
  return [...fit, ...always().slice(0, 2)].map(([by, text]) => ({ by, words: text }));
}

export function pickText({ left, by, right }: Pick): string {
  switch (by) {
    case 'filled':
      return `${left} != null`;
    case 'empty':
      return `${left} = null`;
    case 'one-of':
      return `${left} in (${right.join(', ')})`;
    case 'none-of':
      return `not(${left} in (${right.join(', ')}))`;
    case 'has':
      return `list contains(${left}, ${right.join('')})`;
    case 'has-not':
      return `not(list contains(${left}, ${right.join('')}))`;
    case 'between':
      return `${left} between ${right.join(' and ')}`;
    default:
      return `${left} ${by} ${right.join('')}`;
  }
}

export const pickedText = ({ join, picks, groups = [] }: Picked): string =>
  joined(join, [...picks.map(pickText), ...groups.map(groupText)]);

const joined = (join: 'all' | 'any', texts: readonly string[]): string =>
  texts.join(join === 'all' ? ' and ' : ' or ');

function groupText({ join, picks }: PickGroup): string {
  const texts = picks.map(pickText);
  if (join === 'none') return `not(${joined('any', texts)})`;
  return texts.length === 1 ? joined(join, texts) : `(${joined(join, texts)})`;
}

/** What is said of what a list has in it, by a verb of its own; null for what is said of what something is. */
export const memberWords = (by: PickBy): string | null =>
  by === 'has' ? speak`includes` : by === 'has-not' ? speak`does not include` : null;

/** How a comparison reads between its sides: at most, on or before, one of. */
export const phraseFor = (type: Type, by: PickBy): string =>
  [...wordsFor(type), ...always()].find(([one]) => one === by)?.[1] ?? by;
