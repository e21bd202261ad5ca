import { fold } from './cell';
import type { DetectedKind } from './detection';
import type { SheetProfile } from './sheet-profile';

/** A column as the search for keys, groups and relations sees it. */
export interface KeyColumn {
  readonly at: number;
  readonly name: string;
  readonly kind: DetectedKind;
  readonly filled: number;
  readonly distinct: number;
  readonly longest: number;
}

/** Kinds whose values may name a row. */
const TELLING: ReadonlySet<DetectedKind> = new Set(['text', 'whole', 'e-mail', 'phone']);
/** Alone they tell nothing apart for long, but with another column they may. */
const TOGETHER: ReadonlySet<DetectedKind> = new Set([
  'text',
  'whole',
  'choice',
  'date',
  'time',
  'date-time',
  'e-mail',
]);
export const KEY_WORDS =
  /(?:^|[\s_.-])(?:code|id|key|ref|reference|no|nr|number|nummer|num[eé]ro|accession|isbn|ean|sku)(?:$|[\s_.-])|(?<=[a-z])(?:Id|ID|No|Nr)$|#|№/i;
/** Longer texts are descriptions. */
const LONGEST = 80;

export const canTell = (column: KeyColumn): boolean => TELLING.has(column.kind) && column.longest <= LONGEST;

/** Whether that no value comes twice means something: amounts and remarks differ by chance, above all in short sheets. */
export function namesRows({
  kind,
  name,
  at,
  longest,
}: Pick<KeyColumn, 'kind' | 'name' | 'at' | 'longest'>): boolean {
  if (!TELLING.has(kind) || longest > LONGEST || FREE_TEXT.test(name)) return false;
  return kind !== 'whole' || at === 0 || KEY_WORDS.test(name);
}
export const FREE_TEXT = /remark|note|comment|bemerk|notiz|description/i;

/** How likely a column names the rows: what its heading says, then how short it is, then how far to the left it stands. */
export function keyScore({ name, at, kind, longest }: KeyColumn): number {
  return (
    (KEY_WORDS.test(name) ? 100 : /name|title/i.test(name) ? 50 : 0) +
    (kind === 'phone' || kind === 'e-mail' ? -40 : 0) -
    Math.min(longest, 40) / 4 -
    at
  );
}

/** Single columns that tell every row, the likeliest first; where there are none, the smallest sets that do. */
export function keysOf(sheet: SheetProfile, columns: readonly KeyColumn[]): string[][] {
  if (sheet.rows < 2) return [];
  const single = columns.filter(
    (column) => namesRows(column) && column.filled === sheet.rows && column.distinct === sheet.rows,
  );
  if (single.length > 0)
    return [...single].sort((a, b) => keyScore(b) - keyScore(a)).map(({ name }) => [name]);
  const parts = columns
    .filter(
      (column) =>
        TOGETHER.has(column.kind) &&
        column.filled === sheet.rows &&
        column.distinct > 1 &&
        column.distinct < sheet.rows &&
        column.longest <= LONGEST,
    )
    .sort((a, b) => b.distinct - a.distinct)
    .slice(0, 12);
  const pairs = combinations(parts, 2).filter((set) => tellsAll(sheet, set));
  const sets = pairs.length > 0 ? pairs : combinations(parts, 3).filter((set) => tellsAll(sheet, set));
  // Many sets that all hold are chance: the ones furthest to the left are shown.
  return sets
    .sort((a, b) => placeOf(a) - placeOf(b))
    .slice(0, 3)
    .map((set) => [...set].sort((a, b) => a.at - b.at).map(({ name }) => name));
}

const placeOf = (set: readonly KeyColumn[]): number => set.reduce((sum, { at }) => sum + at, 0);

function combinations<T>(list: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return list.flatMap((one, i) => combinations(list.slice(i + 1), size - 1).map((rest) => [one, ...rest]));
}

function tellsAll(sheet: SheetProfile, set: readonly KeyColumn[]): boolean {
  const most = set.reduce((product, { distinct }) => product * distinct, 1);
  if (most < sheet.rows || most > Number.MAX_SAFE_INTEGER) return false;
  const codes = set.map(({ at }) => sheet.codes(at));
  const seen = new Set<number>();
  for (let row = 0; row < (codes[0]?.length ?? 0); row++) {
    const place = codes.reduce((sum, list, i) => sum * (set[i]?.distinct ?? 1) + (list[row] ?? 0), 0);
    if (seen.has(place)) return false;
    seen.add(place);
  }
  return true;
}

/** A heading's words in the singular, without accents: `Beds` and `bed` are one. */
export function stemsOf(heading: string): string[] {
  return heading
    .split(/[^\p{L}\d]+|(?<=\p{Ll})(?=\p{Lu})/u)
    .map((word) => fold(word))
    .filter((word) => word !== '')
    .map(singular);
}

function singular(word: string): string {
  if (word === 'taxa') return 'taxon';
  if (word.length > 4 && word.endsWith('ies')) return `${word.slice(0, -3)}y`;
  if (word.length > 4 && /(ses|xes|ches|shes)$/.test(word)) return word.slice(0, -2);
  return word.length > 3 && word.endsWith('s') && !word.endsWith('ss') ? word.slice(0, -1) : word;
}
