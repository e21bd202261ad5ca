import { limits } from '../limits';

/** Words of the expression language, and the columns every designed table has by itself. */
const reserved = new Set([
  'if',
  'then',
  'else',
  'for',
  'in',
  'return',
  'some',
  'every',
  'satisfies',
  'and',
  'or',
  'not',
  'between',
  'instance',
  'of',
  'true',
  'false',
  'null',
  'function',
  'external',
  'item',
  'partial',
  'date',
  'time',
  'duration',
  'today',
  'now',
  'sum',
  'count',
  'min',
  'max',
  'abs',
  'decimal',
  'contains',
  'sender',
  'number',
  'string',
  'list',
  'context',
  'day',
  'days',
  'month',
  'year',
  'id',
  'created_at',
  'created_by',
  'updated_at',
  'updated_by',
  'version',
  'submission_id',
  'removed_at',
  'parent_id',
  'position',
  'tableoid',
  'xmin',
  'cmin',
  'xmax',
  'cmax',
  'ctid',
]);

const SHAPE = /^[a-z][a-z0-9_]*$/;

export const isReservedKey = (key: string): boolean => reserved.has(key);
/** What stands before the numbers of records. */
export const isPrefix = (prefix: string): boolean => /^[A-Z][A-Z0-9]{0,5}$/.test(prefix);
export const isKey = (key: string): boolean => SHAPE.test(key) && key.length <= limits.key;

/**
 * A key for a label: letters without their accents, small, joined by underscores; never reserved, never one of `taken`.
 * A label that leaves nothing (emoji, another script) gets `fallback` with a number.
 */
export function keyFor(label: string, taken: ReadonlySet<string>, fallback = 'answer'): string {
  const plain = label
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();
  const words = plain
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[_0-9]+|_+$/g, '')
    .slice(0, limits.key - 4)
    .replace(/_+$/, '');
  const base = words === '' ? fallback : words;
  const free = (key: string) => !taken.has(key) && !reserved.has(key);
  if (free(base)) return base;
  for (let i = 2; ; i++) if (free(`${base}_${i}`)) return `${base}_${i}`;
}
