import { limits } from '../limits';
import { sourceFault, type SourceFault } from './source';
import { fail, ok, type Result } from '../kernel/result';

/** What an address answered, as rows of texts under the names of their fields. */
export interface ListRows {
  /** The keys that lead to the list; empty when the answer is the list itself. */
  readonly at: readonly string[];
  /** In the order they first come; what lies within another goes by both names: `range.country`. */
  readonly fields: readonly string[];
  readonly rows: readonly ReadonlyMap<string, string>[];
  /** Fields that hold lists in some entries, which cannot be carried over. */
  readonly manyValued: readonly string[];
}

export type Json = Readonly<Record<string, unknown>>;
export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isList = (value: unknown): value is readonly Json[] =>
  Array.isArray(value) && value.length > 0 && value.every(isObject);

/** How deep a list is looked for, and how deep the fields of its entries go. */
const DEPTH = 3;

/**
 * Finds the list in what an address answered: the answer itself, or the longest list of entries within it.
 * `at` says where it was before.
 */
export function listRows(answer: unknown, at: readonly string[] | null): Result<ListRows, SourceFault> {
  const found = at === null ? longestList(answer) : { at, list: inside(answer, at) };
  if (found === undefined || !isList(found.list))
    return fail(sourceFault('no-list', { at: at?.join('.') ?? '' }));
  const fields = new Set<string>();
  const manyValued = new Set<string>();
  const rows = found.list.map((entry) => {
    const row = new Map<string, string>();
    flatten(entry, '', row, manyValued, DEPTH);
    for (const name of row.keys()) if (fields.size < limits.tableColumns) fields.add(name);
    return row;
  });
  return ok({ at: found.at, fields: [...fields], rows, manyValued: [...manyValued] });
}

/** PostgreSQL cannot keep NUL, nor halves of surrogate pairs. */
const keepable = (text: string): string => text.replaceAll('\u0000', '').toWellFormed();

/** The longest list of entries in an answer, or the answer itself. */
export const longestList = (
  answer: unknown,
): { readonly at: readonly string[]; readonly list: readonly Json[] } | undefined =>
  lists(answer, []).sort((a, b) => b.list.length - a.list.length)[0];

function lists(value: unknown, at: readonly string[]): { at: readonly string[]; list: readonly Json[] }[] {
  if (isList(value)) return [{ at, list: value }];
  if (!isObject(value) || at.length >= DEPTH) return [];
  return Object.entries(value).flatMap(([key, inner]) => lists(inner, [...at, key]));
}

const inside = (value: unknown, at: readonly string[]): unknown =>
  at.reduce<unknown>(
    (from, key) => (isObject(from) && Object.hasOwn(from, key) ? from[key] : undefined),
    value,
  );

function flatten(
  entry: Json,
  before: string,
  row: Map<string, string>,
  manyValued: Set<string>,
  depth: number,
): void {
  for (const [key, value] of Object.entries(entry)) {
    const name = before + key;
    if (Array.isArray(value)) manyValued.add(name);
    else if (isObject(value) && depth > 1) flatten(value, `${name}.`, row, manyValued, depth - 1);
    else if (isObject(value)) manyValued.add(name);
    else row.set(name, value === null || value === undefined ? '' : keepable(String(value)));
  }
}
