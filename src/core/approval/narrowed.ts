import { holdsWords } from '../kernel/folded';
import type { Due } from './due';
import type { Unusual } from './unusual';

/** What a list of what waits is narrowed to. */
export interface Narrowing {
  /** Words that each must hold somewhere. */
  readonly words: string;
  /** What it is: the title of its form; null for everything. */
  readonly title: string | null;
  readonly only: Only | null;
}

export const onlies = ['late', 'unusual', 'usual'] as const;
export type Only = (typeof onlies)[number];

/** Something that waits, as far as it is narrowed by. */
export interface Waiting {
  readonly title: string;
  readonly number: string | null;
  readonly sender: string;
  readonly senderPlace: string;
  readonly gist: string;
  readonly step: string | null;
  readonly due: Due | null;
  readonly unusual: readonly Unusual[];
}

export const notNarrowed: Narrowing = { words: '', title: null, only: null };

const isOnly: Readonly<Record<Only, (one: Waiting) => boolean>> = {
  late: ({ due }) => due?.late === true,
  unusual: ({ unusual }) => unusual.length > 0,
  usual: ({ unusual }) => unusual.length === 0,
};

const textOf = ({ title, number, sender, senderPlace, gist, step }: Waiting): string =>
  [title, number, sender, senderPlace, gist, step].join(' ');

/** Those of a list that are asked for, in its order. */
export const narrowed = <T extends Waiting>(list: readonly T[], { words, title, only }: Narrowing): T[] =>
  list.filter(
    (one) =>
      (title === null || one.title === title) &&
      (only === null || isOnly[only](one)) &&
      holdsWords(textOf(one), words),
  );

/**
 * How many there are of each form, the most first, and of each kind that may be asked for alone: those with
 * the rest of the narrowing applied.
 */
export function counts(
  list: readonly Waiting[],
  by: Narrowing,
): {
  readonly titles: readonly (readonly [title: string, n: number])[];
  readonly only: Readonly<Record<Only, number>>;
} {
  const titles = new Map<string, number>();
  for (const { title } of narrowed(list, { ...by, title: null }))
    titles.set(title, (titles.get(title) ?? 0) + 1);
  const among = narrowed(list, { ...by, only: null });
  const count = (only: Only): number => among.filter(isOnly[only]).length;
  return {
    titles: [...titles].sort(([a, n], [b, m]) => m - n || a.localeCompare(b)),
    only: { late: count('late'), unusual: count('unusual'), usual: count('usual') },
  };
}
