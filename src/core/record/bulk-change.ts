import type { Issue } from '../kernel/issue';
import type { Values } from './column-value';

/**
 * One column of all records that are found set to a value, or a change of that kind taken back: carried out
 * by a job, some records at a time, while everybody goes on working. What cannot be changed is left as it is
 * and told.
 */
export type BulkWhat =
  | {
      readonly t: 'set';
      readonly find: string;
      readonly where: string;
      readonly column: string;
      readonly value: string | boolean | null;
      /** The value in words, where it is a record that is named. */
      readonly title: string;
    }
  | { readonly t: 'take-back'; readonly of: string; readonly column: string };

export type BulkState = 'running' | 'done' | 'stopped';

export interface BulkProgress {
  /** Records there are to look at, about; those looked at; those changed; those that could not be. */
  readonly of: number;
  readonly looked: number;
  readonly changed: number;
  readonly refused: number;
  /** The first of those, each with the first reason. */
  readonly examples: readonly { readonly number: string; readonly issue: Issue }[];
}

/** What a changed record held, and the version it was left at. */
export interface BulkBack {
  readonly version: number;
  readonly before: Values;
  readonly values: Values;
}

export const MOST_EXAMPLES = 20;

export const begunProgress = (of: number): BulkProgress => ({
  of,
  looked: 0,
  changed: 0,
  refused: 0,
  examples: [],
});

export const furtherOn = (
  before: BulkProgress,
  { looked, changed, refused }: { looked: number; changed: number; refused: BulkProgress['examples'] },
): BulkProgress => ({
  of: Math.max(before.of, before.looked + looked),
  looked: before.looked + looked,
  changed: before.changed + changed,
  refused: before.refused + refused.length,
  examples: [...before.examples, ...refused].slice(0, MOST_EXAMPLES),
});

/**
 * What is tried again once some of a batch were refused: those that no issue names, together; where none is
 * named, or all are, the batch in two halves. A record that is refused by itself is left. `[]` when nothing
 * is left to try.
 */
export function afterRefusal(
  ids: readonly string[],
  issues: readonly Issue[],
): { readonly tried: readonly (readonly string[])[]; readonly left: readonly string[] } {
  if (ids.length === 1) return { tried: [], left: ids };
  const named = new Set(issues.map(({ path }) => path[0]));
  const left = ids.filter((id) => named.has(id));
  if (left.length > 0)
    return { tried: left.length === ids.length ? [] : [ids.filter((id) => !named.has(id))], left };
  const half = Math.ceil(ids.length / 2);
  return { tried: [ids.slice(0, half), ids.slice(half)], left: [] };
}
